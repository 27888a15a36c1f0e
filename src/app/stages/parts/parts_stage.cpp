#include "app/stages/parts/parts_stage.h"

#include "app/look/text.h"
#include "app/stages/parts/parts_view.h"
#include "core/model/without.h"

namespace rm::app {

PartsStage::PartsStage(Session& s, Editing& editing) : PartsStage(s, editing, new PartsView) {}

PartsStage::PartsStage(Session& s, Editing& editing, PartsView* view)
    : StudyStage("parts", s, view), view_(view) {
    connect(view_, &PartsView::pinRequested, this, [this, &editing] {
        model::Design less = session().design();
        QStringList names;
        for (const auto& part : view_->ticked()) {
            less = model::withoutPart(std::move(less), part);
            names << text(part);
        }
        if (names.isEmpty()) return session().bad(tr("Tick the parts that it is to be without."));
        editing.pinDesign(tr("%1 without %2").arg(text(session().design().name), names.join(", ")), less);
    });
}

std::vector<StageAction> PartsStage::actions() {
    return {{StageAction::Menu::Study, tr("What each &part does"), "Ctrl+Alt+P",
             tr("The antenna without its mast, cable, gutter, guys: each alone and all together"),
             [this] { study(); }}};
}

void PartsStage::study() {
    using EffectsPtr = std::shared_ptr<const study::PartEffects>;
    if (study::sparePartsOf(session().design()).empty())
        return session().caution(
            tr("Nothing stands here but what is fed: add a mast, a cable run or a gutter."));
    begin(
        tr("What each part does"), Varied::Nothing,
        [band = session().band()](const auto& design, double hz, const auto&, std::stop_token stop,
                                  const auto& progress) {
            return std::make_shared<const study::PartEffects>(
                study::partEffects(design, study::sparePartsOf(design), band, hz, stop, progress));
        },
        [](const EffectsPtr& effects) { return effects->complete; },
        [this](const EffectsPtr& effects, const QString& title) { view_->setEffects(effects, title); });
}

void PartsStage::show(const ResultsPtr&) {
    view_->setStale(view_->effects() != nullptr && isOld(Varied::Nothing));
}

}  // namespace rm::app
