#include "app/stages/tune/proposal_table.h"

#include <QHeaderView>
#include <algorithm>
#include <cmath>

#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "core/model/expand.h"
#include "core/study/tuning/tune_axes.h"

namespace rm::app {

QString changeText(model::DimensionKind kind, double change) {
    const QString sign = change < 0.0 ? QString(QChar(0x2212)) : QString("+");
    const double size = std::abs(change);
    if (size < (kind == model::DimensionKind::Length  ? 5e-5
                : kind == model::DimensionKind::Angle ? 0.05
                                                      : 1e-9))
        return "0";
    if (kind == model::DimensionKind::Length)
        return QString("%1%2 mm").arg(sign).arg(
            written(1e3 * size, 'f', size < 0.0095 && size > 0.0 ? 1 : 0));
    if (kind == model::DimensionKind::Angle) return QString("%1%2°").arg(sign).arg(written(size, 'f', 1));
    return QString("%1%2").arg(sign).arg(written(size, 'g', 3));
}

ProposalTable::ProposalTable(QWidget* parent) : Themed(0, kColumns, parent) {
    setTabKeyNavigation(false);
    setHorizontalHeaderLabels({tr("Take over"), tr("Now"), tr("Proposed"), tr("Change")});
    const char* const tips[] = {later("Tick what to take over; the pin \"proposal\" shows what comes of it"),
                                later("As it was when tuning began"), later("What tuning proposes"),
                                later("New less old")};
    for (int c = 0; c < kColumns; ++c) horizontalHeaderItem(c)->setToolTip(tr(tips[c]));
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(22);
    horizontalHeader()->setStretchLastSection(true);
    horizontalHeader()->setFont(textFont(kTinyPt, true));
    const int widths[] = {150, 90, 90, 80};
    for (int c = 0; c < kColumns; ++c) setColumnWidth(c, widths[c]);
    showWholeHeadings(*this);
    setFont(textFont(kSmallPt));
    setShowGrid(false);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAccessibleName(tr("Proposal"));
    connect(this, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* cell) {
        if (updating_ || cell->column() != Name) return;
        left_[names_.at(static_cast<std::size_t>(cell->row()))] = cell->checkState() != Qt::Checked;
        refresh();
        Q_EMIT chosenChanged();
    });
}

void ProposalTable::themeChanged() {
    refresh();
}

void ProposalTable::setProposal(ProposalPtr proposal) {
    proposal_ = std::move(proposal);
    left_.clear();
    refresh();
}

void ProposalTable::setRounded(bool rounded) {
    rounded_ = rounded;
    refresh();
    Q_EMIT chosenChanged();
}

int ProposalTable::rowOf(const std::string& dimension) const {
    const auto found = std::find(names_.begin(), names_.end(), dimension);
    return found == names_.end() ? -1 : static_cast<int>(found - names_.begin());
}

std::map<std::string, double> ProposalTable::chosen() const {
    std::map<std::string, double> values;
    if (!proposal_) return values;
    const auto& all = rounded_ ? proposal_->result.builtValues : proposal_->result.best.values;
    for (const auto& [name, value] : all) {
        const auto left = left_.find(name);
        if (left == left_.end() || !left->second) values[name] = value;
    }
    return values;
}

void ProposalTable::refresh() {
    updating_ = true;
    names_.clear();
    setRowCount(0);
    if (proposal_) {
        const auto& all = rounded_ ? proposal_->result.builtValues : proposal_->result.best.values;
        const auto proposed = study::withValues(proposal_->design, all, true);
        // In the order of the plan.
        for (const auto& d : proposal_->design.dimensions)
            if (all.count(d.name) != 0) names_.push_back(d.name);
        const auto before = model::scopeOf(proposal_->design).values;
        setRowCount(static_cast<int>(names_.size()));
        for (int r = 0; r < rowCount(); ++r) {
            const std::string& name = names_[static_cast<std::size_t>(r)];
            const auto old =
                std::find_if(proposal_->design.dimensions.begin(), proposal_->design.dimensions.end(),
                             [&](const auto& d) { return d.name == name; });
            const auto index = static_cast<std::size_t>(old - proposal_->design.dimensions.begin());
            const bool left = left_[name];
            const auto put = [&](int column, const QString& value) {
                auto* cell = new QTableWidgetItem(value);
                cell->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
                cell->setForeground(left ? theme_.softInk : theme_.ink);
                if (column != Name) cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                setItem(r, column, cell);
                return cell;
            };
            auto* first = put(Name, QString::fromStdString(name));
            first->setFlags(first->flags() | Qt::ItemIsUserCheckable);
            first->setCheckState(left ? Qt::Unchecked : Qt::Checked);
            first->setToolTip(QString::fromStdString(old->note));
            put(Now, QString::fromStdString(old->text));
            put(New, QString::fromStdString(proposed.dimensions[index].text));
            const double change = all.at(name) - before.at(name);
            auto* last = put(Change, changeText(old->kind, change));
            last->setFont(textFont(kSmallPt, true));
            if (!left) last->setForeground(theme_.copper);
        }
    }
    updating_ = false;
}

}  // namespace rm::app
