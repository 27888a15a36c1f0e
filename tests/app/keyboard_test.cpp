// The keyboard alone reaches all that the mouse can press, in the window and in every dialog, and one sees
// where it is.
#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAbstractSlider>
#include <QDialog>
#include <QScrollBar>
#include <QTabBar>
#include <QTextEdit>
#include <QToolButton>
#include <set>

#include "app/dialogs/action_finder.h"
#include "app/dialogs/analyser_dialog.h"
#include "app/dialogs/angles_dialog.h"
#include "app/dialogs/bands_dialog.h"
#include "app/dialogs/gallery_dialog.h"
#include "app/dialogs/left_work_dialog.h"
#include "app/dialogs/scale_dialog.h"
#include "app/dialogs/sweep_dialog.h"
#include "core/project/project_file.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

std::string called(const QWidget* w) {
    const auto* button = qobject_cast<const QAbstractButton*>(w);
    return (QString(w->metaObject()->className()) + " " + w->objectName() + " " + w->accessibleName() +
            (button != nullptr ? " \"" + button->text() + "\"" : QString()))
        .toStdString();
}

/// Something to press, type into or move that belongs to no larger one.
bool isForHands(const QWidget* w) {
    if (qobject_cast<const QScrollBar*>(w) || qobject_cast<const QTabBar*>(w->parentWidget())) return false;
    // The field in a list of choices or in a number, the cross in a field, the corner of a table.
    for (const QWidget* above = w->parentWidget(); above != nullptr; above = above->parentWidget())
        if (qobject_cast<const QComboBox*>(above) || qobject_cast<const QLineEdit*>(above) ||
            qobject_cast<const QAbstractItemView*>(above) || above->inherits("QAbstractSpinBox"))
            return false;
    // Of round buttons that exclude each other one is on the way, and arrows go to the others.
    const auto* button = qobject_cast<const QAbstractButton*>(w);
    if (button != nullptr && button->autoExclusive() && !button->isChecked()) return false;
    return button != nullptr || w->inherits("QAbstractSpinBox") || qobject_cast<const QLineEdit*>(w) ||
           qobject_cast<const QComboBox*>(w) || qobject_cast<const QAbstractSlider*>(w) ||
           qobject_cast<const QTabBar*>(w) || qobject_cast<const QTextEdit*>(w) ||
           (qobject_cast<const QAbstractItemView*>(w) && w->focusPolicy() != Qt::NoFocus);
}

/// All that has the focus in turn while Tab is pressed, from what has it now.
std::vector<QWidget*> way(QWidget& top) {
    top.activateWindow();
    REQUIRE(waitFor([&] { return QApplication::activeWindow() == &top; }));
    if (QApplication::focusWidget() == nullptr) QTest::keyClick(&top, Qt::Key_Tab);
    std::vector<QWidget*> seen;
    std::set<QWidget*> known;
    int stuck = 0;
    for (int step = 0; step < 600; ++step) {
        QWidget* at = QApplication::focusWidget();
        REQUIRE(at != nullptr);
        if (known.insert(at).second) {
            seen.push_back(at);
            stuck = 0;
        } else if (++stuck > 40) {
            break;
        }
        QTest::keyClick(at, Qt::Key_Tab);
    }
    return seen;
}

/// What is there for hands is on the way; `actions` do by a key or in a menu what a button does.
void checkWay(QWidget& top, const std::string& where, const std::vector<QAction*>& actions = {}) {
    const auto seen = way(top);
    const std::set<QWidget*> known(seen.begin(), seen.end());
    for (const auto* w : top.findChildren<QWidget*>()) {
        if (!w->isVisibleTo(&top) || w->window() != &top || !w->isEnabled() || !isForHands(w)) continue;
        if (known.count(const_cast<QWidget*>(w)) != 0) continue;
        const auto* tool = qobject_cast<const QToolButton*>(w);
        const bool inMenu = tool != nullptr && tool->defaultAction() != nullptr &&
                            std::count(actions.begin(), actions.end(), tool->defaultAction()) > 0;
        if (inMenu) continue;
        UNSCOPED_INFO("the way is " << called(seen.front()) << " ... " << called(seen.back()) << ", "
                                    << seen.size());
        FAIL_CHECK(where << ": Tab does not come to " << called(w));
    }
    // Each looks different while it has the focus.
    for (QWidget* w : seen) {
        if (!w->isVisible()) continue;
        w->setFocus(Qt::TabFocusReason);
        QApplication::processEvents();
        // What is round it may show it, too.
        QWidget* shown = w->parentWidget() != nullptr && w->parentWidget() != &top ? w->parentWidget() : w;
        const QImage with = shown->grab().toImage();
        QWidget* other = w == seen.front() ? seen.back() : seen.front();
        other->setFocus(Qt::TabFocusReason);
        QApplication::processEvents();
        if (w != other && shown->grab().toImage() == with)
            FAIL_CHECK(where << ": one does not see that the focus is on " << called(w));
    }
}

void checkDialog(QDialog& dialog, const std::string& name) {
    dialog.show();
    checkWay(dialog, name);
    dialog.close();
}

}  // namespace

TEST_CASE("Tab comes to all that a dialog has, and shows where it is") {
    app::Theme::light().apply();
    const auto project = io::readProject(kDemo);
    const auto& design = project.designs.front();
    SECTION("scale") {
        app::ScaleDialog dialog(design, 7.1e6);
        checkDialog(dialog, "scale");
    }
    SECTION("sweep") {
        app::SweepDialog dialog(7e6, 7.3e6, 21);
        checkDialog(dialog, "sweep");
    }
    SECTION("bands") {
        app::BandsDialog dialog(project.bands, project.swrLimits);
        checkDialog(dialog, "bands");
    }
    SECTION("angles") {
        app::AnglesDialog dialog(project.angles);
        checkDialog(dialog, "angles");
    }
    SECTION("gallery") {
        app::GalleryDialog::Choices choices;
        choices.bands = project.bands;
        choices.workingBand = project.bands.front().name;
        choices.site = design.site;
        app::GalleryDialog dialog(choices);
        dialog.offer("The demo", "All of it", "demo", [] {});
        checkDialog(dialog, "gallery");
    }
    SECTION("analyser") {
        app::AnalyserDialog dialog(7e6, 7.3e6, true);
        checkDialog(dialog, "analyser");
    }
    SECTION("unsaved work") {
        app::LeftWorkDialog dialog;
        dialog.setWork({io::LeftWork{}, io::LeftWork{}});
        checkDialog(dialog, "unsaved work");
    }
    SECTION("actions") {
        QAction one("One");
        QAction two("Two");
        app::ActionFinder dialog({&one, &two});
        checkDialog(dialog, "actions");
    }
}

TEST_CASE("Tab comes to all that the window has, in every view") {
    Window w;
    w.bench.resize(1366, 768);
    std::vector<QAction*> actions;
    for (auto* action : w.bench.findChildren<QAction*>()) actions.push_back(action);
    for (const auto& stage : w.bench.stages()) {
        w.bench.showStage(stage->name());
        w.settle();
        checkWay(w.bench, stage->name().toStdString(), actions);
    }
}
