// The rows of a study's result for a table on the screen: only those that meet the conditions, in any order.
#pragma once

#include <QAbstractTableModel>
#include <memory>
#include <vector>

#include "core/wide/table.h"

namespace rm::app {

class WideModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    using QAbstractTableModel::QAbstractTableModel;

    void setTable(std::shared_ptr<const wide::Table> table);
    /// Throws rm::Error where the conditions cannot be read; the rows stay as they are then.
    void setFilter(const QString& conditions);

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role = Qt::DisplayRole) const override;
    void sort(int column, Qt::SortOrder order = Qt::AscendingOrder) override;

    /// Row of the result that a line shows.
    std::size_t rowAt(int line) const { return rows_.at(static_cast<std::size_t>(line)); }
    /// Line that shows a row of the result; below zero: none.
    int lineOf(std::size_t row) const;
    const std::vector<std::size_t>& rows() const { return rows_; }

  private:
    std::shared_ptr<const wide::Table> table_;
    std::vector<std::size_t> rows_;
    int sortedBy_ = 0;
    Qt::SortOrder order_ = Qt::AscendingOrder;
    void arrange();
};

}  // namespace rm::app
