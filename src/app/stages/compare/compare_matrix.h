// Antennas against bands: a number in every cell over a quiet shade that says how good it is.
#pragma once

#include <QWidget>
#include <memory>

#include "app/look/themed.h"
#include "core/study/compare.h"

namespace rm::app {

using ComparisonPtr = std::shared_ptr<const study::Comparison>;

class CompareMatrix : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit CompareMatrix(QWidget* parent = nullptr);

    void setComparison(ComparisonPtr comparison, const model::SwrLimits& limits);
    void setQuantity(study::CompareQuantity quantity);
    /// The column whose patterns are shown below.
    void setBand(int band);
    int band() const { return band_; }
    /// Row that the differences refer to; -1: none.
    void setBaseline(int row);
    int baseline() const { return baseline_; }
    QRectF cellRect(int row, int band) const;
    QRectF nameRect(int row) const;
    QString cellText(int row, int band) const;
    QSize sizeHint() const override;

  Q_SIGNALS:
    void cellChosen(int row, int band);
    void bandChosen(int band);
    void baselineChosen(int row);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    QColor shadeOf(double value, double low, double high) const;
    int rows() const { return comparison_ ? static_cast<int>(comparison_->rows.size()) : 0; }
    int bands() const { return comparison_ ? static_cast<int>(comparison_->bands.size()) : 0; }

    ComparisonPtr comparison_;
    model::SwrLimits limits_ = model::kUsualSwrLimits;
    study::CompareQuantity quantity_ = study::CompareQuantity::Swr;
    int band_ = 0;
    int baseline_ = -1;
    QPointF mouse_{-1, -1};
};

/// Colour of a row of the comparison, in every picture of it.
QColor rowColour(const Theme& theme, int row);
/// The second round of colours is dashed.
Qt::PenStyle rowDash(int row);

}  // namespace rm::app
