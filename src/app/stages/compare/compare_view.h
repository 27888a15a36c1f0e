// Compare mode: every design and pin on every band, and their patterns over each other.
#pragma once

#include <QFrame>

#include "app/stages/compare/compare_matrix.h"

class QComboBox;
class QLabel;

namespace rm::app {

class OverlayPlots;

class CompareView : public QFrame {
    Q_OBJECT
  public:
    explicit CompareView(QWidget* parent = nullptr);

    CompareMatrix* matrix() { return matrix_; }
    OverlayPlots* plots() { return plots_; }
    QComboBox* quantity() { return quantity_; }
    void setComparison(ComparisonPtr comparison, const model::SwrLimits& limits, int band);
    ComparisonPtr comparison() const { return comparison_; }
    /// The project has changed since.
    void setStale(bool stale);

  Q_SIGNALS:
    void cellChosen(int row, int band);

  private:
    void refresh();

    CompareMatrix* matrix_;
    OverlayPlots* plots_;
    QComboBox* quantity_;
    QLabel* state_;
    ComparisonPtr comparison_;
    int live_ = 0;  ///< row of the design on the bench
};

}  // namespace rm::app
