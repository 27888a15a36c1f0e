// Goals and limits as sentences, each with a gauge that shows how far from met it is: a post where the limit
// is, a ring for the design as it is, a lozenge for the best so far.
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "app/look/themed.h"

namespace rm::app {

struct PlanRow {
    QString sentence;
    QString note;  ///< importance and stage
    bool enabled = true;
    bool limit = false;  ///< of what is built, not a goal
    QString now;         ///< value of the design as it is
    QString best;        ///< of the best so far; empty: there is none
    QString verdict;     ///< "met", "2.6 too high"
    bool met = false;
    /// Misses in units worth minding; at most zero is met, nothing where it is not known.
    std::optional<double> nowMiss = {};
    std::optional<double> bestMiss = {};
    std::vector<double> bands = {};  ///< where there are several, the miss of each as it stands
    bool counted = false;            ///< bands are counted: the worst does not matter
    QString tip;
};

class PlanRows : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit PlanRows(QWidget* parent = nullptr);

    static constexpr int kRowHeight = 36;

    void setRows(std::vector<PlanRow> rows);
    const std::vector<PlanRow>& rows() const { return rows_; }
    void setSelected(int row);
    int selected() const { return selected_; }
    /// Where a row's tick box and its sentence are, for tests.
    QRect tickOf(int row) const;
    QRect sentenceOf(int row) const;
    QSize sizeHint() const override;

  Q_SIGNALS:
    void chosen(int row);
    void toggled(int row);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

  private:
    void paintRow(QPainter& painter, int row) const;
    void paintGauge(QPainter& painter, const QRectF& where, const PlanRow& row) const;
    QRectF gaugeOf(int row) const;

    std::vector<PlanRow> rows_;
    int selected_ = -1;
};

}  // namespace rm::app
