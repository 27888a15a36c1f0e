#include "app/stages/drives/drive_patterns.h"

#include <QInputDialog>
#include <QMenu>

#include "app/look/text.h"

namespace rm::app {

void addDrivePattern(Session& session, Editing& editing, study::DrivePattern pattern, double bearingDeg) {
    const ExpansionPtr expansion = session.expansion();
    const auto sets = study::driveSetsBy(pattern, *expansion, session.frequencyHz(), bearingDeg);
    if (sets.empty())
        return session.bad(expansion->model.feeds.size() < 2
                               ? tr("Drive sets need two feeds: stack the antenna, or add a feed.")
                               : tr("The feeds of this design do not lie so: choose another pattern."));
    editing.addDriveSets(sets);
}

void fillDrivePatterns(QMenu& menu, Session& session, Editing& editing) {
    const struct {
        const char* text;
        study::DrivePattern pattern;
    } patterns[] = {{later("All in phase"), study::DrivePattern::AllInPhase},
                    {later("Upper half reversed"), study::DrivePattern::UpperHalfReversed},
                    {later("Left half reversed"), study::DrivePattern::LeftHalfReversed},
                    {later("Each pair"), study::DrivePattern::EachPair},
                    {later("Each one alone"), study::DrivePattern::SingleOnes},
                    {later("Steered to a bearing…"), study::DrivePattern::Steered}};
    for (const auto& p : patterns)
        QObject::connect(
            menu.addAction(tr(p.text)), &QAction::triggered, &menu, [&menu, &session, &editing, p] {
                double bearing = session.expansion()->headingDeg;
                if (p.pattern == study::DrivePattern::Steered) {
                    bool ok = false;
                    bearing =
                        QInputDialog::getDouble(menu.window(), tr("Steer"), tr("Compass bearing, degrees"),
                                                bearing, -360.0, 360.0, 1, &ok);
                    if (!ok) return;
                }
                addDrivePattern(session, editing, p.pattern, bearing);
            });
    QObject::connect(menu.addAction(tr("By hand")), &QAction::triggered, &menu, [&session, &editing] {
        model::DriveSet set;
        set.name = say("Drive set");
        for (const auto& feed : session.expansion()->model.feeds) set.driven.push_back({feed.name});
        editing.addDriveSets({set});
        const auto& sets = session.design().driveSets;
        if (!sets.empty()) session.select({Selection::Type::Drive, sets.back().id});
    });
}

}  // namespace rm::app
