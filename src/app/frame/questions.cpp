#include "app/frame/questions.h"

#include <QCursor>
#include <QDesktopServices>
#include <QMainWindow>
#include <QMenu>
#include <QMenuBar>
#include <QMessageBox>
#include <QUrl>
#include <algorithm>

#include "app/dialogs/action_finder.h"
#include "app/dialogs/analyser_dialog.h"
#include "app/dialogs/angles_dialog.h"
#include "app/dialogs/bands_dialog.h"
#include "app/dialogs/gallery_dialog.h"
#include "app/dialogs/scale_dialog.h"
#include "app/dialogs/shortcuts_dialog.h"
#include "app/dialogs/sweep_dialog.h"
#include "app/frame/files.h"
#include "app/frame/guide.h"
#include "app/look/text.h"
#include "app/plan/block_choices.h"
#include "app/stages/drives/drive_patterns.h"
#include "core/edit/designs.h"
#include "core/version.h"

namespace rm::app {

const std::vector<PartChoice>& partChoices() {
    using Kind = edit::PartKind;
    static const std::vector<PartChoice> choices = {
        {tr("&Straight wire"), Kind::Wire, "Ctrl+Shift+W"},
        {tr("&Bent wire"), Kind::Bent, "Ctrl+Shift+B"},
        {tr("Regular &loop"), Kind::Loop, "Ctrl+Shift+L"},
        {tr("Inverted &V"), Kind::Vee, "Ctrl+Shift+V"},
        {tr("&Fan of wires"), Kind::Fan, "Ctrl+Shift+F"},
        {tr("&Element row: a Yagi"), Kind::Row, "Ctrl+Shift+U"},
        {tr("Wire &hung between supports"), Kind::Hung, "Shift+W"},
        {tr("Radial s&ystem under the antenna"), Kind::Radials, "Ctrl+Shift+H"},
        {tr("Ground r&od under the antenna"), Kind::Rod, ""},
        {tr("Outside of the feed line: a &cable run"), Kind::Cable, "Shift+C"},
        {tr("Nearby: &mast or tower"), Kind::Mast, ""},
        {tr("Nearby: &guys with insulators"), Kind::Guys, ""},
        {tr("Nearby: mounting &tube"), Kind::Tube, ""},
        {tr("Nearby: g&utter"), Kind::Gutter, ""}};
    return choices;
}

const std::vector<std::pair<QString, model::SupportKind>>& supportChoices() {
    static const std::vector<std::pair<QString, model::SupportKind>> choices = {
        {tr("&Mast"), model::SupportKind::Mast},
        {tr("&Tree"), model::SupportKind::Tree},
        {tr("&Roof edge"), model::SupportKind::RoofEdge},
        {tr("&Wall"), model::SupportKind::Wall},
        {tr("&Peg"), model::SupportKind::Peg}};
    return choices;
}

const std::vector<std::pair<QString, model::CopyKind>>& copyChoices() {
    static const std::vector<std::pair<QString, model::CopyKind>> choices = {
        {tr("&Stack: rows and columns"), model::CopyKind::Stack},
        {tr("In s&teps"), model::CopyKind::Shift},
        {tr("&Round an axis"), model::CopyKind::Rotate},
        {tr("&Mirrored"), model::CopyKind::Mirror}};
    return choices;
}

void Questions::askBands() {
    BandsDialog dialog(session_.project().bands, session_.project().swrLimits, &window_);
    if (dialog.exec() != QDialog::Accepted) return;
    const auto bands = dialog.bands();
    const auto limits = dialog.limits();
    session_.document().edit(tr("Change bands"),
                             [&](model::Project& p) { p = edit::setBands(std::move(p), bands, limits); });
}

void Questions::askAngles() {
    AnglesDialog dialog(session_.project().angles, &window_);
    if (dialog.exec() != QDialog::Accepted) return;
    model::Angles angles = dialog.angles();
    angles.extra = session_.project().angles.extra;
    session_.document().edit(tr("Change angles"), [&](model::Project& p) { p.angles = angles; });
}

void Questions::askScale() {
    ScaleDialog dialog(session_.design(), session_.frequencyHz(), &window_);
    if (dialog.exec() == QDialog::Accepted) editing_.scaleTo(dialog.chosen(), dialog.targetHz());
}

void Questions::askAnalyser() {
    const model::Band band = session_.band();
    // Wide enough to find an antenna that came out too long or too short.
    const double beside = std::max(0.5 * (band.highHz - band.lowHz), 0.03 * band.centreHz());
    AnalyserDialog dialog(band.lowHz - beside, band.highHz + beside, !session_.design().feedPath.empty(),
                          &window_);
    dialog.setObjectName("analyser");
    if (dialog.exec() == QDialog::Accepted)
        editing_.addMeasured(dialog.data(), dialog.atAntenna(), dialog.address());
}

void Questions::askSweep() {
    const model::Band band = session_.band();
    const auto& range = session_.range();
    SweepDialog dialog(range ? range->lowHz : band.lowHz * 0.98, range ? range->highHz : band.highHz * 1.02,
                       range ? range->points : 201, &window_);
    if (dialog.exec() == QDialog::Accepted)
        session_.setRange({dialog.lowHz(), dialog.highHz(), dialog.points()});
}

void Questions::askWhatToAdd(Selection::Type type) {
    auto* menu = new QMenu(&window_);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& text, auto act) {
        QObject::connect(menu->addAction(text), &QAction::triggered, &editing_, act);
    };
    switch (type) {
        case Selection::Type::Part:
            for (const auto& choice : partChoices())
                add(choice.text, [this, kind = choice.kind] { editing_.addPart(kind); });
            break;
        case Selection::Type::Copy:
            for (const auto& [text, kind] : copyChoices())
                add(text, [this, kind = kind] { editing_.addCopy(kind); });
            break;
        case Selection::Type::Support:
            for (const auto& [text, kind] : supportChoices())
                add(text, [this, kind = kind] { editing_.addSupport(kind); });
            break;
        case Selection::Type::Drive:
            fillDrivePatterns(*menu, session_, editing_);
            break;
        case Selection::Type::Block:
            for (const auto& choice : blockChoices())
                add(choice.text, [this, block = choice.block] { editing_.addBlock(block); });
            break;
        case Selection::Type::Load:
            add(tr("Load: coil, capacitor or resistor"), [this] { editing_.addLoad(false); });
            add(tr("Trap"), [this] { editing_.addLoad(true); });
            add(tr("Line between two points"), [this] { editing_.addLine(); });
            break;
        default:
            delete menu;
            if (type == Selection::Type::Measured) return files_.askMeasured();
            if (type == Selection::Type::Dimension) return editing_.addDimension();
            if (type == Selection::Type::Feed) return editing_.addFeed();
            return;
    }
    menu->popup(QCursor::pos());
}

void Questions::askStarter(bool beginning) {
    GalleryDialog::Choices choices;
    choices.bands = session_.project().bands;
    choices.workingBand = session_.band().name;
    choices.site = session_.design().site;
    GalleryDialog dialog(choices, &window_);
    if (beginning) {
        dialog.offer(tr("Your first antenna"), tr("Five steps on the real bench"), "first", [this] {
            if (firstSteps_) firstSteps_();
        });
        dialog.offer(tr("The demo"), tr("Heron Point: ten designs of a made-up club station"), "demo",
                     [this] { files_.openDemo(); });
        dialog.offer(tr("Open a project…"), tr("A file of your own"), "open", [this] { files_.askOpen(); });
        for (const QString& path : Files::recentFiles())
            dialog.offer(path.section('/', -1), path.toHtmlEscaped(), "recent", [this, path] {
                if (files_.mayDiscard()) files_.open(path);
            });
    }
    if (dialog.exec() != QDialog::Accepted || !dialog.made()) return;
    const model::Design design = *dialog.made();
    // What a new project begins with is in the way, where nobody has touched it.
    const Document& document = session_.document();
    const bool untouched =
        document.path().isEmpty() && !document.modified() && document.project().designs.size() == 1;
    editing_.addDesign(design, dialog.bands(), untouched);
}

void Questions::findAction() {
    std::vector<QAction*> actions;
    for (auto* action : window_.findChildren<QAction*>())
        // Those of the menus; fields have actions of their own.
        for (auto* object : action->associatedObjects())
            if (action->isVisible() && qobject_cast<QMenu*>(object) != nullptr) {
                actions.push_back(action);
                break;
            }
    ActionFinder finder(actions, &window_);
    if (finder.exec() == QDialog::Accepted && finder.chosen() != nullptr) finder.chosen()->trigger();
}

void Questions::showShortcuts() {
    ShortcutsDialog(*static_cast<QMainWindow&>(window_).menuBar(), &window_).exec();
}

void Questions::showGuide() {
    const QString guide = guidePath();
    if (guide.isEmpty() || !QDesktopServices::openUrl(QUrl::fromLocalFile(guide)))
        session_.bad(guide.isEmpty() ? tr("The guide is not installed with this program.")
                                     : tr("No program here opens %1.").arg(guide));
}

void Questions::showAbout() {
    QMessageBox::about(
        &window_, tr("About Reed Mast"),
        tr("<b>Reed Mast %1</b><p>Antennas at the height where they will hang.</p><p>Free software "
           "under the GNU General Public License, version 3 or later.</p>")
            .arg(kVersion));
}

}  // namespace rm::app
