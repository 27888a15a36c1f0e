#include "app/stages/match/match_view.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>
#include <algorithm>

#include "app/instruments/smith_chart.h"
#include "app/look/lengths.h"
#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/stages/match/band_losses.h"
#include "app/stages/match/block_handles.h"
#include "app/stages/match/chain_view.h"
#include "app/stages/match/match_rows.h"
#include "core/edit/feet.h"
#include "core/edit/items.h"
#include "core/study/balance.h"

namespace rm::app {

MatchView::MatchView(Session& session, QWidget* parent)
    : Themed(parent), session_(session), document_(session.document()) {
    setObjectName("panel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 6, 8, 6);
    column->setSpacing(3);
    auto* top = new QHBoxLayout;
    auto* title = new QLabel(tr("Feed path"));
    title->setFont(textFont(kTitlePt, true));
    top->addWidget(title);
    top->addStretch(1);
    top->addWidget(softLabel(tr("the radio gives")));
    power_ = numberField("100", tr("Power of the radio in watts, for what is lost on the way"));
    power_->setAccessibleName(tr("Power in W"));
    top->addWidget(power_);
    top->addWidget(softLabel("W"));
    column->addLayout(top);

    chain_ = new ChainView;
    auto* scroll = new QScrollArea;
    scroll->setFocusPolicy(Qt::NoFocus);  // what is in it has it
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFixedHeight(chain_->sizeHint().height() + 4);
    scroll->setWidget(chain_);
    column->addWidget(scroll);
    handles_ = new BlockHandles;
    column->addWidget(handles_);
    losses_ = new BandLosses;
    column->addWidget(losses_);
    balance_ = softLabel({});
    balance_->setObjectName("balance");
    balance_->setWordWrap(true);
    balance_->setToolTip(
        tr("Current at both sides of the feed, for the power of the radio; what they differ by runs down the "
           "outside "
           "of the cable"));
    column->addWidget(balance_);

    auto* bottom = new QHBoxLayout;
    bottom->setSpacing(6);
    smith_ = new SmithChart;
    bottom->addWidget(smith_, 12);
    bottom->addWidget(buildSynthesis(), 10);
    column->addLayout(bottom, 1);

    connect(power_, &QLineEdit::editingFinished, this, [this] {
        const double watts = typedNumber(power_->text()).value_or(0.0);
        if (!(watts > 0.0) || watts == document_.project().powerW) return refresh();
        document_.edit(tr("Change power"), [&](model::Project& p) { p.powerW = watts; });
    });
    connect(chain_, &ChainView::blockChosen, this, &MatchView::choose);
    connect(chain_, &ChainView::blockHovered, this, &MatchView::highlight);
    connect(chain_, &ChainView::blockMoved, this, &MatchView::move);
    connect(chain_, &ChainView::blockToggled, this, [this](int block) {
        const auto item =
            edit::itemAt(document_.design(), Selection::Type::Block, static_cast<std::size_t>(block));
        document_.edit(tr("Switch on or off"),
                       [&](model::Project& p) { p = edit::toggle(std::move(p), item); });
    });
    connect(chain_, &ChainView::removeRequested, this, [this](int block) {
        const auto item =
            edit::itemAt(document_.design(), Selection::Type::Block, static_cast<std::size_t>(block));
        document_.edit(tr("Remove"), [&](model::Project& p) { p = edit::remove(std::move(p), item); });
    });
    connect(chain_, &ChainView::jointChosen, this, [this](int joint) {
        chain_->selectJoint(joint);
        Q_EMIT wishChanged();
    });
    connect(chain_, &ChainView::addRequested, this, [this](int joint, QPoint where) {
        Q_EMIT addRequested(
            static_cast<int>(study::placeInPath(document_.design(), static_cast<std::size_t>(joint))), where);
    });
    connect(smith_, &SmithChart::blockHovered, this, &MatchView::highlight);
    connect(handles_, &BlockHandles::changed, this,
            [this](const model::FeedBlock& block, const QString& what, bool sliding) {
                document_.editDesign(
                    tr("Change ") + what, [&](model::Design& d) { model::at(d.feedPath, block.id) = block; },
                    sliding ? tr("handle %1 %2").arg(block.id).arg(what) : QString());
            });
    connect(handles_, &BlockHandles::slideEnded, this, [this] { document_.finishMerging(); });
    connect(rows_, &MatchRows::optionChosen, this, &MatchView::insertOption);
    connect(rows_, &MatchRows::ratioChosen, this, &MatchView::useRatio);
    refresh();
}

QLineEdit* MatchView::numberField(const QString& value, const QString& tip) {
    auto* field = new QLineEdit(value);
    field->setFont(textFont(kSmallPt));
    field->setToolTip(tip);
    field->setAccessibleName(tip);
    field->setFixedWidth(54);
    field->setAlignment(Qt::AlignRight);
    return field;
}

QWidget* MatchView::buildSynthesis() {
    auto* panel = new QWidget;
    auto* column = new QVBoxLayout(panel);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(3);
    auto* first = new QHBoxLayout;
    first->setSpacing(4);
    where_ = new QLabel(tr("Match"));
    where_->setFont(textFont(kTextPt, true));
    first->addWidget(where_, 1);
    target_ = numberField("", tr("Impedance to match to in ohm; empty: the reference of the design"));
    target_->setAccessibleName(tr("Match to ohm"));
    first->addWidget(target_);
    first->addWidget(softLabel("Ω"));
    column->addLayout(first);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(4);
    grid->setVerticalSpacing(2);
    values_ = new QComboBox;
    values_->addItems({tr("exact values"), tr("12 steps"), tr("24 steps")});
    values_->setToolTip(tr("Coils and capacitors of exactly the value, or of the nearest standard one"));
    values_->setAccessibleName(tr("Values"));
    line_ = new QComboBox;
    for (const auto& type : model::lineTypes()) line_->addItem(text(type.name), text(type.id));
    line_->setToolTip(
        tr("Line for stubs and quarter-wave sections; a stub needs one of the impedance to match to"));
    line_->setAccessibleName(tr("Line of stubs"));
    line_->setMinimumContentsLength(8);
    line_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    coilQ_ = numberField("200", tr("Q of the coils; 0: no loss"));
    capacitorQ_ = numberField("1000", tr("Q of the capacitors; 0: no loss"));
    loadedQ_ = numberField("5", tr("Loaded Q of pi and T networks: higher is narrower"));
    for (QWidget* w : std::initializer_list<QWidget*>{values_, line_}) w->setFont(textFont(kSmallPt));
    for (QLineEdit* f : {coilQ_, capacitorQ_, loadedQ_}) f->setFixedWidth(44);
    grid->addWidget(values_, 0, 0, 1, 2);
    grid->addWidget(line_, 0, 2, 1, 4);
    int at = 0;
    for (const auto& [name, field] :
         {std::pair{tr("Q coil"), coilQ_}, {tr("Q cap"), capacitorQ_}, {"Q π,T", loadedQ_}}) {
        grid->addWidget(softLabel(name), 1, at++);
        grid->addWidget(field, 1, at++);
    }
    column->addLayout(grid);
    rows_ = new MatchRows;
    auto* scroll = new QScrollArea;
    scroll->setFocusPolicy(Qt::NoFocus);  // what is in it has it
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(rows_);
    column->addWidget(scroll, 1);
    for (QLineEdit* field : {target_, coilQ_, capacitorQ_, loadedQ_})
        connect(field, &QLineEdit::editingFinished, this, &MatchView::wishChanged);
    for (QComboBox* combo : {values_, line_})
        connect(combo, &QComboBox::activated, this, &MatchView::wishChanged);
    return panel;
}

void MatchView::themeChanged() {
    showWalk();
}

void MatchView::edit(const QString& label, const std::function<void(model::Design&)>& change,
                     const QString& mergeKey) {
    document_.editDesign(label, change, mergeKey);
}

void MatchView::refresh() {
    const auto& design = document_.design();
    chain_->setPath(design.feedPath);
    power_->setText(written(document_.project().powerW));
    target_->setPlaceholderText(shownTyped(design.reference));
    const auto enabled = static_cast<int>(std::count_if(design.feedPath.begin(), design.feedPath.end(),
                                                        [](const auto& b) { return b.enabled; }));
    const auto block = selectedBlock();
    handles_->setBlock(
        block ? std::optional(design.feedPath[static_cast<std::size_t>(*block)]) : std::nullopt,
        model::scopeOf(design));
    const int joint = chain_->joint();
    where_->setText(joint == enabled ? tr("Match at the radio to")
                    : joint == 0     ? tr("Match at the antenna to")
                                     : tr("Match at joint %1 to").arg(joint));
}

std::optional<int> MatchView::selectedBlock() const {
    const Selection s = session_.selection();
    if (s.type != Selection::Type::Block || !edit::holds(document_.design(), s)) return std::nullopt;
    return static_cast<int>(model::indexOf(document_.design().feedPath, s.id));
}

void MatchView::choose(int block) {
    session_.select(
        edit::itemAt(document_.design(), Selection::Type::Block, static_cast<std::size_t>(block)));
}

void MatchView::select(Selection) {
    refresh();
    chain_->select(selectedBlock());
    smith_->setHighlight(std::nullopt);
}

study::MatchWish MatchView::wish() const {
    study::MatchWish wish;
    wish.joint = static_cast<std::size_t>(std::max(0, chain_->joint()));
    const auto number = [](const QLineEdit* field, double fallback) {
        const double v = typedNumber(field->text()).value_or(-1.0);
        return v >= 0.0 ? v : fallback;
    };
    wish.request.targetOhm = number(target_, typedNumber(target_->placeholderText()).value_or(50.0));
    if (!(wish.request.targetOhm > 0.0)) wish.request.targetOhm = 50.0;
    wish.request.coilQ = number(coilQ_, 200.0);
    wish.request.capacitorQ = number(capacitorQ_, 1000.0);
    wish.request.loadedQ = std::max(0.1, number(loadedQ_, 5.0));
    wish.request.values = static_cast<study::Values>(values_->currentIndex());
    wish.request.line = line_->currentData().toString().toStdString();
    return wish;
}

void MatchView::setResults(const ResultsPtr& results) {
    if (shown_ && shown_->path == results->path) return;
    shown_ = results;
    const auto& p = *results->project;
    chain_->setReport(results->path->now, p.powerW, p.swrLimits);
    smith_->setReference(results->path->now.referenceOhm);
    smith_->setLimits(p.swrLimits);
    losses_->setStudy(results->path, p);
    QStringList balance;
    const double perA = study::rmsAtFullPower(*results->analysis, p.powerW);
    for (const auto& one : study::balanceOf(*results->expansion, *results->analysis))
        if (!one.run.empty()) balance << text(one.sentence(perA));
    for (const auto& heat : study::loadHeat(*results->expansion, *results->analysis, p.powerW))
        if (heat.watts > 0.0005 * p.powerW)
            balance << QString("%1: %2 W.").arg(text(heat.name)).arg(written(heat.watts, 'g', 3));
    balance_->setText(balance.join(" "));
    balance_->setVisible(!balance.isEmpty());
    rows_->setStudy(results->path, p.swrLimits);
    refresh();
    setStale(false);
    showWalk();
}

void MatchView::setStale(bool stale) {
    chain_->setStale(stale);
    smith_->setStale(stale);
    rows_->setStale(stale);
}

/// Index in the feed path of the block that is the given step of the walk.
int MatchView::enabledBlock(int step) const {
    const auto& path = shown_->design().feedPath;
    int seen = 0;
    for (std::size_t b = 0; b < path.size(); ++b)
        if (path[b].enabled && seen++ == step) return static_cast<int>(b);
    return -1;
}

void MatchView::showWalk() {
    if (!shown_) return;
    const study::PathStudy& study = *shown_->path;
    std::vector<SmithTrace> traces;
    std::vector<SmithMark> marks;
    traces.push_back({study.radio.ohm, theme_.copper, 1.3, true, tr("At the radio, over the band"), -1});
    const auto& report = study.now;
    for (std::size_t i = 0; i < report.arcs.size(); ++i) {
        const int block = enabledBlock(static_cast<int>(i));
        if (block < 0) continue;
        const auto& name = shown_->design().feedPath[static_cast<std::size_t>(block)].name;
        traces.push_back({report.arcs[i], theme_.overlay(i), 2.0, false, text(name), block});
    }
    for (std::size_t j = 0; j < report.joints.size(); ++j) {
        const bool ends = j == 0 || j + 1 == report.joints.size();
        marks.push_back({report.joints[j].impedanceOhm,
                         j == 0 ? theme_.sun
                         : ends ? theme_.copper
                                : theme_.ink,
                         j == 0 ? tr("antenna")
                         : ends ? tr("radio")
                                : QString(),
                         ends});
    }
    smith_->setTraces(std::move(traces), std::move(marks));
}

void MatchView::highlight(int block) {
    const auto which = block >= 0 ? std::optional(block) : std::nullopt;
    chain_->setHighlight(which);
    smith_->setHighlight(which);
}

void MatchView::move(int from, int to) {
    edit(tr("Move block"), [&](model::Design& d) {
        auto& path = d.feedPath;
        const model::FeedBlock block = path.at(static_cast<std::size_t>(from));
        path.erase(path.begin() + from);
        path.insert(path.begin() + to, block);
    });
    choose(to);
}

void MatchView::insertOption(const study::MatchOption& option) {
    const auto joint = static_cast<std::size_t>(chain_->joint());
    const std::size_t at = study::placeInPath(document_.design(), joint);
    edit(tr("Insert match"), [&](model::Design& d) {
        auto place = d.feedPath.begin() + static_cast<std::ptrdiff_t>(at);
        for (const auto& block : option.blocks)
            place = std::next(d.feedPath.insert(place, inFeet() ? edit::inFeet(block) : block));
    });
    // What follows is matched behind what was put in.
    chain_->selectJoint(static_cast<int>(joint + option.blocks.size()));
    choose(static_cast<int>(at + option.blocks.size()) - 1);
    Q_EMIT inserted(text(option.title));
}

void MatchView::useRatio(const QString& ratio) {
    const auto& path = document_.design().feedPath;
    const auto found = std::find_if(path.begin(), path.end(), [](const model::FeedBlock& b) {
        return b.enabled && b.kind == model::BlockKind::Transformer;
    });
    const auto at = found == path.end() ? 0 : static_cast<std::size_t>(found - path.begin());
    const bool add = found == path.end();
    edit(tr("Change ratio"), [&](model::Design& d) {
        if (add) d.feedPath.insert(d.feedPath.begin(), model::FeedBlock{});
        d.feedPath.at(at).ratio = ratio.toStdString();
    });
    choose(static_cast<int>(at));
    Q_EMIT inserted(ratio);
}

}  // namespace rm::app
