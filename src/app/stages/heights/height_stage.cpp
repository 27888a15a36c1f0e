#include "app/stages/heights/height_stage.h"

#include "app/stages/heights/height_view.h"
#include "app/stages/study_basis.h"

namespace rm::app {

HeightStage::HeightStage(Session& s, Editing& editing) : Stage("heights", s), view_(new HeightView) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
    connect(view_, &StudyFrame::againRequested, this, &HeightStage::study);
    connect(view_->plots(), &HeightPlots::heightChosen, this,
            [&editing](double metres) { editing.setHeight(metres); });
    connect(&task_, &Task::failed, &s, &Session::bad);
    connect(&task_, &Task::progress, &s, &Session::progress);
    connect(&task_, &Task::done, &s, [&s] { Q_EMIT s.progress(1.0); });
}

QWidget* HeightStage::widget() {
    return view_;
}

std::vector<StageAction> HeightStage::actions() {
    return {{StageAction::Menu::Study, "&Height study", "Ctrl+H",
             "Impedance, takeoff angle and gain from near the ground to two wavelengths",
             [this] { study(); }}};
}

void HeightStage::study() {
    const auto analysis = session().results()->analysis;
    const study::Look look{analysis ? analysis->elevation.fixedAngleDeg : 0.0,
                           session().project().angles.watchDeg};
    task_.start([this, design = session().design(), hz = session().frequencyHz(), look,
                 basis = studyBasis(session(), Varied::Height)](
                    std::stop_token stop, const Task::Progress& progress) -> Task::After {
        const auto heights = std::make_shared<const study::HeightStudy>(
            study::studyHeights(design, hz, look, 120, stop, progress));
        return [this, heights, basis, name = QString::fromStdString(design.name)] {
            if (!heights->complete) return session().caution("The height study was stopped.");
            studied_ = basis;
            view_->setStudy(heights, name);
            Q_EMIT frontRequested();
        };
    });
}

void HeightStage::show(const ResultsPtr&) {
    const ExpansionPtr expansion = session().expansion();
    if (expansion->usable()) view_->plots()->setNow(study::feedHeightM(expansion->model));
    view_->setStale(studyBasis(session(), Varied::Height) != studied_);
}

}  // namespace rm::app
