// The patterns of all antennas of a comparison on one band: elevation and azimuth laid over each other, and
// how far each is above the baseline at every elevation.
#pragma once

#include <QWidget>

#include "app/look/text.h"
#include "app/look/themed.h"
#include "app/stages/compare/compare_matrix.h"

namespace rm::app {

class OverlayPlots : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit OverlayPlots(QWidget* parent = nullptr);

    void setPatterns(ComparisonPtr comparison, int band, int baseline);
    /// What stands over the two cuts.
    void setTitles(const QString& elevation, const QString& azimuth);
    /// dB that a row is above the baseline at an elevation in front; nothing where either has no pattern.
    std::optional<double> differenceDb(int row, double elevationDeg) const;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    const study::CompareCell* cell(int row) const;
    int rows() const { return comparison_ ? static_cast<int>(comparison_->rows.size()) : 0; }
    void paintElevation(QPainter& painter, QRectF box, double strongest) const;
    void paintAzimuth(QPainter& painter, QRectF box, double strongest) const;
    void paintDifference(QPainter& painter, QRectF box) const;

    ComparisonPtr comparison_;
    int band_ = 0;
    int baseline_ = -1;
    QString elevationTitle_ = tr("Elevation, own best bearing");
    QString azimuthTitle_ = tr("Azimuth, at own takeoff");
};

}  // namespace rm::app
