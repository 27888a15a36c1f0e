// The current along one part: magnitude as a filled curve, phase as a line.
#pragma once

#include <QComboBox>
#include <QWidget>

#include "app/stages/study_frame.h"
#include "app/look/theme.h"
#include "core/study/currents.h"

namespace rm::app {

class CurrentPlot : public QWidget {
    Q_OBJECT
  public:
    explicit CurrentPlot(QWidget* parent = nullptr);

    void setTheme(const Theme& theme);
    /// `largestA` is the largest current of the whole antenna.
    void setPoints(std::vector<study::CurrentPoint> points, double largestA);
    const std::vector<study::CurrentPoint>& points() const { return points_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    QRectF plot() const;

    Theme theme_ = Theme::light();
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
    void setTheme(const Theme& theme);
    /// The antenna on the bench; keeps the chosen part where it is still there.
    void setAnalysis(std::shared_ptr<const model::Expansion> expansion,
                     std::shared_ptr<const study::Analysis> analysis);
    void choose(const QString& part);

  private:
    void refresh();

    CurrentPlot* plot_;
    QComboBox* parts_;
    std::shared_ptr<const model::Expansion> expansion_;
    std::shared_ptr<const study::Analysis> analysis_;
};

}  // namespace rm::app
