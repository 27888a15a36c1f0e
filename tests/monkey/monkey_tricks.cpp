// What the monkey does with mouse and keys, lists, files and designs.
#include "monkey.h"

#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QSlider>
#include <QTest>
#include <QWheelEvent>
#include <set>

#include "app/instruments/instruments.h"
#include "app/instruments/ledger.h"
#include "app/instruments/polar_view.h"
#include "app/plan/item_editor.h"
#include "app/plan/outline.h"
#include "app/plan/plan_panel.h"
#include "app/stages/spacing/spacing_stage.h"
#include "app/stages/tune/tune_stage.h"
#include "core/edit/pins.h"
#include "core/project/project_file.h"

namespace rm::test {

namespace {

const char* const kTexts[] = {
    "",         " ",           "abc",       "-5",          "0",    "1e999",  "1e-306",      "nan",
    "((((((",   "lambda/0",    "10 m",      "12' 3 1/2\"", "7,5",  "0.3",    "lambda/4",    "h+",
    "2*leg",    "5 deg",       "14.2 MHz",  "49:1",        "1:0",  "3",      "2",           "4",
    "\xc3\xa4", "<b>x</b>",    "reflector", "driven",      "16 m", "0.1 mm", "30 mm",       "100",
    "1 ft",     "-0.4*lambda", "9 m up",    "open",        "1/3",  "50",     "0.25*lambda", "sqrt(-1)"};

/// Letter by letter, whatever the letters are.
void typeText(QWidget* typed, const QString& text) {
    const QPointer<QWidget> field = typed;
    for (const QChar letter : text)
        for (const auto type : {QEvent::KeyPress, QEvent::KeyRelease}) {
            QKeyEvent event(type, 0, Qt::NoModifier, type == QEvent::KeyPress ? QString(letter) : QString());
            if (field) QApplication::sendEvent(field, &event);
        }
}

}  // namespace

QString Monkey::nonsense() {
    if (chance(30)) return QString("%1 m").arg(pick(3000) / 100.0);
    if (chance(10)) return QString(QChar(33 + pick(90))).repeated(1 + pick(5));
    return QString::fromUtf8(kTexts[pick(static_cast<int>(std::size(kTexts)))]);
}

void Monkey::triggerAction() {
    std::vector<QAction*> actions;
    for (QAction* action : bench_.findChildren<QAction*>())
        if (action->isEnabled() && !action->isSeparator() && action->menu() == nullptr &&
            !action->text().isEmpty() && action->associatedObjects().size() > 0)
            actions.push_back(action);
    if (actions.empty()) return;
    QAction* action = oneOf(actions);
    note("trigger " + action->text());
    action->trigger();
}

void Monkey::openStage() {
    const auto& stages = bench_.stages();
    app::Stage* stage = stages[static_cast<std::size_t>(pick(static_cast<int>(stages.size())))].get();
    const auto actions = stage->actions();
    if (actions.empty()) return;
    const auto which = static_cast<std::size_t>(pick(static_cast<int>(actions.size())));
    note(QString("open stage %1 %2").arg(stage->name()).arg(which));
    bench_.openStage(stage->name(), which);
}

QWidget* Monkey::anyWidget(QPoint& at) {
    const QPoint where(pick(bench_.width()), pick(bench_.height()));
    QWidget* widget = bench_.childAt(where);
    if (widget == nullptr) widget = &bench_;
    at = widget->mapFrom(&bench_, where);
    return widget;
}

void Monkey::clickSomewhere() {
    QPoint at;
    QWidget* widget = anyWidget(at);
    note(QString("click %1 %2 at %3,%4")
             .arg(widget->metaObject()->className(), widget->objectName())
             .arg(at.x())
             .arg(at.y()));
    if (chance(15))
        QTest::mouseDClick(widget, Qt::LeftButton, chance(10) ? Qt::ShiftModifier : Qt::NoModifier, at);
    else
        QTest::mouseClick(widget, Qt::LeftButton, chance(10) ? Qt::ControlModifier : Qt::NoModifier, at);
}

void Monkey::clickRight() {
    QPoint at;
    QWidget* widget = anyWidget(at);
    note(QString("right click %1").arg(widget->metaObject()->className()));
    QContextMenuEvent event(QContextMenuEvent::Mouse, at, widget->mapToGlobal(at));
    QApplication::sendEvent(widget, &event);
}

void Monkey::dragSomewhere() {
    QPoint from;
    QPointer<QWidget> widget = anyWidget(from);
    note(QString("drag %1 from %2,%3").arg(widget->metaObject()->className()).arg(from.x()).arg(from.y()));
    QTest::mousePress(widget, Qt::LeftButton, {}, from);
    QPoint at = from;
    for (int i = 0; i < 1 + pick(6) && widget; ++i) {
        at += QPoint(pick(61) - 30, pick(61) - 30);
        QMouseEvent move(QEvent::MouseMove, QPointF(at), widget->mapToGlobal(QPointF(at)), Qt::NoButton,
                         Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(widget, &move);
        if (chance(50)) let(0);
    }
    if (widget) QTest::mouseRelease(widget, Qt::LeftButton, {}, at);
}

void Monkey::wheelSomewhere() {
    QPoint at;
    QWidget* widget = anyWidget(at);
    QWheelEvent event(QPointF(at), widget->mapToGlobal(QPointF(at)), {}, {0, chance(50) ? 120 : -120},
                      Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
    const auto before = written(bench_.session().project());
    QApplication::sendEvent(widget, &event);
    require(written(bench_.session().project()) == before || widget->hasFocus(),
            "the wheel changed the project where it had no focus");
}

std::vector<QLineEdit*> Monkey::fields() {
    std::vector<QLineEdit*> list;
    for (QLineEdit* field : bench_.findChildren<QLineEdit*>())
        if (field->isVisible() && field->isEnabled()) list.push_back(field);
    return list;
}

void Monkey::typeInField() {
    auto list = fields();
    if (list.empty()) return;
    QPointer<QLineEdit> field = oneOf(list);
    const QString text = nonsense();
    note(QString("type \"%1\" into %2").arg(text, field->accessibleName() + field->objectName()));
    field->setFocus();
    field->selectAll();
    typeText(field, text);
    if (field) QTest::keyClick(field, chance(70) ? Qt::Key_Return : Qt::Key_Tab);
}

void Monkey::halfType() {
    auto list = fields();
    if (list.empty()) return;
    QLineEdit* field = oneOf(list);
    const QString text = nonsense();
    note(QString("half type \"%1\" into %2").arg(text, field->accessibleName() + field->objectName()));
    field->setFocus();
    if (chance(50)) field->selectAll();
    typeText(field, text);
}

void Monkey::pressKeys() {
    static const std::pair<int, Qt::KeyboardModifiers> keys[] = {{Qt::Key_Tab, Qt::NoModifier},
                                                                 {Qt::Key_Return, Qt::NoModifier},
                                                                 {Qt::Key_Escape, Qt::NoModifier},
                                                                 {Qt::Key_Space, Qt::NoModifier},
                                                                 {Qt::Key_Down, Qt::NoModifier},
                                                                 {Qt::Key_Up, Qt::NoModifier},
                                                                 {Qt::Key_Left, Qt::NoModifier},
                                                                 {Qt::Key_Right, Qt::NoModifier},
                                                                 {Qt::Key_PageDown, Qt::ControlModifier},
                                                                 {Qt::Key_PageUp, Qt::ControlModifier},
                                                                 {Qt::Key_Z, Qt::ControlModifier},
                                                                 {Qt::Key_Y, Qt::ControlModifier},
                                                                 {Qt::Key_D, Qt::ControlModifier},
                                                                 {Qt::Key_7, Qt::ControlModifier},
                                                                 {Qt::Key_P, Qt::NoModifier},
                                                                 {Qt::Key_5, Qt::NoModifier},
                                                                 {Qt::Key_Backspace, Qt::ControlModifier},
                                                                 {Qt::Key_Delete, Qt::NoModifier},
                                                                 {Qt::Key_Plus, Qt::NoModifier},
                                                                 {Qt::Key_X, Qt::NoModifier},
                                                                 {Qt::Key_Backtab, Qt::ShiftModifier}};
    for (int i = 0; i < 1 + pick(6); ++i) {
        QWidget* target = QApplication::focusWidget();
        if (target == nullptr || target->window() != &bench_) target = &bench_;
        const auto& [key, modifiers] = keys[pick(static_cast<int>(std::size(keys)))];
        note(QString("key %1 on %2")
                 .arg(QKeySequence(key | modifiers).toString(), target->metaObject()->className()));
        QTest::keyClick(target, static_cast<Qt::Key>(key), modifiers);
        let(0);
    }
}

void Monkey::chooseFromList() {
    std::vector<QComboBox*> list;
    for (QComboBox* combo : bench_.findChildren<QComboBox*>())
        if (combo->isVisible() && combo->isEnabled() && combo->count() > 0) list.push_back(combo);
    if (list.empty()) return;
    QComboBox* combo = oneOf(list);
    const int index = pick(combo->count());
    note(QString("choose %1 in %2")
             .arg(combo->itemText(index), combo->accessibleName() + combo->objectName()));
    combo->setFocus();
    combo->setCurrentIndex(index);
    Q_EMIT combo->activated(index);
}

void Monkey::slide() {
    std::vector<QSlider*> list;
    for (QSlider* slider : bench_.findChildren<QSlider*>())
        if (slider->isVisible() && slider->isEnabled()) list.push_back(slider);
    if (list.empty()) return;
    QPointer<QSlider> slider = oneOf(list);
    note("slide " + slider->accessibleName());
    slider->setSliderDown(true);
    for (int i = 0; i < 1 + pick(8) && slider; ++i) {
        slider->setValue(slider->minimum() + pick(slider->maximum() - slider->minimum() + 1));
        if (chance(60)) let(pick(8));
    }
    if (slider) slider->setSliderDown(false);
}

void Monkey::undoSome() {
    auto& document = bench_.session().document();
    const int steps = 1 + pick(6);
    const bool back = chance(60);
    note(QString("%1 %2").arg(back ? "undo" : "redo").arg(steps));
    for (int i = 0; i < steps; ++i) back ? document.undo() : document.redo();
}

void Monkey::switchDesign() {
    const auto project = bench_.session().document().share();
    const auto& design =
        project->designs[static_cast<std::size_t>(pick(static_cast<int>(project->designs.size())))];
    note("design " + QString::fromStdString(design.name));
    bench_.session().chooseDesign(design.id);
}

void Monkey::switchBand() {
    bench_.session().chooseBand(pick(static_cast<int>(bench_.session().project().bands.size()) + 1));
}

void Monkey::selectItem() {
    const auto type = static_cast<app::Selection::Type>(pick(13));
    const auto& design = bench_.session().design();
    app::Selection item = edit::itemAt(design, type, static_cast<std::size_t>(pick(5)));
    note(QString("select %1").arg(QString::fromStdString(edit::nameOf(design, item))));
    bench_.session().select(item);
}

void Monkey::growOrShrinkStack() {
    const auto& design = bench_.session().design();
    if (design.copies.empty()) {
        if (design.parts.size() < 6 && chance(40)) bench_.editing().addCopy(model::CopyKind::Stack);
        return;
    }
    const model::Copy& copy =
        design.copies[static_cast<std::size_t>(pick(static_cast<int>(design.copies.size())))];
    bench_.session().select({app::Selection::Type::Copy, copy.id});
    QLineEdit* rows = bench_.plan()->editor()->field(chance(70) ? "Rows" : "Columns");
    if (rows == nullptr) return;
    const QString text = QString::number(1 + pick(3));
    note("rows or columns " + text);
    rows->setFocus();
    rows->selectAll();
    typeText(rows, text);
    QTest::keyClick(rows, Qt::Key_Return);
}

void Monkey::openOrSave() {
    auto& files = bench_.files();
    const QString saved = folder_.filePath("saved.json");
    switch (pick(5)) {
        case 0:
            note("open the demo");
            openDemo();
            break;
        case 1:
            note("save");
            files.save(saved);
            break;
        case 2:
            if (!QFile::exists(saved)) return;
            note("open what was saved");
            require(files.open(saved), "a project that was saved cannot be opened");
            break;
        case 3:
            note("open what is not there");
            files.open(folder_.filePath("nothing.json"));
            break;
        default:
            note("new project");
            bench_.session().document().startNew();
    }
}

}  // namespace rm::test
