#include "app/stages/coupling/coupling_stage.h"

#include "app/look/text.h"
#include "app/stages/coupling/coupling_view.h"

namespace rm::app {

CouplingStage::CouplingStage(Session& s, Editing& editing) : Stage("coupling", s), view_(new CouplingView) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
    connect(view_, &CouplingView::eachAlone, this, [this, &editing](model::IdleKind idle) {
        auto sets = study::driveSetsBy(study::DrivePattern::SingleOnes, *session().expansion(),
                                       session().frequencyHz());
        if (sets.empty())
            return session().bad(tr("Drive sets need two feeds: stack the antenna, or add a feed."));
        const char* const how[] = {later("open"), later("shorted"), "in 50 Ω"};
        for (auto& set : sets) {
            set.idle = idle;
            set.name += say(", others ") + said(how[static_cast<std::size_t>(idle)]);
        }
        editing.addDriveSets(sets);
    });
}

QWidget* CouplingStage::widget() {
    return view_;
}

std::vector<StageAction> CouplingStage::actions() {
    return {{StageAction::Menu::Study, tr("&Coupling between feeds"), "Ctrl+7",
             tr("Impedances and coupling of any two feeds over the band"),
             [this] { Q_EMIT frontRequested(); }}};
}

void CouplingStage::show(const ResultsPtr& results) {
    if (results->sweep || !results->problem.isEmpty()) view_->setResults(*results);
}

void CouplingStage::setStale(bool stale) {
    view_->setEnabled(!stale);
}

}  // namespace rm::app
