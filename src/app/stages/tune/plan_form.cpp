#include "app/stages/tune/plan_form.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/look/typed_number.h"
#include "core/study/tuning/goal_words.h"

namespace rm::app {

using namespace rm::model;

namespace {

constexpr LimitKind kLimitKinds[] = {LimitKind::LongestElement, LimitKind::BoomLength,  LimitKind::TotalWire,
                                     LimitKind::HighestPoint,   LimitKind::LowestPoint, LimitKind::KeepApart};

QString relationWords(const Goal& goal) {
    switch (study::traitsOf(goal.kind).relation) {
        case study::Relation::Between:
            return tr("between");
        case study::Relation::AtLeast:
            return tr("at least");
        case study::Relation::AsWide:
            return tr("below an SWR of");
        default:
            return goal.kind == GoalKind::Impedance ? tr("within") : tr("at most");
    }
}

QString unitWords(const Goal& goal) {
    if (goal.kind == GoalKind::SideLobe || goal.kind == GoalKind::Null) return tr("dB below");
    return goal.kind == GoalKind::Bandwidth ? QString() : text(study::traitsOf(goal.kind).unit);
}

}  // namespace

PlanForm::PlanForm(Document& document, QWidget* parent) : QFrame(parent), document_(document) {
    setObjectName("editor");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(7, 5, 7, 5);
    column->setSpacing(4);
    auto* first = new QHBoxLayout;
    auto* looks = new QHBoxLayout;
    auto* second = new QHBoxLayout;
    for (auto* line : {first, looks, second}) line->setSpacing(5);
    const auto combo = [&](const QString& name, const QString& tip) {
        auto* c = new QComboBox;
        c->setObjectName(name);
        c->setToolTip(tip);
        c->setFont(textFont(kSmallPt));
        return c;
    };
    const auto label = [&] {
        auto* l = new QLabel;
        l->setFont(textFont(kSmallPt));
        return l;
    };
    kind_ = combo("goalKind", tr("What is asked for"));
    relation_ = label();
    limit_ = field("goalLimit", tr("Limit"), 54, &Goal::limit);
    and_ = label();
    and_->setText(tr("and"));
    upper_ = field("goalUpper", tr("At most"), 46, &Goal::upper);
    unit_ = label();
    angleLabel_ = label();
    angleLabel_->setText(tr("at"));
    angle_ = field("goalAngle", tr("Angle"), 60, &Goal::angle);
    angle_->setToolTip(tr("Elevation over the horizon"));
    angleToLabel_ = label();
    angleToLabel_->setText(tr("to"));
    angleTo_ = field("goalAngleTo", tr("To angle"), 60, &Goal::angleTo);
    angleTo_->setToolTip(tr("Up to this elevation"));
    towardsLabel_ = label();
    towardsLabel_->setText(tr("towards"));
    towards_ = field("goalTowards", tr("Towards"), 62, &Goal::towards);
    towards_->setToolTip(tr("front, back, best, or a compass bearing like 45 deg"));
    wanted_ = field("goalWanted", tr("Wanted impedance"), 72, &Goal::wanted);
    wanted_->setToolTip(tr("The impedance at the antenna: 50, or 25 - j10"));
    drives_ = new QToolButton;
    drives_->setObjectName("goalDrives");
    drives_->setToolTip(tr("The drive sets for which it has to hold"));
    drives_->setFont(textFont(kSmallPt));
    drives_->setPopupMode(QToolButton::InstantPopup);
    drivesMenu_ = new QMenu(drives_);
    drives_->setMenu(drivesMenu_);
    where_ = new QToolButton;
    where_->setObjectName("goalWhere");
    where_->setToolTip(tr("The bands, or a range of frequencies, over which it has to hold"));
    where_->setFont(textFont(kSmallPt));
    where_->setPopupMode(QToolButton::InstantPopup);
    whereMenu_ = new QMenu(where_);
    where_->setMenu(whereMenu_);
    from_ = field("goalFrom", tr("From frequency"), 80, &Goal::from);
    dash_ = label();
    dash_->setText(tr("to"));
    to_ = field("goalTo", tr("To frequency"), 80, &Goal::to);
    for (QWidget* w : std::initializer_list<QWidget*>{kind_, wanted_, relation_, limit_, and_, upper_, unit_})
        first->addWidget(w);
    first->addStretch(1);
    for (QWidget* w : std::initializer_list<QWidget*>{from_, dash_, to_, where_}) first->addWidget(w);
    importance_ = combo("goalImportance", tr("How much a miss counts against those of other goals"));
    importance_->addItems({tr("nice to have"), tr("important"), tr("essential")});
    stage_ = combo("goalStage", tr("Goals of a later stage hold what earlier stages have reached"));
    stage_->addItems({tr("stage 1"), tr("stage 2"), tr("stage 3"), tr("stage 4")});
    counted_ = new QCheckBox(tr("as many bands as possible"));
    counted_->setObjectName("goalCounted");
    counted_->setToolTip(tr("Gives up bands that cannot be had, instead of spoiling all of them alike"));
    counted_->setFont(textFont(kSmallPt));
    remove_ = new QToolButton;
    remove_->setText(tr("Remove"));
    remove_->setObjectName("goalRemove");
    remove_->setFont(textFont(kSmallPt));
    for (QWidget* w : std::initializer_list<QWidget*>{importance_, stage_, counted_}) second->addWidget(w);
    second->addStretch(1);
    second->addWidget(remove_);
    for (QWidget* w : std::initializer_list<QWidget*>{angleLabel_, angle_, angleToLabel_, angleTo_,
                                                      towardsLabel_, towards_, drives_})
        looks->addWidget(w);
    looks->addStretch(1);
    column->addLayout(first);
    column->addLayout(looks);
    column->addLayout(second);

    connect(kind_, &QComboBox::activated, this, [this](int i) {
        if (isLimit_) return editLimit([&](BuildLimit& l) { l.kind = kLimitKinds[i]; });
        editGoal(tr("Change goal"), [&](Goal& g) {
            study::changeKind(g, study::goalTraits()[static_cast<std::size_t>(i)].kind);
        });
    });
    connect(importance_, &QComboBox::activated, this, [this](int i) {
        editGoal(tr("Change importance"), [&](Goal& g) { g.importance = static_cast<Importance>(i); });
    });
    connect(stage_, &QComboBox::activated, this,
            [this](int i) { editGoal(tr("Change stage"), [&](Goal& g) { g.stage = i + 1; }); });
    connect(counted_, &QCheckBox::clicked, this,
            [this](bool on) { editGoal(tr("Count bands"), [&](Goal& g) { g.counted = on; }); });
    connect(remove_, &QToolButton::clicked, this, [this] {
        document_.editDesign(isLimit_ ? tr("Remove limit") : tr("Remove goal"), [&](Design& d) {
            if (isLimit_ && index_ < d.tune.limits.size())
                d.tune.limits.erase(d.tune.limits.begin() + static_cast<std::ptrdiff_t>(index_));
            else if (!isLimit_ && index_ < d.tune.goals.size())
                d.tune.goals.erase(d.tune.goals.begin() + static_cast<std::ptrdiff_t>(index_));
        });
    });
}

QLineEdit* PlanForm::field(const QString& name, const QString& says, int width, std::string Goal::*member) {
    auto* f = new QLineEdit;
    f->setObjectName(name);
    f->setAccessibleName(says);
    f->setFixedWidth(width);
    f->setFont(textFont(kSmallPt));
    connect(f, &QLineEdit::editingFinished, this, [this, f, member] {
        if (filling_ || !f->isModified()) return;
        f->setModified(false);
        using quantity::Kind;
        const bool angle = member == &Goal::angle || member == &Goal::angleTo || member == &Goal::towards;
        const Kind kind = isLimit_                                       ? Kind::Length
                          : member == &Goal::from || member == &Goal::to ? Kind::Frequency
                          : angle                                        ? Kind::Angle
                                                                         : Kind::Number;
        const std::string typed = keptTyped(f->text(), kind);
        if (isLimit_) return editLimit([&](BuildLimit& l) { l.value = typed; });
        if (goal() == nullptr || goal()->*member == keptTyped(f->text())) return;
        editGoal(tr("Change goal"), [&](Goal& g) { g.*member = typed; });
    });
    return f;
}

const Goal* PlanForm::goal() const {
    const auto& goals = document_.design().tune.goals;
    return !isLimit_ && index_ < goals.size() ? &goals[index_] : nullptr;
}

const BuildLimit* PlanForm::buildLimit() const {
    const auto& limits = document_.design().tune.limits;
    return isLimit_ && index_ < limits.size() ? &limits[index_] : nullptr;
}

void PlanForm::editGoal(const QString& label, const std::function<void(Goal&)>& change) {
    if (filling_ || goal() == nullptr) return;
    document_.editDesign(label, [&](Design& d) { change(d.tune.goals.at(index_)); });
}

void PlanForm::editLimit(const std::function<void(BuildLimit&)>& change) {
    if (filling_ || buildLimit() == nullptr) return;
    BuildLimit changed = *buildLimit();
    change(changed);
    if (changed.kind == buildLimit()->kind && changed.value == buildLimit()->value) return;
    document_.editDesign(tr("Change limit"), [&](Design& d) { d.tune.limits.at(index_) = changed; });
}

void PlanForm::showGoal(std::size_t index) {
    isLimit_ = false;
    index_ = index;
    refresh();
}

void PlanForm::showLimit(std::size_t index) {
    isLimit_ = true;
    index_ = index;
    refresh();
}

void PlanForm::fillWhere() {
    const Goal& g = *goal();
    whereMenu_->clear();
    const auto& design = document_.design();
    auto* every = whereMenu_->addAction(tr("every band of the design"));
    every->setCheckable(true);
    every->setChecked(g.from.empty() && g.bands.empty());
    connect(every, &QAction::triggered, this, [this] {
        editGoal(tr("Change where a goal holds"), [](Goal& goal) {
            goal.from.clear();
            goal.to.clear();
            goal.bands.clear();
        });
    });
    whereMenu_->addSeparator();
    for (const auto& band : document_.project().bands) {
        const auto& names = design.bands;
        if (!names.empty() && std::find(names.begin(), names.end(), band.name) == names.end()) continue;
        auto* one = whereMenu_->addAction(text(band.name));
        one->setCheckable(true);
        one->setChecked(std::find(g.bands.begin(), g.bands.end(), band.name) != g.bands.end());
        connect(one, &QAction::triggered, this, [this, name = band.name] {
            editGoal(tr("Change where a goal holds"), [&](Goal& goal) {
                goal.from.clear();
                goal.to.clear();
                const auto found = std::find(goal.bands.begin(), goal.bands.end(), name);
                if (found == goal.bands.end())
                    goal.bands.push_back(name);
                else
                    goal.bands.erase(found);
            });
        });
    }
    whereMenu_->addSeparator();
    auto* range = whereMenu_->addAction(tr("a range of frequencies"));
    range->setCheckable(true);
    range->setChecked(!g.from.empty());
    connect(range, &QAction::triggered, this, [this] {
        const auto& p = document_.project();
        editGoal(tr("Change where a goal holds"), [&](Goal& goal) {
            if (!goal.from.empty()) return;
            const double low = p.bands.empty() ? 14.0e6 : p.bands.at(p.workingBand).lowHz;
            const double high = p.bands.empty() ? 14.35e6 : p.bands.at(p.workingBand).highHz;
            goal.from = QString("%1 MHz").arg(written(low / 1e6, 'g', 7)).toStdString();
            goal.to = QString("%1 MHz").arg(written(high / 1e6, 'g', 7)).toStdString();
            goal.bands.clear();
        });
    });
}

void PlanForm::fillDrives() {
    const Goal& g = *goal();
    const auto has = [&](const std::string& name) {
        return std::find(g.driveSets.begin(), g.driveSets.end(), name) != g.driveSets.end();
    };
    drivesMenu_->clear();
    auto* now = drivesMenu_->addAction(tr("as it is driven now"));
    now->setCheckable(true);
    now->setChecked(g.driveSets.empty());
    connect(now, &QAction::triggered, this, [this] {
        editGoal(tr("Change drive sets of a goal"), [](Goal& goal) { goal.driveSets.clear(); });
    });
    drivesMenu_->addSeparator();
    for (const auto& set : document_.design().driveSets) {
        auto* one = drivesMenu_->addAction(text(set.name));
        one->setCheckable(true);
        one->setChecked(has(set.name));
        connect(one, &QAction::triggered, this, [this, name = set.name] {
            editGoal(tr("Change drive sets of a goal"), [&](Goal& goal) {
                if (std::erase(goal.driveSets, name) == 0) goal.driveSets.push_back(name);
            });
        });
    }
    drives_->setText(g.driveSets.empty()       ? tr("as driven now")
                     : g.driveSets.size() == 1 ? tr("driven ") + text(g.driveSets.front())
                                               : tr("driven in %1 ways").arg(g.driveSets.size()));
}

void PlanForm::refresh() {
    const Goal* g = goal();
    const BuildLimit* l = buildLimit();
    if (g == nullptr && l == nullptr) return hide();
    filling_ = true;
    const auto put = [](QLineEdit* field, const std::string& value) {
        if (!(field->hasFocus() && field->isModified())) field->setText(shownTyped(value));
    };
    kind_->clear();
    if (l != nullptr) {
        for (const auto k : kLimitKinds) kind_->addItem(text(study::nameOf(k)));
        kind_->setCurrentIndex(static_cast<int>(
            std::find(std::begin(kLimitKinds), std::end(kLimitKinds), l->kind) - std::begin(kLimitKinds)));
        relation_->setText(l->kind == LimitKind::LowestPoint || l->kind == LimitKind::KeepApart
                               ? tr("at least")
                               : tr("at most"));
        put(limit_, l->value);
        limit_->setToolTip(tr("A length with its unit, or a formula"));
    } else {
        const study::GoalTraits& traits = study::traitsOf(g->kind);
        for (const auto& one : study::goalTraits()) {
            kind_->addItem(text(one.name));
            if (one.kind == g->kind) kind_->setCurrentIndex(kind_->count() - 1);
        }
        relation_->setText(relationWords(*g));
        put(limit_, g->limit);
        limit_->setPlaceholderText(traits.gain ? tr("most") : "");
        limit_->setToolTip(traits.gain ? tr("Leave it empty for as much as possible")
                           : g->kind == GoalKind::Bandwidth
                               ? tr("The SWR at the radio below which the band counts")
                               : tr("The number to reach"));
        put(wanted_, g->wanted);
        put(angleTo_, g->angleTo);
        put(towards_, g->towards);
        towards_->setPlaceholderText(traits.usualTowards);
        fillDrives();
        put(upper_, g->upper);
        put(angle_, g->angle);
        put(from_, g->from);
        put(to_, g->to);
        unit_->setText(unitWords(*g));
        where_->setText(g->from.empty() ? text(study::whereOf(*g)) : tr("bands"));
        importance_->setCurrentIndex(static_cast<int>(g->importance));
        stage_->setCurrentIndex(std::clamp(g->stage, 1, 4) - 1);
        counted_->setChecked(g->counted);
        fillWhere();
    }
    const bool isGoal = g != nullptr;
    const bool resonance = isGoal && g->kind == GoalKind::Resonance;
    relation_->setVisible(!resonance);
    limit_->setVisible(!resonance);
    for (QWidget* w : std::initializer_list<QWidget*>{and_, upper_})
        w->setVisible(isGoal && g->kind == GoalKind::Resistance);
    for (QWidget* w : std::initializer_list<QWidget*>{angleLabel_, angle_})
        w->setVisible(isGoal && study::traitsOf(g->kind).angle);
    for (QWidget* w : std::initializer_list<QWidget*>{angleToLabel_, angleTo_})
        w->setVisible(isGoal && study::traitsOf(g->kind).angles);
    for (QWidget* w : std::initializer_list<QWidget*>{towardsLabel_, towards_})
        w->setVisible(isGoal && study::traitsOf(g->kind).towards);
    wanted_->setVisible(isGoal && g->kind == GoalKind::Impedance);
    drives_->setVisible(isGoal && !document_.design().driveSets.empty());
    unit_->setVisible(isGoal && !resonance);
    for (QWidget* w : std::initializer_list<QWidget*>{from_, dash_, to_})
        w->setVisible(isGoal && !g->from.empty());
    for (QWidget* w : std::initializer_list<QWidget*>{where_, importance_, stage_}) w->setVisible(isGoal);
    counted_->setVisible(isGoal && g->from.empty() && !study::asksForMost(*g));
    filling_ = false;
    show();
}

}  // namespace rm::app
