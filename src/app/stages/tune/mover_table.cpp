#include "app/stages/tune/mover_table.h"
#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

#include <QHeaderView>
#include <QMenu>
#include <algorithm>

#include "core/model/dimension_kind.h"
#include "core/model/expand.h"
#include "core/model/movable.h"
#include "core/quantity/format.h"
#include "core/study/tuning/tune_axes.h"

namespace rm::app {

using namespace rm::model;

namespace {

Mover* moverOf(TunePlan& plan, const std::string& dimension) {
    const auto found = std::find_if(plan.movers.begin(), plan.movers.end(),
                                    [&](const Mover& m) { return m.dimension == dimension; });
    return found == plan.movers.end() ? nullptr : &*found;
}

/// The mover of a dimension, made where there is none.
Mover& moverFor(Design& design, const std::string& dimension) {
    if (Mover* there = moverOf(design.tune, dimension)) return *there;
    Mover mover;
    mover.dimension = dimension;
    mover.enabled = false;
    design.tune.movers.push_back(mover);
    return design.tune.movers.back();
}

}  // namespace

MoverTable::MoverTable(Document& document, QWidget* parent)
    : Themed(0, kColumns, parent), document_(document) {
    setTabKeyNavigation(false);
    setHorizontalHeaderLabels({tr("May move"), tr("Now"), tr("From"), tr("To"), tr("Step")});
    const char* const tips[] = {
        later("Tick what tuning may change"), later("As it is on the bench"),
        later("Lowest value; empty: the low end of its slider"),
        later("Highest value; empty: the high end of its slider"),
        later("What can be built: 1 mm, 1/8 in; or the only values there are, separated by "
              "commas: 4, 9, 49")};
    for (int c = 0; c < kColumns; ++c) horizontalHeaderItem(c)->setToolTip(tr(tips[c]));
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(22);
    horizontalHeader()->setStretchLastSection(true);
    horizontalHeader()->setFont(textFont(kTinyPt, true));
    const int widths[] = {84, 74, 66, 66, 60};
    for (int c = 0; c < kColumns; ++c) setColumnWidth(c, widths[c]);
    showWholeHeadings(*this);
    setFont(textFont(kTinyPt));
    setShowGrid(false);
    setWordWrap(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setAccessibleName(tr("What may move"));
    connect(this, &QTableWidget::itemChanged, this, &MoverTable::edited);
}

void MoverTable::themeChanged() {
    refresh();
}

int MoverTable::rowOf(const std::string& dimension) const {
    const auto found = std::find(names_.begin(), names_.end(), dimension);
    return found == names_.end() ? -1 : static_cast<int>(found - names_.begin());
}

void MoverTable::setBest(std::map<std::string, double> values) {
    best_ = std::move(values);
    refresh();
}

void MoverTable::put(int row, int column, const QString& value, bool editable, const QString& tip) {
    auto* cell = item(row, column);
    if (cell == nullptr) setItem(row, column, cell = new QTableWidgetItem);
    cell->setText(value);
    cell->setToolTip(tip);
    cell->setForeground(editable ? theme_.ink : theme_.softInk);
    cell->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable |
                   (editable ? Qt::ItemIsEditable : Qt::NoItemFlags));
}

void MoverTable::refresh() {
    if (updating_ || state() == QAbstractItemView::EditingState) return;
    updating_ = true;
    const Design& design = document_.design();
    TunePlan plan = design.tune;
    names_.clear();
    for (const auto& d : design.dimensions)
        if (quantity::isPlainNumber(d.text)) names_.push_back(d.name);
    // A mover whose dimension is gone or follows a formula stays in sight, with what is wrong.
    for (const auto& m : plan.movers)
        if (std::find(names_.begin(), names_.end(), m.dimension) == names_.end())
            names_.push_back(m.dimension);
    setRowCount(static_cast<int>(names_.size()));
    for (int r = 0; r < rowCount(); ++r) {
        const std::string& name = names_[static_cast<std::size_t>(r)];
        const auto found = std::find_if(design.dimensions.begin(), design.dimensions.end(),
                                        [&](const auto& d) { return d.name == name; });
        const Mover* mover = moverOf(plan, name);
        const bool ticked = mover != nullptr && mover->enabled;
        const bool lost = found == design.dimensions.end() || !quantity::isPlainNumber(found->text);
        put(r, Name, text(name), false,
            lost                  ? tr("There is no such dimension with a number of its own: untick it")
            : found->note.empty() ? text(name)
                                  : text(found->note));
        item(r, Name)->setFlags(item(r, Name)->flags() | Qt::ItemIsUserCheckable);
        item(r, Name)->setCheckState(ticked ? Qt::Checked : Qt::Unchecked);
        item(r, Name)->setForeground(lost ? theme_.clay : ticked ? theme_.ink : theme_.softInk);
        if (lost) {
            for (int c = Now; c < kColumns; ++c) put(r, c, c == Now ? tr("missing") : "", false, {});
            continue;
        }
        QString now = shownTyped(found->text);
        const auto best = best_.find(name);
        if (ticked && best != best_.end()) {
            const auto moved = study::withValues(design, {{name, best->second}}, true);
            for (const auto& d : moved.dimensions)
                if (d.name == name) now = "→ " + shownTyped(d.text);
        }
        put(r, Now, now, false, tr("Now %1").arg(shownTyped(found->text)));
        if (ticked && best != best_.end()) item(r, Now)->setForeground(theme_.copper);
        const bool listed = ticked && !mover->choices.empty();
        put(r, Low,
            !ticked  ? QString()
            : listed ? QString("–")
                     : shownTyped(mover->low.empty() ? found->low : mover->low),
            ticked && !listed, tr("Lowest value"));
        put(r, High,
            !ticked  ? QString()
            : listed ? QString("–")
                     : shownTyped(mover->high.empty() ? found->high : mover->high),
            ticked && !listed, tr("Highest value"));
        const char* const usual[] = {"1 mm", "0.1°", later("fine")};
        put(r, Step,
            !ticked               ? QString()
            : listed              ? shownTyped(mover->choices)
            : mover->step.empty() ? tr(usual[static_cast<std::size_t>(found->kind)])
                                  : shownTyped(mover->step),
            ticked, listed ? shownTyped(mover->choices) : tr("Step that can be built, or a list of values"));
    }
    updating_ = false;
}

void MoverTable::edited(QTableWidgetItem* cell) {
    if (updating_) return;
    const std::string name = names_.at(static_cast<std::size_t>(cell->row()));
    const auto& dimensions = document_.design().dimensions;
    const auto moved = std::find_if(dimensions.begin(), dimensions.end(),
                                    [&](const auto& dimension) { return dimension.name == name; });
    const auto kind = moved != dimensions.end() ? model::kindOf(moved->kind) : quantity::Kind::Number;
    const std::string typed = keptTyped(cell->text(), kind, ',');
    const int column = cell->column();
    const bool on = cell->checkState() == Qt::Checked;
    document_.editDesign(
        column == Name ? (on ? tr("Let it move") : tr("Hold it")) : tr("Change how far it may move"),
        [&](Design& d) {
            Mover& mover = moverFor(d, name);
            if (column == Name) mover.enabled = on;
            if (column == Low) mover.low = typed;
            if (column == High) mover.high = typed;
            if (column != Step) return;
            const bool list = typed.find(',') != std::string::npos;
            mover.choices = list ? typed : std::string();
            if (!list) mover.step = typed;
        });
}

void MoverTable::fillOthers(QMenu* menu) {
    menu->clear();
    const Design& design = document_.design();
    std::string owner;
    QMenu* under = nullptr;
    for (const auto& movable : movablesOf(design)) {
        if (under == nullptr || movable.owner != owner) under = menu->addMenu(text(movable.owner));
        owner = movable.owner;
        connect(under->addAction(tr(movable.field.c_str())), &QAction::triggered, this, [this, movable] {
            document_.editDesign(tr("Let it move"), [&](Design& d) { letMove(d, movable); });
        });
    }
    if (menu->isEmpty())
        menu->addAction(tr("Every number is a dimension or a formula already"))->setEnabled(false);
}

}  // namespace rm::app
