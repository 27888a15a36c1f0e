#include "app/stages/grounds/ground_stage.h"

#include "app/stages/grounds/ground_view.h"
#include "app/stages/study_basis.h"
#include "core/quantity/format.h"

namespace rm::app {

GroundStage::GroundStage(Session& s) : Stage("grounds", s), view_(new GroundView) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
    connect(view_, &StudyFrame::againRequested, this, &GroundStage::study);
    connect(view_->rows(), &GroundRows::groundChosen, this, [this](const QString& soil) {
        document().editDesign("Change ground", [&](model::Design& d) {
            d.site.ground = soil == "perfect" ? model::GroundKind::Perfect : model::GroundKind::Real;
            if (soil != "perfect") d.site.soil = soil.toStdString();
        });
    });
    connect(&task_, &Task::failed, &s, &Session::bad);
    connect(&task_, &Task::progress, &s, &Session::progress);
    connect(&task_, &Task::done, &s, [&s] { Q_EMIT s.progress(1.0); });
}

QWidget* GroundStage::widget() {
    return view_;
}

std::vector<StageAction> GroundStage::actions() {
    return {{StageAction::Menu::Study, "&Ground study", "Ctrl+Shift+G",
             "The same figures over every kind of ground", [this] { study(); }}};
}

void GroundStage::study() {
    const auto analysis = session().results()->analysis;
    const study::Look look{analysis ? analysis->elevation.fixedAngleDeg : 0.0,
                           session().project().angles.watchDeg};
    task_.start([this, design = session().design(), hz = session().frequencyHz(), look,
                 basis = studyBasis(session(), Varied::Ground)](
                    std::stop_token stop, const Task::Progress& progress) -> Task::After {
        const auto grounds = study::studyGrounds(design, hz, look, stop, progress);
        return [this, grounds, basis, hz, name = QString::fromStdString(design.name)] {
            if (grounds.points.empty()) return session().caution("The ground study was stopped.");
            studied_ = basis;
            view_->setStudy(grounds, QString("Ground study: %1, %2")
                                         .arg(name, QString::fromStdString(quantity::formatFrequency(hz))));
            Q_EMIT frontRequested();
        };
    });
}

void GroundStage::show(const ResultsPtr&) {
    const auto& site = session().design().site;
    view_->rows()->setNow(site.ground == model::GroundKind::Real      ? QString::fromStdString(site.soil)
                          : site.ground == model::GroundKind::Perfect ? "perfect"
                                                                      : "");
    view_->setStale(studyBasis(session(), Varied::Ground) != studied_);
}

}  // namespace rm::app
