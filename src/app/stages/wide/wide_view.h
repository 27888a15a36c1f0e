// The result of a wide study: its table, its cases as marks, conditions, and the way of a case to the bench.
#pragma once

#include <memory>

#include "app/stages/study_frame.h"
#include "app/stages/wide/wide_model.h"
#include "app/stages/wide/wide_plot.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QTableView;
class QToolButton;

namespace rm::app {

class WideView : public StudyFrame {
    Q_OBJECT
  public:
    explicit WideView(QWidget* parent = nullptr);

    void setTable(std::shared_ptr<const wide::Table> table, const QString& name);
    const wide::Table* table() const { return table_.get(); }
    WidePlot* plot() { return plot_; }
    QTableView* rows() { return rows_; }
    QLineEdit* filter() { return filter_; }
    /// Across, up, colour.
    QComboBox* column(int which) { return columns_[which]; }
    QToolButton* take() { return take_; }
    /// The row that is chosen, where it meets the conditions.
    std::optional<std::size_t> chosen() const;

  Q_SIGNALS:
    void openRequested();
    /// This row of the result is to be on the bench.
    void taken(std::size_t row);

  private:
    void applyFilter();
    void applyColumns();
    void choose(std::size_t row);
    void showChosen();
    void refresh();

    std::shared_ptr<const wide::Table> table_;
    WideModel* model_;
    QTableView* rows_;
    WidePlot* plot_;
    QLineEdit* filter_;
    QLabel* trouble_;
    QComboBox* columns_[3];
    QToolButton* take_;
};

}  // namespace rm::app
