#include "app/stages/chokes/choke_stage.h"

#include <fmt/format.h>

#include "app/look/text.h"
#include "app/stages/chokes/choke_view.h"
#include "core/edit/items.h"

namespace rm::app {

ChokeStage::ChokeStage(Session& s) : ChokeStage(s, new ChokeView) {}

ChokeStage::ChokeStage(Session& s, ChokeView* view) : StudyStage("chokes", s, view), view_(view) {
    connect(view_->plots(), &ChokePlots::placeChosen, this, [this](double alongM) {
        choke(tr("Move the choke"), [alongM](model::Load& load) {
            load.place = {model::PlaceKind::Distance, fmt::format("{:.2f} m", alongM)};
        });
    });
    connect(view_->plots(), &ChokePlots::sizeChosen, this, [this](double ohm) {
        choke(tr("Size the choke"), [ohm](model::Load& load) {
            load.form = model::LoadForm::Series;
            load.resistance = fmt::format("{:.0f}", ohm);
            load.inductance.clear();
            load.capacitance.clear();
        });
    });
}

std::vector<StageAction> ChokeStage::actions() {
    return {{StageAction::Menu::Study, tr("Choke on the ca&ble run"), "Ctrl+Alt+C",
             tr("Where on the cable a choke does most, and how much of it is enough"), [this] { study(); }}};
}

void ChokeStage::study() {
    using StudyPtr = std::shared_ptr<const study::ChokeStudy>;
    begin(
        tr("Choke study"), Varied::Nothing,
        [radioW = session().project().powerW](const auto& design, double hz, const auto&,
                                              std::stop_token stop, const auto& progress) {
            return std::make_shared<const study::ChokeStudy>(
                study::studyChoke(design, hz, radioW, stop, progress));
        },
        [](const StudyPtr& chokes) { return chokes->complete; },
        [this](const StudyPtr& chokes, const QString& title) { view_->setStudy(chokes, title); });
}

void ChokeStage::choke(const QString& label, const std::function<void(model::Load&)>& change) {
    const auto* shown = view_->plots()->study();
    if (shown == nullptr) return;
    const auto& loads = session().design().loads;
    const auto own = std::find_if(loads.begin(), loads.end(), [&](const auto& load) {
        return load.name == shown->choke && load.part == shown->run;
    });
    if (own == loads.end() && !shown->choke.empty())
        return session().caution(
            tr("%1 belongs to the feed path: it is moved and sized there.").arg(text(shown->choke)));
    const model::Part* run = nullptr;
    for (const auto& part : session().design().parts)
        if (part.name == shown->run) run = &part;
    if (run == nullptr) return session().bad(tr("%1 is gone.").arg(text(shown->run)));
    document().edit(label, [&, id = run->id](model::Project& p) {
        if (own != loads.end()) {
            for (auto& load : p.designs[p.activeDesign].loads)
                if (load.name == shown->choke && load.part == shown->run) change(load);
            return;
        }
        p = edit::addLoad(std::move(p), false, id).project;
        change(p.designs[p.activeDesign].loads.back());
    });
}

void ChokeStage::show(const ResultsPtr&) {
    view_->setStale(view_->plots()->study() != nullptr && isOld(Varied::Nothing));
}

}  // namespace rm::app
