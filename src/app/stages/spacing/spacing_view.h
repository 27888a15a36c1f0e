// Gain and side lobes of a stack against its spacing.
#pragma once

#include <QWidget>
#include <optional>

#include "app/look/themed.h"
#include "app/stages/study_frame.h"
#include "core/study/stacking.h"

namespace rm::app {

class SpacingPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit SpacingPlot(QWidget* parent = nullptr);
    void setPoints(std::vector<study::StackingPoint> points, std::optional<double> adviceM, double nowM);
    const std::vector<study::StackingPoint>& points() const { return points_; }
    /// Where a spacing is drawn, for tests.
    QPointF at(double spacingM) const;

  Q_SIGNALS:
    void spacingChosen(double metres);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    QRectF area() const;
    double spacingAt(double x) const;
    std::vector<study::StackingPoint> points_;
    std::optional<double> adviceM_;
    double nowM_ = 0.0;
    std::optional<double> cursorM_;
};

class SpacingView : public StudyFrame {
    Q_OBJECT
  public:
    explicit SpacingView(QWidget* parent = nullptr);
    SpacingPlot* plot() { return plot_; }

  private:
    SpacingPlot* plot_;
};

}  // namespace rm::app
