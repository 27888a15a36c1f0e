#include "app/stages/tune/tune_view.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/stages/tune/as_built_row.h"
#include "app/stages/tune/history_plot.h"
#include "app/stages/tune/mover_table.h"
#include "app/stages/tune/plan_form.h"
#include "app/stages/tune/plan_words.h"
#include "core/model/expand.h"
#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune_axes.h"
#include "core/study/tuning/tune_control.h"

namespace rm::app {

using namespace rm::model;

namespace {

QToolButton* tool(const QString& label, const QString& name, const QString& tip) {
    auto* b = new QToolButton;
    b->setText(label);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->setFont(textFont(kSmallPt));
    return b;
}

QPushButton* mainButton(const QString& label, const QString& name, const QString& tip) {
    auto* b = new QPushButton(label);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->setProperty("main", true);
    b->setFont(textFont(kTextPt, true));
    return b;
}

QLabel* soft(const QString& label = {}) {
    auto* l = new QLabel(label);
    l->setProperty("soft", true);
    l->setFont(textFont(kSmallPt));
    return l;
}

}  // namespace

TuneView::TuneView(Session& session, QWidget* parent)
    : Themed(parent), session_(session), document_(session.document()) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* top = new QHBoxLayout;
    said_ = soft();
    said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    start_ = mainButton(tr("Tune"), "tuneStart",
                        tr("Move what is ticked until the goals are met; the design stays as it is"));
    pause_ = tool(tr("Pause"), "tunePause", tr("Hold the work where it is"));
    pause_->setCheckable(true);
    stop_ = tool(tr("Stop"), "tuneStop", tr("End here and keep the best so far as the proposal (Escape)"));
    top->addWidget(said_, 1);
    for (QWidget* w : std::initializer_list<QWidget*>{start_, pause_, stop_}) top->addWidget(w);
    column->addLayout(top);

    rows_ = new PlanRows;
    auto* scroll = new QScrollArea;
    scroll->setFocusPolicy(Qt::NoFocus);  // what is in it has it
    scroll->setWidgetResizable(true);
    auto* held = new QWidget;
    auto* heldColumn = new QVBoxLayout(held);
    heldColumn->setContentsMargins(0, 0, 0, 0);
    heldColumn->addWidget(rows_);
    heldColumn->addStretch(1);
    scroll->setWidget(held);
    scroll->setMinimumHeight(2 * PlanRows::kRowHeight);
    held_ = scroll;
    column->addWidget(scroll, 5);
    form_ = new PlanForm(document_);
    form_->hide();
    column->addWidget(form_);
    auto* adders = new QHBoxLayout;
    addGoal_ = tool(tr("Add a goal"), "addGoal", tr("What a good antenna is"));
    addLimit_ = tool(tr("Add a limit"), "addLimit", tr("What must not be exceeded when it is built"));
    for (auto* b : {addGoal_, addLimit_}) {
        b->setPopupMode(QToolButton::InstantPopup);
        b->setMenu(new QMenu(b));
        adders->addWidget(b);
    }
    adders->addStretch(1);
    column->addLayout(adders);
    lower_ = new QStackedWidget;
    lower_->addWidget(planPage());
    lower_->addWidget(proposalPage());
    column->addWidget(lower_, 6);
    fillMenus();

    connect(rows_, &PlanRows::chosen, this, &TuneView::choose);
    connect(rows_, &PlanRows::toggled, this, &TuneView::toggle);
    connect(start_, &QPushButton::clicked, this, &TuneView::startRequested);
    connect(stop_, &QToolButton::clicked, this, &TuneView::stopRequested);
    connect(pause_, &QToolButton::clicked, this, [this](bool on) {
        if (control_) control_->pause(on);
        pause_->setText(on ? tr("Go on") : tr("Pause"));
        tick();
    });
    connect(accept_, &QPushButton::clicked, this, &TuneView::acceptRequested);
    connect(pin_, &QToolButton::clicked, this, &TuneView::pinRequested);
    connect(discard_, &QToolButton::clicked, this, &TuneView::discardRequested);
    connect(goOn_, &QToolButton::clicked, this, &TuneView::goOnRequested);
    connect(round_, &QCheckBox::clicked, this, [this](bool on) { table_->setRounded(on); });
    connect(table_, &ProposalTable::chosenChanged, this, &TuneView::chosenChanged);
    ticker_.setInterval(200);
    connect(&ticker_, &QTimer::timeout, this, &TuneView::tick);
    end();
}

QWidget* TuneView::planPage() {
    auto* page = new QWidget;
    auto* all = new QVBoxLayout(page);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(3);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    all->addLayout(row, 1);
    asBuilt_ = new AsBuiltRow(document_);
    all->addWidget(asBuilt_);
    auto* left = new QVBoxLayout;
    left->setSpacing(3);
    movers_ = new MoverTable(document_);
    left->addWidget(movers_, 1);
    others_ = tool(tr("Let something else move"), "letMove",
                   tr("Makes a dimension of another number: of a load, the feed path, a feed, a part"));
    others_->setPopupMode(QToolButton::InstantPopup);
    othersMenu_ = new QMenu(others_);
    others_->setMenu(othersMenu_);
    connect(othersMenu_, &QMenu::aboutToShow, this, [this] { movers_->fillOthers(othersMenu_); });
    left->addWidget(others_, 0, Qt::AlignLeft);
    row->addLayout(left, 5);
    auto* right = new QVBoxLayout;
    right->setSpacing(3);
    history_ = new HistoryPlot;
    right->addWidget(history_, 1);
    rate_ = soft();
    rate_->setFont(textFont(kTinyPt));
    rate_->setWordWrap(true);
    right->addWidget(rate_);
    auto* limits = new QHBoxLayout;
    limits->setSpacing(4);
    const auto field = [&](const QString& label, const QString& name, const QString& value,
                           const QString& tip) {
        auto* f = new QLineEdit(value);
        f->setObjectName(name);
        f->setAccessibleName(label);
        f->setToolTip(tip);
        f->setFixedWidth(38);
        f->setFont(textFont(kSmallPt));
        limits->addWidget(soft(label));
        limits->addWidget(f);
        return f;
    };
    seconds_ = field(tr("at most, s"), "tuneSeconds", "60", tr("Longest time to work, in seconds"));
    seed_ = field(tr("seed"), "tuneSeed", "1",
                  tr("Another seed starts from other points; the same one finds the same antenna"));
    limits->addStretch(1);
    right->addLayout(limits);
    row->addLayout(right, 2);
    return page;
}

QWidget* TuneView::proposalPage() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(3);
    table_ = new ProposalTable;
    column->addWidget(table_, 1);
    round_ = new QCheckBox(tr("rounded to steps that can be built"));
    round_->setObjectName("rounded");
    round_->setChecked(true);
    round_->setFont(textFont(kSmallPt));
    cost_ = soft();
    cost_->setWordWrap(true);
    cost_->setAccessibleName(tr("What rounding costs"));
    built_ = soft();
    built_->setWordWrap(true);
    built_->setAccessibleName(tr("What building does to it"));
    column->addWidget(round_);
    column->addWidget(cost_);
    column->addWidget(built_);
    for (QLabel** label : {&worse_, &better_}) {
        *label = soft();
        (*label)->setWordWrap(true);
        (*label)->setTextFormat(Qt::PlainText);
        column->addWidget(*label);
    }
    worse_->setAccessibleName(tr("What becomes worse"));
    better_->setAccessibleName(tr("What becomes better"));
    auto* buttons = new QHBoxLayout;
    accept_ = mainButton(tr("Accept"), "proposalAccept",
                         tr("Take the ticked dimensions over into the design, as one step to undo"));
    pin_ = tool(tr("Pin it"), "proposalPin", tr("Keep it among the pins, and the design as it is"));
    goOn_ = tool(tr("Tune on from here"), "proposalGoOn",
                 tr("Start again from the proposal, with other starting points"));
    discard_ = tool(tr("Discard"), "proposalDiscard", tr("Leave the design as it is"));
    buttons->addWidget(accept_);
    for (auto* b : {pin_, goOn_}) buttons->addWidget(b);
    buttons->addStretch(1);
    buttons->addWidget(discard_);
    column->addLayout(buttons);
    return page;
}

void TuneView::fillMenus() {
    for (const auto& traits : study::goalTraits()) {
        const GoalKind kind = traits.kind;
        QString words = text(study::wishOf(study::usualGoal(kind)));
        words[0] = words[0].toUpper();
        connect(addGoal_->menu()->addAction(words), &QAction::triggered, this,
                [this, kind] { addGoalOf(kind); });
    }
    for (const auto kind : {LimitKind::LongestElement, LimitKind::BoomLength, LimitKind::TotalWire,
                            LimitKind::HighestPoint, LimitKind::LowestPoint, LimitKind::KeepApart}) {
        QString words = text(study::nameOf(kind));
        words[0] = words[0].toUpper();
        connect(addLimit_->menu()->addAction(words), &QAction::triggered, this,
                [this, kind] { addLimitOf(kind); });
    }
}

void TuneView::addGoalOf(GoalKind kind) {
    Goal goal = study::usualGoal(kind);
    if (kind == GoalKind::Resonance) goal.from = document_.design().designFrequency;
    document_.editDesign(tr("Add goal"), [&](Design& d) { d.tune.goals.push_back(goal); });
    choose(static_cast<int>(goalCount()) - 1);
}

void TuneView::addLimitOf(LimitKind kind) {
    BuildLimit limit;
    limit.kind = kind;
    // What it is now, so that the number to change is there.
    const ExpansionPtr expansion = session_.expansion();
    const double now = expansion->usable() ? study::builtM(*expansion, kind) : 5.0;
    limit.value =
        study::dimensionText(DimensionKind::Length, now > 1e6 ? 0.3 : std::round(100.0 * now) / 100.0);
    document_.editDesign(tr("Add limit"), [&](Design& d) { d.tune.limits.push_back(limit); });
    choose(static_cast<int>(goalCount() + document_.design().tune.limits.size()) - 1);
}

void TuneView::refresh() {
    movers_->refresh();
    asBuilt_->refresh();
    fillRows();
    choose(rows_->selected());
}

void TuneView::setNow(const PlanState& state) {
    now_ = state;
    fillRows();
}

void TuneView::fillRows() {
    const Design& design = document_.design();
    const auto statesOf = [](const PlanState& state, std::size_t goal) {
        std::vector<study::GoalState> own;
        for (const auto& s : state.goals)
            if (s.goal == goal) own.push_back(s);
        return own;
    };
    std::vector<PlanRow> rows;
    for (std::size_t g = 0; g < design.tune.goals.size(); ++g)
        rows.push_back(goalRow(design.tune.goals[g], statesOf(now_, g),
                               best_ ? statesOf(*best_, g) : std::vector<study::GoalState>{}));
    const auto scope = scopeOf(design);
    for (std::size_t l = 0; l < design.tune.limits.size(); ++l) {
        std::optional<double> limitM;
        try {
            limitM = quantity::evaluate(design.tune.limits[l].value, quantity::Kind::Length, scope);
        } catch (const Error&) {
            // The row says that it cannot be read.
        }
        const auto of = [&](const std::vector<double>& values) {
            return l < values.size() ? std::optional<double>(values[l]) : std::nullopt;
        };
        rows.push_back(limitRow(design.tune.limits[l], limitM, of(now_.builtM),
                                best_ ? of(best_->builtM) : std::nullopt));
    }
    rows_->setRows(std::move(rows));
    held_->setMaximumHeight(rows_->sizeHint().height() + 4);
    said_->setProperty("wrong", !now_.problem.isEmpty());
    worse_->setStyleSheet(QString("color: %1").arg(theme_.clay.name()));
    better_->setStyleSheet(QString("color: %1").arg(theme_.reed.name()));
    said_->setStyleSheet(now_.problem.isEmpty() ? QString() : QString("color: %1").arg(theme_.clay.name()));
    const bool plan = !design.tune.goals.empty();
    said_->setText(!plan                     ? tr("Goals first, then what may move.")
                   : !now_.problem.isEmpty() ? now_.problem
                   : running()               ? tr("The design stays as it is; the best so far lies over it.")
                   : proposal_               ? tr("Nothing has changed yet: this is a proposal.")
                                             : tr("The design stays as it is until you accept a proposal."));
    said_->setToolTip(said_->text());
    const bool moves = std::any_of(design.tune.movers.begin(), design.tune.movers.end(),
                                   [](const Mover& m) { return m.enabled; });
    start_->setEnabled(plan && moves && !running());
    start_->setToolTip(!plan ? tr("Add a goal first")
                       : !moves
                           ? tr("Tick first what may move")
                           : tr("Move what is ticked until the goals are met; the design stays as it is"));
}

void TuneView::choose(int row) {
    rows_->setSelected(row);
    const auto index = static_cast<std::size_t>(std::max(0, row));
    if (row < 0 || index >= goalCount() + document_.design().tune.limits.size())
        form_->hide();
    else if (index < goalCount())
        form_->showGoal(index);
    else
        form_->showLimit(index - goalCount());
}

void TuneView::toggle(int row) {
    const auto index = static_cast<std::size_t>(row);
    const bool goal = index < goalCount();
    document_.editDesign(goal ? tr("Switch goal") : tr("Switch limit"), [&](Design& d) {
        if (goal)
            d.tune.goals.at(index).enabled = !d.tune.goals.at(index).enabled;
        else
            d.tune.limits.at(index - goalCount()).enabled = !d.tune.limits.at(index - goalCount()).enabled;
    });
}

void TuneView::begin(std::shared_ptr<study::TuneControl> control) {
    control_ = std::move(control);
    best_.reset();
    history_->clear();
    began_ = std::chrono::steady_clock::now();
    pause_->setChecked(false);
    pause_->setText(tr("Pause"));
    lower_->setCurrentIndex(0);
    for (QWidget* w : std::initializer_list<QWidget*>{pause_, stop_}) w->show();
    start_->hide();
    ticker_.start();
    tick();
    fillRows();
}

void TuneView::setBest(const study::TuneState& state, const std::vector<double>& builtM) {
    best_ = PlanState{state.goals, builtM, {}};
    history_->add(state.seconds, state.objective);
    movers_->setBest(state.values);
    fillRows();
}

void TuneView::end() {
    ticker_.stop();
    if (control_) tick();
    control_.reset();
    for (QWidget* w : std::initializer_list<QWidget*>{pause_, stop_}) w->hide();
    start_->show();
    fillRows();
}

void TuneView::tick() {
    if (!control_) return;
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began_).count() -
                           control_->pausedSeconds();
    const long evaluations = control_->evaluations;
    history_->setNow(seconds);
    const double rate = seconds > 0.05 ? static_cast<double>(evaluations) / seconds : 0.0;
    rate_->setText(tr("%1 antennas in %2 s, %3 per second%4")
                       .arg(evaluations)
                       .arg(written(seconds, 'f', 1))
                       .arg(written(rate, 'f', 0))
                       .arg(control_->paused() ? tr("; paused") : ""));
    rate_->setToolTip(tr("Each an antenna at one frequency; %1 of them took a field solution")
                          .arg(static_cast<long>(control_->solutions)));
}

void TuneView::setProposal(ProposalPtr proposal) {
    proposal_ = std::move(proposal);
    table_->setProposal(proposal_);
    movers_->setBest({});
    best_.reset();
    lower_->setCurrentIndex(proposal_ ? 1 : 0);
    if (proposal_) {
        cost_->setText(roundingCost(proposal_->result.exact, proposal_->result.rounded));
        cost_->setToolTip(cost_->text());
        const auto& asBuilt = proposal_->result.asBuilt;
        built_->setText(asBuilt ? asBuiltText(*asBuilt, proposal_->result.rounded) : QString());
        built_->setToolTip(built_->text());
        built_->setVisible(asBuilt.has_value());
        start_->setText(tr("Tune again"));
        worse_->clear();
        better_->clear();
    } else {
        start_->setText(tr("Tune"));
    }
    fillRows();
}

void TuneView::setChosen(const PlanState& state) {
    if (!proposal_) return;
    best_ = state;
    worse_->setText(changesText(state.changes, false));
    better_->setText(changesText(state.changes, true));
    worse_->setVisible(!worse_->text().isEmpty());
    better_->setVisible(!better_->text().isEmpty());
    fillRows();
}

QString TuneView::rate() const {
    return rate_->text();
}

QString TuneView::built() const {
    return built_->text();
}

QString TuneView::worse() const {
    return worse_->text();
}

QString TuneView::better() const {
    return better_->text();
}

QString TuneView::cost() const {
    return cost_->text();
}

double TuneView::maxSeconds() const {
    const double seconds = typedNumber(seconds_->text()).value_or(0.0);
    if (!(seconds > 0.0)) throw Error(say("The longest time to tune is a number of seconds, as 60."));
    return seconds;
}

unsigned TuneView::seed() const {
    bool good = false;
    const unsigned seed = seed_->text().toUInt(&good);
    if (!good) throw Error(say("The seed of tuning is a whole number, as 1."));
    return seed;
}

}  // namespace rm::app
