#include "app/stages/radials/radial_stage.h"

#include "app/stages/radials/radial_view.h"
#include "app/stages/study_basis.h"
#include "core/quantity/format.h"

namespace rm::app {

RadialStage::RadialStage(Session& s) : Stage("radials", s), view_(new RadialView) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
    connect(view_, &StudyFrame::againRequested, this, &RadialStage::study);
    connect(view_->plots(), &RadialPlots::radialsChosen, this, [this](int count, double lengthM) {
        const std::string part = study::radialSystemOf(session().design());
        if (part.empty()) return;
        document().editDesign("Change radials", [&](model::Design& d) {
            d = study::withRadials(std::move(d), part, count, lengthM);
        });
    });
    connect(&task_, &Task::failed, &s, &Session::bad);
    connect(&task_, &Task::progress, &s, &Session::progress);
    connect(&task_, &Task::done, &s, [&s] { Q_EMIT s.progress(1.0); });
}

QWidget* RadialStage::widget() {
    return view_;
}

std::vector<StageAction> RadialStage::actions() {
    return {{StageAction::Menu::Study, "&Radials study", "",
             "Gain, resistance and what goes to the sky against the number of radials, for three lengths",
             [this] { study(); }}};
}

void RadialStage::study() {
    const auto analysis = session().results()->analysis;
    const study::Look look{analysis ? analysis->elevation.fixedAngleDeg : 0.0,
                           session().project().angles.watchDeg};
    task_.start([this, design = session().design(), hz = session().frequencyHz(), look,
                 basis = studyBasis(session(), Varied::Radials)](
                    std::stop_token stop, const Task::Progress& progress) -> Task::After {
        const auto radials =
            std::make_shared<const study::RadialStudy>(study::studyRadials(design, hz, look, stop, progress));
        return [this, radials, basis, hz, name = QString::fromStdString(design.name)] {
            if (!radials->complete) return session().caution("The radials study was stopped.");
            studied_ = basis;
            view_->setStudy(radials, QString("Radials study: %1, %2")
                                         .arg(name, QString::fromStdString(quantity::formatFrequency(hz))));
            Q_EMIT frontRequested();
        };
    });
}

void RadialStage::show(const ResultsPtr&) {
    const auto now = study::radialsOf(session().design());
    view_->plots()->setNow(now ? now->count : 0);
    view_->setStale(studyBasis(session(), Varied::Radials) != studied_);
}

}  // namespace rm::app
