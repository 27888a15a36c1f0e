#include "app/stages/currents/current_stage.h"

#include "app/look/text.h"
#include "app/stages/currents/current_view.h"

namespace rm::app {

CurrentStage::CurrentStage(Session& s) : Stage("currents", s), view_(new CurrentView) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
}

QWidget* CurrentStage::widget() {
    return view_;
}

std::vector<StageAction> CurrentStage::actions() {
    return {{StageAction::Menu::Study, tr("C&urrent along a part"), "Ctrl+Shift+J",
             tr("Size and phase along the selected part"), [this] {
                 Q_EMIT frontRequested();
                 if (const model::Part* part = session().selectedPart())
                     view_->choose(QString::fromStdString(part->name));
             }}};
}

void CurrentStage::show(const ResultsPtr& results) {
    if (results->analysis) view_->setResults(results);
}

void CurrentStage::setStale(bool stale) {
    view_->plot()->setEnabled(!stale);
}

}  // namespace rm::app
