#include "app/stages/tune/trade_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/stages/tune/plan_words.h"
#include "core/quantity/formula.h"

namespace rm::app {

namespace {

QString briefNumber(double value) {
    return written(value, 'g', 4);
}

}  // namespace

TradeView::TradeView(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const auto label = [](const QString& s) {
        auto* l = new QLabel(s);
        l->setFont(textFont(kSmallPt));
        return l;
    };
    const auto field = [&](const QString& name, const QString& says) {
        auto* f = new QLineEdit;
        f->setObjectName(name);
        f->setAccessibleName(says);
        f->setFixedWidth(56);
        f->setFont(textFont(kSmallPt));
        connect(f, &QLineEdit::returnPressed, this, &TradeView::runRequested);
        return f;
    };
    const auto combo = [](const QString& name, const QString& tip) {
        auto* c = new QComboBox;
        c->setObjectName(name);
        c->setToolTip(tip);
        c->setFont(textFont(kSmallPt));
        c->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        return c;
    };
    const auto spin = [](const QString& name, int low, int high, int value) {
        auto* s = new QSpinBox;
        s->setObjectName(name);
        s->setRange(low, high);
        s->setValue(value);
        s->setFont(textFont(kSmallPt));
        s->setButtonSymbols(QAbstractSpinBox::NoButtons);
        s->setFixedWidth(46);
        return s;
    };
    swept_ = combo("tradeSwept", tr("The number that is asked of the antenna, a goal's or a limit's"));
    from_ = field("tradeFrom", tr("From"));
    to_ = field("tradeTo", tr("To"));
    unit_ = label({});
    points_ = spin("tradePoints", 3, 25, 7);
    points_->setToolTip(tr("How many antennas are tuned along the way"));
    seconds_ = spin("tradeSeconds", 5, 3600, 60);
    seconds_->setToolTip(tr("At most so many seconds of work; Escape stops it before"));
    shown_ = combo("tradeShown", tr("What the curve shows, where it is worst"));
    run_ = new QPushButton(tr("Trade"));
    run_->setObjectName("tradeRun");
    run_->setProperty("main", true);
    run_->setFont(textFont(kTextPt, true));
    auto* first = new QHBoxLayout;
    auto* second = new QHBoxLayout;
    for (auto* row : {first, second}) row->setSpacing(5);
    first->addWidget(label(tr("Sweep")));
    first->addWidget(swept_, 1);
    first->addWidget(label(tr("from")));
    first->addWidget(from_);
    first->addWidget(label(tr("to")));
    first->addWidget(to_);
    first->addWidget(unit_);
    first->addWidget(run_);
    second->addWidget(label(tr("and show")));
    second->addWidget(shown_, 1);
    second->addWidget(label(tr("points")));
    second->addWidget(points_);
    second->addWidget(label(tr("at most, s")));
    second->addWidget(seconds_);
    column->addLayout(first);
    column->addLayout(second);
    plot_ = new TradePlot;
    column->addWidget(plot_, 1);
    said_ = label({});
    said_->setObjectName("tradeSaid");
    said_->setWordWrap(true);
    said_->setMinimumHeight(34);
    said_->setAlignment(Qt::AlignTop);
    column->addWidget(said_);
    const auto tool = [](const QString& name, const QString& id, const QString& tip) {
        auto* b = new QToolButton;
        b->setText(name);
        b->setObjectName(id);
        b->setToolTip(tip);
        b->setFont(textFont(kSmallPt));
        return b;
    };
    take_ =
        tool(tr("Take it"), "tradeTake", tr("Its dimensions and what was asked of it, as one step to undo"));
    pin_ = tool(tr("Pin it"), "tradePin", tr("Keep it among the pins, and the design as it is"));
    goOn_ = tool(tr("Tune on from it"), "tradeGoOn", tr("Take it, and tune it with more starting points"));
    auto* last = new QHBoxLayout;
    for (auto* b : {take_, pin_, goOn_}) last->addWidget(b);
    last->addStretch(1);
    column->addLayout(last);

    connect(swept_, &QComboBox::activated, this, &TradeView::fillRange);
    connect(shown_, &QComboBox::activated, this, [this](int i) {
        plot_->setGoal(static_cast<std::size_t>(std::max(0, i)));
        say();
    });
    connect(run_, &QPushButton::clicked, this,
            [this] { running_ ? Q_EMIT stopRequested() : Q_EMIT runRequested(); });
    connect(take_, &QToolButton::clicked, this, &TradeView::takeRequested);
    connect(pin_, &QToolButton::clicked, this, &TradeView::pinRequested);
    connect(goOn_, &QToolButton::clicked, this, &TradeView::goOnRequested);
    connect(plot_, &TradePlot::pointChosen, this, [this](int point) {
        plot_->choose(static_cast<std::size_t>(point));
        say();
    });
    setTrade(nullptr, false);
}

void TradeView::refresh() {
    const auto now = study::tradeChoices(document_.design());
    const auto same = [&] {
        if (now.size() != choices_.size()) return false;
        for (std::size_t i = 0; i < now.size(); ++i)
            if (now[i].words != choices_[i].words || now[i].now != choices_[i].now ||
                now[i].ofLimit != choices_[i].ofLimit || now[i].index != choices_[i].index)
                return false;
        return true;
    };
    if (!same() || swept_->count() == 0) {
        const QString before = swept_->currentText();
        choices_ = now;
        const QSignalBlocker quiet(swept_);
        swept_->clear();
        for (const auto& choice : choices_) swept_->addItem(text(choice.words));
        if (choices_.empty()) swept_->addItem(tr("no goal or limit has a number"));
        swept_->setCurrentIndex(std::max(0, swept_->findText(before)));
        fillRange();
    }
    run_->setEnabled(running_ || !choices_.empty());
    run_->setToolTip(choices_.empty() ? tr("Add a goal with a number, or a limit, on the page of goals")
                                      : "");
    say();
}

void TradeView::fillRange() {
    const auto index = static_cast<std::size_t>(std::max(0, swept_->currentIndex()));
    const bool there = index < choices_.size();
    from_->setEnabled(there);
    to_->setEnabled(there);
    if (!there) return;
    const auto& choice = choices_[index];
    unit_->setText(text(choice.unit));
    // An SWR below one is none.
    const bool swr = choice.unit.empty();
    from_->setText(briefNumber(swr ? 1.0 + 0.4 * (choice.now - 1.0) : 0.7 * choice.now));
    to_->setText(briefNumber(swr ? 1.0 + 2.0 * (choice.now - 1.0) : 1.4 * choice.now));
}

study::TradeAxis TradeView::axis() const {
    const auto index = static_cast<std::size_t>(std::max(0, swept_->currentIndex()));
    if (index >= choices_.size())
        throw Error(
            rm::say("There is nothing to trade: add a goal with a number, or a limit of what is built."));
    const auto& choice = choices_[index];
    const auto& goals = document_.design().tune.goals;
    const auto enabled = std::count_if(goals.begin(), goals.end(), [](const auto& g) { return g.enabled; });
    if (enabled < (choice.ofLimit ? 1 : 2))
        throw Error(
            rm::say("A trade-off shows what one goal costs another: add a second goal, as gain as high as "
                    "possible."));
    study::TradeAxis axis{choice.ofLimit, choice.index, 0.0, 0.0, points_->value()};
    const auto kind = choice.ofLimit ? quantity::Kind::Length : quantity::Kind::Number;
    const auto read = [&](const QLineEdit* field) {
        std::string typed = keptTyped(field->text());
        if (isBareNumber(field->text()) && choice.ofLimit) typed += " m";
        try {
            return quantity::evaluate(typed, kind, {});
        } catch (const Error& e) {
            throw Error(rm::say("The range of the trade-off: {}", e.what()));
        }
    };
    axis.from = read(from_);
    axis.to = read(to_);
    if (!(axis.to > axis.from))
        throw Error(rm::say("The range of the trade-off has to go from a lower to a higher value."));
    return axis;
}

double TradeView::maxSeconds() const {
    return seconds_->value();
}

QString TradeView::across() const {
    for (const auto& choice : choices_)
        if (trade_ && choice.ofLimit == trade_->axis.ofLimit && choice.index == trade_->axis.index)
            return text(choice.words) + (choice.unit.empty() ? QString() : ", " + text(choice.unit));
    return {};
}

void TradeView::setTrade(std::shared_ptr<const study::TradeOff> trade, bool running) {
    trade_ = std::move(trade);
    running_ = running;
    run_->setText(running ? tr("Stop") : tr("Trade"));
    plot_->setTrade(trade_, across());
    fillShown();
    say();
}

void TradeView::setOld(bool old) {
    old_ = old;
    plot_->setOld(old);
    say();
}

/// The goals of the points; first what is wanted as much as possible, for that is what is traded.
void TradeView::fillShown() {
    const study::TradePoint* known = nullptr;
    if (trade_)
        for (const auto& point : trade_->points)
            if (point.solved) known = &point;
    QStringList names;
    int most = 0;
    if (known != nullptr)
        for (const auto& state : known->goals) {
            if (state.most && most == 0) most = static_cast<int>(names.size());
            names << text(state.sentence);
        }
    QStringList before;
    for (int i = 0; i < shown_->count(); ++i) before << shown_->itemText(i);
    // Where a limit is swept its number is part of the sentence: the goals are the same as long as there are
    // as many.
    if (before.size() == names.size()) {
        for (int i = 0; i < names.size(); ++i) shown_->setItemText(i, names[i]);
        return;
    }
    const QSignalBlocker quiet(shown_);
    shown_->clear();
    shown_->addItems(names);
    shown_->setCurrentIndex(names.isEmpty() ? -1 : most);
    plot_->setGoal(static_cast<std::size_t>(most));
}

const study::TradePoint* TradeView::chosenPoint() const {
    if (!trade_ || !plot_->chosen() || *plot_->chosen() >= trade_->points.size()) return nullptr;
    const auto& point = trade_->points[*plot_->chosen()];
    return point.solved ? &point : nullptr;
}

void TradeView::say() {
    const auto* point = chosenPoint();
    for (auto* button : {take_, pin_, goOn_}) button->setEnabled(point != nullptr && !running_);
    if (!trade_) return said_->setText({});
    const QString old = old_ ? tr("Of an older design: trade again.") + "  " : QString();
    if (point == nullptr) {
        const auto found = std::count_if(trade_->points.begin(), trade_->points.end(),
                                         [](const auto& p) { return p.solved; });
        return said_->setText(
            old +
            (running_
                 ? tr("%1 of %2 antennas found so far.").arg(found).arg(trade_->axis.points)
                 : tr("Filled: every goal is met there. Click a point to see its antenna%1.")
                       .arg(trade_->stopped ? tr("; stopped before the end, so more may be possible") : "")));
    }
    QStringList figures;
    for (const auto& state : point->goals) {
        QString name = text(state.sentence).section(tr(" at "), 0, 0).section(tr(" as "), 0, 0);
        figures << name + " " + goalValueText(state, state.worst) +
                       (state.met() || point->met() ? "" : tr(" (missed)"));
    }
    said_->setText(old + across().section(',', 0, 0) + " " + briefNumber(point->value) + ": " +
                   figures.join(", ") +
                   (point->met() ? tr(". Every goal is met.") : tr(". Not every goal can be met.")));
}

QString TradeView::said() const {
    return said_->text();
}

}  // namespace rm::app
