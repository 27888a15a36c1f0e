#include "app/stages/boom/boom_stage.h"

#include "app/look/text.h"
#include "app/stages/boom/boom_view.h"

namespace rm::app {

namespace {

bool isRow(const model::Part* part) {
    return part != nullptr && std::holds_alternative<model::ElementRow>(part->shape);
}

}  // namespace

BoomStage::BoomStage(Session& s) : Stage("boom", s), view_(new BoomView(s)) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
}

QWidget* BoomStage::widget() {
    return view_;
}

std::vector<StageAction> BoomStage::actions() {
    return {{StageAction::Menu::Study, tr("&Elements on the boom"), "Ctrl+5",
             tr("The table of an element row and its boom, drawn to scale"), [this] { open(); }}};
}

/// The selected element row, the one that was here, or the first there is.
void BoomStage::open() {
    const auto& parts = session().design().parts;
    const model::Part* part = session().selectedPart();
    if (!isRow(part)) part = model::find(parts, view_->part());
    for (std::size_t i = 0; !isRow(part) && i < parts.size(); ++i) part = &parts[i];
    if (!isRow(part)) return session().bad(tr("This design has no element row: add one to its parts."));
    view_->choose(part->id);
    Q_EMIT frontRequested();
}

void BoomStage::show(const ResultsPtr& results) {
    view_->setFigures(*results);
}

void BoomStage::setStale(bool stale) {
    view_->setStale(stale);
}

/// Follows the selection from row to row; another part of the antenna is looked at in the yard.
void BoomStage::refresh() {
    const model::Part* part = session().selectedPart();
    if (part != nullptr && !isRow(part)) {
        Q_EMIT closed();
        return;
    }
    if (part != nullptr && part->id != view_->part()) view_->choose(part->id);
    view_->refresh();
}

}  // namespace rm::app
