#include "app/stages/drives/drive_stage.h"

#include <QMenu>
#include <QToolButton>

#include "app/look/text.h"
#include "app/stages/drives/drive_patterns.h"
#include "app/stages/drives/drive_view.h"

namespace rm::app {

DriveStage::DriveStage(Session& s, Editing& editing) : Stage("drives", s), view_(new DriveView) {
    connect(view_, &DriveView::chosen, &editing, &Editing::chooseDriveSet);
    connect(view_, &DriveView::pinRequested, this, [this, &editing](int set) {
        model::Design design = session().design();
        if (set >= static_cast<int>(design.driveSets.size())) return;
        design.driveSet = set;
        editing.pinDesign(set < 0
                              ? tr("every feed")
                              : QString::fromStdString(design.driveSets[static_cast<std::size_t>(set)].name),
                          design);
    });
    auto* patterns = new QMenu(view_);
    fillDrivePatterns(*patterns, s, editing);
    view_->patterns()->setMenu(patterns);
}

QWidget* DriveStage::widget() {
    return view_;
}

std::vector<StageAction> DriveStage::actions() {
    return {{StageAction::Menu::Study, tr("&Drive sets side by side"), "Ctrl+6",
             tr("Gain, takeoff angle, lobes and nulls of every drive set, and one overlay"),
             [this] { Q_EMIT frontRequested(); }}};
}

void DriveStage::show(const ResultsPtr& results) {
    if (results->drives)
        view_->setRows(results->drives, results->design().driveSet, results->project->angles);
}

void DriveStage::setStale(bool stale) {
    view_->setStale(stale);
}

Wants DriveStage::wants() const {
    Wants wants;
    wants.drives = true;
    return wants;
}

}  // namespace rm::app
