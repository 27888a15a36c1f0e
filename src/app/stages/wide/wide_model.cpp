#include "app/stages/wide/wide_model.h"

#include <QColor>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/look/theme.h"

namespace rm::app {

void WideModel::setTable(std::shared_ptr<const wide::Table> table) {
    beginResetModel();
    table_ = std::move(table);
    rows_.clear();
    for (std::size_t i = 0; table_ && i < table_->rows(); ++i) rows_.push_back(i);
    sortedBy_ = 0;
    order_ = Qt::AscendingOrder;
    endResetModel();
}

void WideModel::setFilter(const QString& conditions) {
    if (!table_) return;
    const wide::Filter filter(conditions.toStdString(), *table_);
    beginResetModel();
    rows_.clear();
    for (std::size_t i = 0; i < table_->rows(); ++i)
        if (filter.lets(*table_, i)) rows_.push_back(i);
    arrange();
    endResetModel();
}

void WideModel::arrange() {
    const auto column = static_cast<std::size_t>(sortedBy_);
    std::sort(rows_.begin(), rows_.end());
    if (column == 0 && order_ == Qt::AscendingOrder) return;
    // What has no value comes last, whichever way.
    std::stable_sort(rows_.begin(), rows_.end(), [&](std::size_t a, std::size_t b) {
        const double va = table_->number(a, column);
        const double vb = table_->number(b, column);
        if (std::isnan(va) || std::isnan(vb)) return !std::isnan(va) && std::isnan(vb);
        return order_ == Qt::AscendingOrder ? va < vb : va > vb;
    });
}

void WideModel::sort(int column, Qt::SortOrder order) {
    if (!table_ || column < 0 || column >= columnCount()) return;
    beginResetModel();
    sortedBy_ = column;
    order_ = order;
    arrange();
    endResetModel();
}

int WideModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int WideModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() || !table_ ? 0 : static_cast<int>(table_->columns());
}

QVariant WideModel::data(const QModelIndex& index, int role) const {
    if (!table_ || !index.isValid()) return {};
    const std::size_t row = rowAt(index.row());
    const auto column = static_cast<std::size_t>(index.column());
    const auto& problem = table_->result().rows[row].problem;
    switch (role) {
        case Qt::DisplayRole: {
            const QString shown = text(table_->text(row, column)).replace('-', QChar(0x2212));
            return shown.isEmpty()         ? QString("–")
                   : table_->named(column) ? text(table_->text(row, column))
                                           : shown;
        }
        case Qt::ToolTipRole:
            return problem.empty() ? QVariant() : QVariant(text(problem));
        case Qt::TextAlignmentRole:
            return QVariant(table_->named(column) ? Qt::AlignLeft | Qt::AlignVCenter
                                                  : Qt::AlignRight | Qt::AlignVCenter);
        case Qt::ForegroundRole:
            return problem.empty() && !table_->varied(column) && column > 0
                       ? QVariant()
                       : QVariant(Theme::current().softInk);
        default:
            return {};
    }
}

QVariant WideModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (!table_ || orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
    return text(table_->heading(static_cast<std::size_t>(section)));
}

int WideModel::lineOf(std::size_t row) const {
    const auto found = std::find(rows_.begin(), rows_.end(), row);
    return found == rows_.end() ? -1 : static_cast<int>(found - rows_.begin());
}

}  // namespace rm::app
