#include "app/stages/radials/radial_stage.h"

#include "app/look/text.h"
#include "app/stages/radials/radial_view.h"

namespace rm::app {

RadialStage::RadialStage(Session& s) : RadialStage(s, new RadialView) {}

RadialStage::RadialStage(Session& s, RadialView* view) : StudyStage("radials", s, view), view_(view) {
    connect(view_->plots(), &RadialPlots::radialsChosen, this, [this](int count, double lengthM) {
        const std::string part = study::radialSystemOf(session().design());
        if (part.empty()) return;
        document().editDesign(tr("Change radials"), [&](model::Design& d) {
            d = study::withRadials(std::move(d), part, count, lengthM);
        });
    });
}

std::vector<StageAction> RadialStage::actions() {
    return {{StageAction::Menu::Study, tr("&Radials study"), "",
             tr("Gain, resistance and what goes to the sky against the number of radials, for three lengths"),
             [this] { study(); }}};
}

void RadialStage::study() {
    using StudyPtr = std::shared_ptr<const study::RadialStudy>;
    begin(
        tr("Radials study"), Varied::Radials,
        [](const auto& design, double hz, const auto& look, std::stop_token stop, const auto& progress) {
            return std::make_shared<const study::RadialStudy>(
                study::studyRadials(design, hz, look, stop, progress));
        },
        [](const StudyPtr& radials) { return radials->complete; },
        [this](const StudyPtr& radials, const QString& title) { view_->setStudy(radials, title); });
}

void RadialStage::show(const ResultsPtr&) {
    const auto now = study::radialsOf(session().design());
    view_->plots()->setNow(now ? now->count : 0);
    view_->setStale(isOld(Varied::Radials));
}

}  // namespace rm::app
