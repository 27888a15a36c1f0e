#include "app/stages/wide/wide_model.h"

#include <QColor>
#include <algorithm>
#include <cmath>
#include <limits>

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
    std::sort(rows_.begin(), rows_.end());
    if (sortedBy_ == 0 && order_ == Qt::AscendingOrder) return;
    const auto& numbers = table_->numbers(static_cast<std::size_t>(sortedBy_));
    // Keys beside their rows: a hundred thousand of them are sorted within a frame or two.
    std::vector<std::pair<double, std::size_t>> keyed;
    keyed.reserve(rows_.size());
    const double sign = order_ == Qt::AscendingOrder ? 1.0 : -1.0;
    for (const std::size_t row : rows_) {
        // What has no value comes last, whichever way.
        const double key = sign * numbers[row];
        keyed.emplace_back(std::isnan(key) ? std::numeric_limits<double>::infinity() : key, row);
    }
    std::sort(keyed.begin(), keyed.end());
    std::transform(keyed.begin(), keyed.end(), rows_.begin(), [](const auto& one) { return one.second; });
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
