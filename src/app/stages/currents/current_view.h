// The current along one part: magnitude as a filled curve, phase as a line.
#pragma once

#include <QComboBox>
#include <QWidget>

#include "app/look/themed.h"
#include "app/session/results.h"
#include "app/stages/study_frame.h"

namespace rm::app {

class CurrentPlot : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit CurrentPlot(QWidget* parent = nullptr);

    /// `largestA` is the largest current of the whole antenna.
    void setPoints(std::vector<study::CurrentPoint> points, double largestA);
    const std::vector<study::CurrentPoint>& points() const { return points_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    QRectF plot() const;

    std::vector<study::CurrentPoint> points_;
    double largestA_ = 1.0;
    std::optional<double> cursorM_;
};

class CurrentView : public StudyFrame {
    Q_OBJECT
  public:
    explicit CurrentView(QWidget* parent = nullptr);

    CurrentPlot* plot() { return plot_; }
    QComboBox* parts() { return parts_; }
    /// The antenna on the bench; keeps the chosen part where it is still there.
    void setResults(const ResultsPtr& results);
    void choose(const QString& part);

  private:
    void refresh();

    CurrentPlot* plot_;
    QComboBox* parts_;
    ResultsPtr shown_;
};

}  // namespace rm::app
