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

constexpr std::size_t kStepsKept = 80;
constexpr int kStepsToUndo = 120;
constexpr int kSettleMs = 240000;
constexpr int kPatienceMs = 60000;
constexpr std::size_t kMostWiresToWaitFor = 120;

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

const std::vector<Monkey::Trick>& Monkey::tricks() {
    static const std::vector<Trick> list = {{"trigger", 16, &Monkey::triggerAction},
                                            {"stage", 8, &Monkey::openStage},
                                            {"click", 14, &Monkey::clickSomewhere},
                                            {"right click", 2, &Monkey::clickRight},
                                            {"drag", 8, &Monkey::dragSomewhere},
                                            {"wheel", 3, &Monkey::wheelSomewhere},
                                            {"type", 10, &Monkey::typeInField},
                                            {"half type", 6, &Monkey::halfType},
                                            {"keys", 6, &Monkey::pressKeys},
                                            {"list", 5, &Monkey::chooseFromList},
                                            {"slide", 6, &Monkey::slide},
                                            {"undo", 6, &Monkey::undoSome},
                                            {"design", 5, &Monkey::switchDesign},
                                            {"band", 3, &Monkey::switchBand},
                                            {"select", 8, &Monkey::selectItem},
                                            {"stack", 4, &Monkey::growOrShrinkStack},
                                            {"file", 2, &Monkey::openOrSave},
                                            {"work", 3, &Monkey::work},
                                            {"stop", 2, &Monkey::stop},
                                            {"pause", 8, &Monkey::pause},
                                            {"resize", 1, &Monkey::resize},
                                            {"pin", 3, &Monkey::dragPin},
                                            {"hands", 12, &Monkey::useHands},
                                            {"cut", 3, &Monkey::cutElsewhere}};
    return list;
}

Monkey::Monkey(unsigned seed, const QString& demo) : random_(seed), demo_(folder_.filePath("demo.json")) {
    // It saves whatever it finds open: what it opens is a copy.
    require(QFile::copy(demo, demo_) && QFile::setPermissions(demo_, QFile::ReadOwner | QFile::WriteOwner),
            "the demo cannot be copied");
    kept_ = folder_.filePath("kept.json");
    require(QFile::copy(demo, kept_), "the demo cannot be copied");
    bench_.show();
    answering_.setInterval(15);
    QObject::connect(&answering_, &QTimer::timeout, &bench_, [this] { answer(); });
    answering_.start();
    QObject::connect(&bench_.session().document(), &app::Document::adopted, &bench_, [this] { begin(); });
    bench_.files().open(demo_);
}

Monkey::~Monkey() {
    bench_.session().document().undoStack()->setClean();
}

/// As it was first, whatever was saved over it.
void Monkey::openDemo() {
    QFile::remove(demo_);
    QFile::copy(kept_, demo_);
    bench_.files().open(demo_);
}

void Monkey::begin() {
    begun_ = written(bench_.session().project());
    sinceStart_ = 0;
}

/// As a file, less what is only looked at.
std::string Monkey::written(const model::Project& project) const {
    model::Project plain = project;
    plain.activeDesign = 0;
    plain.workingBand = 0;
    return io::textOf(plain);
}

void Monkey::require(bool holds, const std::string& what) const {
    if (!holds) throw std::runtime_error(what);
}

void Monkey::note(const QString& what) {
    steps_.push_back(std::to_string(count_) + ": " + what.toStdString());
    if (steps_.size() > kStepsKept) steps_.erase(steps_.begin());
}

void Monkey::let(int milliseconds) {
    QElapsedTimer clock;
    clock.start();
    do QApplication::processEvents(QEventLoop::AllEvents, 5);
    while (clock.elapsed() < milliseconds);
}

void Monkey::step() {
    ++count_;
    if (++sinceStart_ >= kStepsToUndo) {
        undoToTheStart();
        sinceStart_ = 0;
    } else {
        int all = 0;
        for (const auto& trick : tricks()) all += trick.weight;
        int at = pick(all);
        for (const auto& trick : tricks()) {
            at -= trick.weight;
            if (at >= 0) continue;
            note(trick.name);
            (this->*trick.act)();
            break;
        }
    }
    if (!bench_.isVisible()) bench_.show();
    let(pick(3) == 0 ? pick(60) : 0);
    check();
    if (chance(8)) checkSettled();
}

// ---------------------------------------------------------------------------------------------------------
// Tricks

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

void Monkey::work() {
    auto& tune = static_cast<app::TuneStage&>(*bench_.stage("tune"));
    switch (pick(4)) {
        case 0:
            note("tune");
            bench_.openStage("tune");
            tune.tune();
            break;
        case 1:
            note("accept");
            tune.accept();
            break;
        case 2:
            note("drop");
            tune.drop();
            break;
        default:
            note("scan a stack");
            if (const auto& copies = bench_.session().design().copies; !copies.empty())
                static_cast<app::SpacingStage&>(*bench_.stage("spacing")).scan(copies.front().id);
    }
}

void Monkey::stop() {
    bench_.stop();
}

void Monkey::pause() {
    let(pick(400));
}

void Monkey::resize() {
    bench_.resize(1100 + pick(900), 680 + pick(500));
}

void Monkey::dragPin() {
    auto* ledger = bench_.findChild<app::Ledger*>();
    const model::Id pin = ledger->pinIn(pick(6));
    switch (pick(6)) {
        case 0:
            bench_.editing().pin();
            break;
        case 1:
            Q_EMIT ledger->pinRestored(pin);
            break;
        case 2:
            Q_EMIT ledger->pinBranched(pin);
            break;
        case 3:
            Q_EMIT ledger->pinRemoved(pin);
            break;
        case 4:
            Q_EMIT ledger->baselineChosen(pin);
            break;
        default:
            Q_EMIT ledger->pinMoved(pin, chance(50) ? 1 : -1);
    }
}

void Monkey::cutElsewhere() {
    if (chance(50))
        bench_.session().cutAzimuthAt(chance(30) ? std::nullopt : std::optional<double>(pick(90)));
    else
        bench_.session().cutElevationAt(chance(30) ? std::nullopt : std::optional<double>(pick(360)));
}

void Monkey::undoToTheStart() {
    note("undo to the start and back");
    auto& document = bench_.session().document();
    document.finishMerging();
    // What is half typed is committed by the first undo; it belongs to what is undone.
    document.undo();
    document.redo();
    const std::string end = written(document.project());
    int steps = 0;
    while (document.undoStack()->canUndo()) {
        document.undo();
        ++steps;
    }
    require(written(document.project()) == begun_, "undo to the start does not give the project back");
    for (int i = 0; i < steps; ++i) document.redo();
    require(written(document.project()) == end, "redo to the end does not give the project back");
    if (chance(50)) {
        note("the demo again");
        openDemo();
    }
}

// ---------------------------------------------------------------------------------------------------------

void Monkey::answer() {
    if (auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget())) {
        std::vector<QAction*> actions;
        for (QAction* action : menu->actions())
            if (action->isEnabled() && !action->isSeparator() && action->menu() == nullptr)
                actions.push_back(action);
        QAction* chosen = actions.empty() || chance(50) ? nullptr : oneOf(actions);
        note(chosen == nullptr ? QString("close the menu") : "in the menu: " + chosen->text());
        menu->close();
        // Later: what it opens is answered by this timer, which does not ring while it is being heard.
        if (chosen != nullptr) QTimer::singleShot(0, chosen, &QAction::trigger);
        return;
    }
    if (QWidget* popup = QApplication::activePopupWidget()) {
        popup->close();
        return;
    }
    auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
    if (dialog == nullptr) return;
    if (auto* file = qobject_cast<QFileDialog*>(dialog)) {
        // Nothing outside its own folder is ever written.
        note("no file chosen");
        file->reject();
        return;
    }
    const auto inputs = dialog->findChildren<QLineEdit*>();
    if (!inputs.isEmpty() && chance(60)) {
        QLineEdit* field = inputs[pick(static_cast<int>(inputs.size()))];
        field->setText(nonsense());
        return;
    }
    std::vector<QAbstractButton*> buttons;
    for (QAbstractButton* button : dialog->findChildren<QAbstractButton*>())
        if (button->isVisible() && button->isEnabled()) buttons.push_back(button);
    if (buttons.empty() || chance(25)) {
        note("dialog dismissed");
        dialog->reject();
        return;
    }
    QAbstractButton* button = oneOf(buttons);
    note("in the dialog: " + button->text());
    QTimer::singleShot(0, button, &QAbstractButton::click);
}

void Monkey::check() {
    require(failure_.empty(), "an exception reached the event loop: " + failure_);
    app::Session& session = bench_.session();
    const app::ResultsPtr results = session.results();
    const model::Project& project = session.project();
    require(!project.designs.empty() && project.activeDesign < project.designs.size(),
            "no design is on the bench");
    require(session.selection().type == app::Selection::Type::None ||
                edit::holds(project.active(), session.selection()),
            "something is selected that is not there");
    if (session.live()) {
        require(results->design() == project.active(),
                "the figures are of another design than the one on the bench");
        require(results->expansion == session.expansion(), "the figures are of other wires");
        require(results->analysis->mesh != nullptr &&
                    results->analysis->figures.impedanceOhm.size() == results->expansion->model.feeds.size(),
                "the figures are of another number of feeds");
    }
    if (results->sweep && !results->sweep->points.empty())
        require(results->sweep->points.front().impedanceOhm.size() == results->expansion->model.feeds.size(),
                "the sweep is of another number of feeds");
    // Every item has an id of its own.
    std::set<model::Id> ids;
    for (const auto& design : project.designs) {
        require(design.id != 0 && ids.insert(design.id).second, "two things have one id");
        for (const auto& part : design.parts)
            require(part.id != 0 && ids.insert(part.id).second, "two parts have one id");
        for (const auto& feed : design.feeds)
            require(feed.id != 0 && ids.insert(feed.id).second, "two feeds have one id");
    }
    // The plan has a row for everything and for nothing else.
    for (const auto& part : project.active().parts) {
        const auto* row = bench_.plan()->outline()->row({app::Selection::Type::Part, part.id});
        require(row != nullptr && row->name() == QString::fromStdString(part.name),
                "the plan shows other parts");
    }
}

/// Waits for everything; then nothing may be dimmed, and everything has to say the same.
void Monkey::checkSettled() {
    // What takes minutes is not waited for.
    if (bench_.session().expansion()->model.wires.size() > kMostWiresToWaitFor) {
        note("too large to wait for");
        bench_.session().document().undo();
        return;
    }
    note("settle");
    bench_.stop();
    QElapsedTimer clock;
    clock.start();
    // What was clicked last may still be on its way, and begin something new when all had come to rest.
    const auto atRest = [&] {
        if (!bench_.settled()) return false;
        let(0);
        return bench_.settled();
    };
    bool patient = true;
    while (!atRest() && clock.elapsed() < kSettleMs) {
        let(5);
        // What goes on with new figures may take long, too: nobody waits for minutes, but presses Stop again.
        if (patient && clock.elapsed() > kPatienceMs) {
            patient = false;
            note("stop again");
            bench_.stop();
        }
    }
    std::string busy;
    if (!bench_.session().settled()) busy += " the results";
    if (bench_.session().task().running()) busy += " the task of the bench";
    for (const auto& stage : bench_.stages())
        if (!stage->settled()) busy += " the stage " + stage->name().toStdString();
    require(bench_.settled(), "it does not settle:" + busy);
    check();
    app::Session& session = bench_.session();
    if (!session.live()) {
        require(!session.results()->problem.isEmpty(), "no figures, and no reason");
        return;
    }
    require(!bench_.instruments()->elevation()->isStale(), "fresh figures are dimmed");
    const auto* ledger = bench_.findChild<app::Ledger*>();
    require(ledger->figure("design") == "live: " + QString::fromStdString(session.design().name),
            "the ledger speaks of another design");
    const auto* designs = bench_.findChild<QComboBox*>("designs");
    require(designs->currentText() == QString::fromStdString(session.design().name),
            "the list of designs shows another one");
    require(ledger->rowCount() == 1 + static_cast<int>(session.results()->project->pins.size()),
            "the ledger has other pins");
}

}  // namespace rm::test
