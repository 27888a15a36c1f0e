#include "app/stages/build/build_stage.h"

#include "app/look/text.h"
#include "app/stages/build/build_view.h"

namespace rm::app {

BuildStage::BuildStage(Session& s) : Stage("build", s), view_(new BuildView(s)) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
}

QWidget* BuildStage::widget() {
    return view_;
}

std::vector<StageAction> BuildStage::actions() {
    return {{StageAction::Menu::View, tr("&Build"), "Ctrl+Shift+5",
             tr("What to cut, and out of which stock (Ctrl+Shift+5)"), [this] { Q_EMIT frontRequested(); },
             tr("Build")}};
}

bool BuildStage::settled() const {
    return view_->settled();
}

void BuildStage::stop() {
    view_->stop();
}

/// A row that is clicked selects its part: that is no reason to fill the table anew.
void BuildStage::refresh() {
    if (shown_ == document().share() && design_ == session().design().id) return;
    shown_ = document().share();
    design_ = session().design().id;
    view_->refresh();
}

}  // namespace rm::app
