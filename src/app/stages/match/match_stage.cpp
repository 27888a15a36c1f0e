#include "app/stages/match/match_stage.h"

#include <QMenu>

#include "app/look/text.h"
#include "app/plan/block_choices.h"
#include "app/stages/match/match_view.h"

namespace rm::app {

MatchStage::MatchStage(Session& s, Editing& editing) : Stage("match", s), view_(new MatchView(s)) {
    connect(view_, &MatchView::wishChanged, this, &Stage::wantsChanged);
    connect(view_, &MatchView::addRequested, this, [this, &editing](int place, QPoint where) {
        auto* menu = new QMenu(view_);
        menu->setAttribute(Qt::WA_DeleteOnClose);
        for (const auto& choice : blockChoices())
            connect(menu->addAction(choice.text), &QAction::triggered, this,
                    [&editing, block = choice.block, place] { editing.addBlock(block, place); });
        menu->popup(where);
    });
    connect(view_, &MatchView::inserted, this,
            [this](const QString& title) { session().done(tr("Put in: %1.").arg(title)); });
}

QWidget* MatchStage::widget() {
    return view_;
}

std::vector<StageAction> MatchStage::actions() {
    return {{StageAction::Menu::View, tr("&Match"), "Ctrl+2",
             tr("The feed path from the antenna to the radio (Ctrl+2)"),
             [this] {
                 const auto& path = session().design().feedPath;
                 if (session().selection().type != Selection::Type::Block && !path.empty())
                     session().select({Selection::Type::Block, path.front().id});
                 Q_EMIT frontRequested();
             },
             tr("Match")}};
}

void MatchStage::show(const ResultsPtr& results) {
    if (results->path) view_->setResults(results);
}

void MatchStage::setStale(bool stale) {
    view_->setStale(stale);
}

void MatchStage::refresh() {
    view_->select(session().selection());
}

Wants MatchStage::wants() const {
    Wants wants;
    wants.path = view_->wish();
    return wants;
}

}  // namespace rm::app
