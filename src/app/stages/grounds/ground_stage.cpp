#include "app/stages/grounds/ground_stage.h"

#include "app/look/text.h"
#include "app/stages/grounds/ground_view.h"

namespace rm::app {

GroundStage::GroundStage(Session& s) : GroundStage(s, new GroundView) {}

GroundStage::GroundStage(Session& s, GroundView* view) : StudyStage("grounds", s, view), view_(view) {
    connect(view_->rows(), &GroundRows::groundChosen, this, [this](const QString& soil) {
        document().editDesign(tr("Change ground"), [&](model::Design& d) {
            d.site.ground = soil == "perfect" ? model::GroundKind::Perfect : model::GroundKind::Real;
            if (soil != "perfect") d.site.soil = soil.toStdString();
        });
    });
}

std::vector<StageAction> GroundStage::actions() {
    return {{StageAction::Menu::Study, tr("&Ground study"), "Ctrl+Shift+G",
             tr("The same figures over every kind of ground"), [this] { study(); }}};
}

void GroundStage::study() {
    begin(
        tr("Ground study"), Varied::Ground,
        [](const auto& design, double hz, const auto& look, std::stop_token stop, const auto& progress) {
            return study::studyGrounds(design, hz, look, stop, progress);
        },
        [](const study::GroundStudy& grounds) { return !grounds.points.empty(); },
        [this](const study::GroundStudy& grounds, const QString& title) { view_->setStudy(grounds, title); });
}

void GroundStage::show(const ResultsPtr&) {
    const auto& site = session().design().site;
    view_->rows()->setNow(site.ground == model::GroundKind::Real      ? QString::fromStdString(site.soil)
                          : site.ground == model::GroundKind::Perfect ? "perfect"
                                                                      : "");
    view_->setStale(isOld(Varied::Ground));
}

}  // namespace rm::app
