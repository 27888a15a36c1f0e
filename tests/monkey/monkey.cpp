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
    // There is no loop round this one to come back to.
    QApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
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

void Monkey::rest() {
    note("rest");
    bench_.session().document().undoStack()->setClean();  // nobody asks whether to save
    openDemo();
    bench_.openStage("band");
    checkSettled();
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
