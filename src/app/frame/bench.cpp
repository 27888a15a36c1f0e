#include "app/frame/bench.h"

#include <spdlog/spdlog.h>

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QMenuBar>
#include <QSplitter>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "app/frame/field_keys.h"
#include "app/frame/first_steps.h"
#include "app/frame/menus.h"
#include "app/frame/notice_bar.h"
#include "app/frame/top_bar.h"
#include "app/frame/wheel_guard.h"
#include "app/instruments/band_strip.h"
#include "app/instruments/instruments.h"
#include "app/instruments/ledger.h"
#include "app/look/lengths.h"
#include "app/look/painted_words.h"
#include "app/look/panel.h"
#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/plan/item_editor.h"
#include "app/plan/plan_panel.h"
#include "app/session/memory_keeper.h"
#include "app/stages/spacing/spacing_stage.h"
#include "app/stages/stage_table.h"
#include "core/edit/pins.h"

namespace rm::app {

Bench::Bench(QWidget* parent)
    : QMainWindow(parent),
      editing_(session_),
      files_(session_, editing_, *this),
      questions_(session_, editing_, files_, *this) {
    setObjectName("bench");
    readPaintedViews();
    qApp->installEventFilter(new WheelGuard(this));
    qApp->installEventFilter(new FieldKeys(this));
    setNight(false);
    stages_ = makeStages(session_, editing_);
    layOut();
    buildMenus(*this, questions_);
    questions_.onFirstSteps([this] { beginFirstSteps(); });
    connectStages();
    connectLedger();
    new MemoryKeeper(session_);  // of the session
    connect(&session_, &Session::projectChanged, this, &Bench::refreshProject);
    connect(&session_, &Session::selectionChanged, this, [this] { front_->refresh(); });
    connect(&session_, &Session::resultsChanged, this, &Bench::showResults);
    connect(&session_, &Session::staleChanged, this, &Bench::setStale);
    connect(&session_, &Session::said, this, [this](const Notice& notice) {
        // Good news does not cover what is wrong.
        if (notice.tone == Notice::Tone::Good && notice_->shows(Notice::About::Findings) &&
            model::hasError(session_.expansion()->findings))
            return;
        notice_->show(notice);
    });
    connect(&session_.document(), &Document::fileChanged, this, &Bench::updateTitle);
    connect(session_.document().undoStack(), &QUndoStack::cleanChanged, this, &Bench::updateTitle);
    connect(&session_.document(), &Document::changedOutside, &files_, &Files::fileChangedOutside);
    connect(&session_.document(), &Document::unkept, this, [this](const QString& why) {
        if (why.isEmpty())
            session_.good(tr("Unsaved work is kept again."));
        else
            session_.alarm(tr("Unsaved work cannot be kept at the moment, save it: ") + why);
    });
    resize(1280, 768);
    showStage("shape");
    // The first Tab begins with the first thing; until then the keyboard is nowhere.
    setFocus();
    refreshProject();
}

Bench::~Bench() = default;

void Bench::layOut() {
    auto* centre = new QWidget;
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(12, 4, 12, 8);
    column->setSpacing(6);
    strip_ = new BandStrip;
    column->addWidget(strip_);

    plan_ = new PlanPanel(session_, editing_);
    notice_ = new NoticeBar;
    middle_ = new QStackedWidget;
    for (const auto& stage : stages_) middle_->addWidget(stage->widget());
    auto* middle = new QWidget;
    auto* middleColumn = new QVBoxLayout(middle);
    middleColumn->setContentsMargins(0, 0, 0, 0);
    middleColumn->setSpacing(6);
    steps_ = new FirstSteps(session_);
    middleColumn->addWidget(steps_);
    middleColumn->addWidget(notice_);
    middleColumn->addWidget(middle_, 1);
    instruments_ = new Instruments(session_);
    auto* split = new QSplitter(Qt::Horizontal);
    split->setHandleWidth(8);
    split->setChildrenCollapsible(false);
    split->addWidget(panel(plan_));
    split->addWidget(middle);
    split->addWidget(instruments_);
    split->setStretchFactor(1, 1);
    split->setSizes({306, 530, 404});
    column->addWidget(split, 1);

    ledger_ = new Ledger;
    ledger_->setFixedHeight(ledger_->wantedHeight());
    auto* bottom = new QWidget;
    auto* bottomColumn = new QVBoxLayout(bottom);
    bottomColumn->setContentsMargins(8, 3, 8, 3);
    bottomColumn->addWidget(ledger_);
    bottom->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    column->addWidget(panel(bottom));
    setCentralWidget(centre);

    top_ = new TopBar(session_);
    menuBar()->setCornerWidget(top_, Qt::TopRightCorner);
    connect(top_, &TopBar::stopRequested, this, &Bench::stop);
    connect(strip_, &BandStrip::bandChosen, &session_, &Session::chooseBand);
    connect(&session_, &Session::clearChanged, this, [this] { strip_->setClear(session_.clear()); });
    connect(strip_, &BandStrip::editBands, this, [this] { questions_.askBands(); });
    connect(plan_, &PlanPanel::addRequested, this,
            [this](Selection::Type type) { questions_.askWhatToAdd(type); });
    connect(instruments_, &Instruments::enlargeRequested, this, [this] { openStage("band"); });
    connect(instruments_, &Instruments::painted, this, [this](const ResultsPtr& results) {
        if (results->generation == painted_) return;
        painted_ = results->generation;
        latencyMs_ = session_.document().sinceEditMs();
        top_->setLatency(latencyMs_);
        // When the rest of the window is painted, too.
        QMetaObject::invokeMethod(
            this, [this, generation = painted_] { session_.painted(generation); }, Qt::QueuedConnection);
        spdlog::debug("edit to picture {:.1f} ms, solution {:.1f} ms", latencyMs_,
                      results->analysis->seconds * 1e3);
    });
}

void Bench::connectStages() {
    for (const auto& owned : stages_) {
        Stage* stage = owned.get();
        connect(stage, &Stage::frontRequested, this, [this, stage] { showStage(stage->name()); });
        connect(stage, &Stage::closed, this, [this] { showStage("shape"); });
        connect(stage, &Stage::otherRequested, this, [this](const QString& name) { openStage(name); });
        connect(stage, &Stage::wantsChanged, this, [this, stage] {
            if (stage == front_) updateWants();
        });
        for (const auto& action : stage->actions())
            if (!action.mode.isEmpty()) top_->addMode(stage->name(), action);
    }
    ItemEditor* editor = plan_->editor();
    connect(editor, &ItemEditor::boomRequested, this, [this] { openStage("boom"); });
    connect(editor, &ItemEditor::drivesRequested, this, [this] { openStage("drives"); });
    connect(&editing_, &Editing::scanRequested, this,
            [this](model::Id copy) { static_cast<SpacingStage*>(stage("spacing"))->scan(copy); });
    connect(&editing_, &Editing::drivesAdded, this, [this] { showStage("drives"); });
    connect(&editing_, &Editing::scaleRequested, this, [this] { questions_.askScale(); });
    // A new element row is worked on at its table; a new block of the feed path in the Match mode, where one
    // is.
    connect(&editing_, &Editing::madeByHand, this, [this, editor](Selection made) {
        const model::Part* part = session_.selectedPart();
        if (part != nullptr && std::holds_alternative<model::ElementRow>(part->shape))
            return openStage("boom");
        if (made.type != Selection::Type::Block || front_->name() != "match") editor->focusFirst();
    });
}

void Bench::connectLedger() {
    const auto pins = [this](const QString& label, auto signal, auto change) {
        connect(ledger_, signal, &editing_, [this, label, change](model::Id pin, auto... more) {
            editing_.editPin(label, pin, [&](model::Project p, model::Id id) {
                return change(std::move(p), id, more...);
            });
        });
    };
    pins(tr("Show or hide pin"), &Ledger::pinToggled, edit::togglePin);
    pins(tr("Choose baseline"), &Ledger::baselineChosen, edit::setBaseline);
    pins(tr("Colour pin"), &Ledger::pinColoured, edit::colourPin);
    pins(tr("Remove pin"), &Ledger::pinRemoved, edit::removePin);
    pins(tr("Move pin"), &Ledger::pinMoved, edit::movePin);
    pins(tr("Restore pin"), &Ledger::pinRestored, edit::restorePin);
    pins(tr("Branch from pin"), &Ledger::pinBranched, edit::branchPin);
    pins(tr("Rename pin"), &Ledger::pinRenamed, [](model::Project p, model::Id id, const QString& name) {
        return edit::renamePin(std::move(p), id, name.toStdString());
    });
    connect(ledger_, &Ledger::baselineCleared, &editing_, [this] {
        session_.document().edit(tr("No baseline"),
                                 [](model::Project& p) { p = edit::setBaseline(std::move(p), 0); });
    });
    // A name that was not taken over is put back.
    connect(&session_.document(), &Document::refused, ledger_, [this] { ledger_->show(session_.results()); });
}

Stage* Bench::stage(const QString& name) const {
    for (const auto& stage : stages_)
        if (stage->name() == name) return stage.get();
    return nullptr;
}

void Bench::showStage(const QString& name) {
    Stage* next = stage(name);
    if (next == nullptr) return;
    if (front_ != next) {
        if (front_ != nullptr) front_->setInFront(false);
        front_ = next;
        front_->setInFront(true);
        middle_->setCurrentWidget(next->widget());
        top_->setFront(name);
        next->refresh();
        // It may have found nothing to show and given way.
        if (front_ != next) return;
        next->setStale(session_.stale());
    }
    next->show(session_.results());
    updateWants();
    steps_->stageShown(name);
}

void Bench::beginFirstSteps() {
    if (!files_.mayDiscard()) return;
    showStage("shape");
    steps_->begin();
}

void Bench::openStage(const QString& name, std::size_t action) {
    Stage* wanted = stage(name);
    if (wanted == nullptr) return;
    const auto actions = wanted->actions();
    if (action < actions.size()) actions[action].act();
}

void Bench::updateWants() {
    session_.setWants(front_->wants());
    session_.restart();
}

void Bench::showFeedPath() {
    const auto& path = session_.design().feedPath;
    if (path.empty()) return questions_.askWhatToAdd(Selection::Type::Block);
    session_.select({Selection::Type::Block, path.front().id});
}

bool Bench::settled() const {
    return session_.settled() && !const_cast<Session&>(session_).task().running() &&
           std::all_of(stages_.begin(), stages_.end(), [](const auto& stage) { return stage->settled(); });
}

void Bench::stop() {
    session_.stop();
    files_.stop();
    for (const auto& stage : stages_) stage->stop();
}

void Bench::setNight(bool night) {
    (night ? Theme::night() : Theme::light()).apply();
    if (auto* action = findChild<QAction*>("dark")) action->setChecked(night);
}

void Bench::refreshProject() {
    const auto& p = session_.project();
    notice_->retire(Notice::About::Step);
    // A stage that matches asks for the match to what the design says now.
    session_.setWants(front_->wants());
    writeInFeet(p.feetAndInches);
    strip_->setProject(p);
    strip_->setAllStale();
    strip_->setCaption(tr("SWR at the %1, to %2 Ω")
                           .arg(p.active().feedPath.empty() ? tr("feed") : tr("radio"),
                                QString::fromStdString(p.active().reference)));
    showFindings();
    updateTitle();
}

void Bench::fitLedger() {
    const int height = ledger_->wantedHeight();
    if (height == ledger_->height()) return;
    ledger_->setFixedHeight(height);
    // From the inside out and at once: no picture shows the rows in a panel of the height before.
    for (auto* around = ledger_->parentWidget(); around != centralWidget(); around = around->parentWidget())
        around->layout()->activate();
    centralWidget()->layout()->activate();
}

void Bench::showResults(const ResultsPtr& results) {
    strip_->show(results);
    instruments_->show(results);
    ledger_->show(results);
    fitLedger();
    front_->show(results);
    if (results->analysis) notice_->retire(Notice::About::Figures);
    if (!results->problem.isEmpty() && !model::hasError(results->expansion->findings)) {
        Notice notice{Notice::Tone::Bad, results->problem};
        notice.about = Notice::About::Figures;
        notice_->show(notice);
    }
}

void Bench::setStale(bool stale) {
    instruments_->setStale(stale);
    ledger_->setStale(stale);
    front_->setStale(stale);
}

void Bench::showFindings() {
    const auto findings = model::findingsAt(*session_.expansion(), session_.frequencyHz());
    if (!findings.empty())
        notice_->show(noticeOf(findings, session_));
    else
        notice_->retire(Notice::About::Findings);
}

void Bench::updateTitle() {
    const Document& document = session_.document();
    const QString file = document.path().isEmpty() ? tr("not saved yet") : document.path().section('/', -1);
    setWindowTitle(
        tr("%1%2 (%3) – Reed Mast")
            .arg(document.modified() ? "• " : "", QString::fromStdString(document.project().title), file));
}

void Bench::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    top_->setRoom(width());
}

void Bench::closeEvent(QCloseEvent* event) {
    if (!files_.mayDiscard()) return event->ignore();
    session_.document().giveUp();
    event->accept();
}

}  // namespace rm::app
