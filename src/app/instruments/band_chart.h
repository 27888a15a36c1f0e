// A quantity against frequency, with measurements laid over it, marks where they matter, and a cursor.
#pragma once

#include <QWidget>

#include "app/instruments/band_data.h"
#include "app/look/themed.h"
#include "app/plot/frame.h"

namespace rm::app {

class BandChart : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit BandChart(QWidget* parent = nullptr);

    void setQuantity(BandQuantity quantity, study::Plane plane);
    void setData(const BandData& data);
    void setRange(double lowHz, double highHz);
    void setStale(bool stale);
    void setCursorFrequency(std::optional<double> hz);
    QString cursorText() const;

    /// Screen position of a frequency and of a value, for tests and marks.
    double xOf(double hz) const;
    double yOf(double value) const;
    /// What the upright axis measures, and from where to where.
    QString axisTitle() const;
    Range valueRange() const { return frame_.y; }
    /// What is written on the chart beside its curves: bandwidths, the minimum, resonances.
    QStringList notes() const;

  Q_SIGNALS:
    void cursorMoved(double hz);
    void frequencyChosen(double hz);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    void rebuild();
    void scale();
    /// One antenna's curve of the quantity: R first and X second for the impedance, one curve for all else.
    QList<QPointF> curveOf(const study::Sweep* sweep, const std::vector<study::PatternPoint>* patterns,
                           const model::Expansion* expansion, bool second) const;
    QList<QPointF> modelled(bool second) const;
    QList<QPointF> curveOf(const PinResult& pin, bool second) const;
    /// The pin that everything is compared with; null where there is none.
    const PinResult* baseline() const;
    /// The curve less that of the baseline, where there is one.
    QList<QPointF> compared(QList<QPointF> curve, bool second) const;
    QList<QPointF> measured(const MeasuredCurve& curve, bool second) const;
    Complex ohmOf(const study::SweepPoint& p) const;
    double frequencyAt(double x) const;
    bool inside(double hz) const { return hz >= lowHz_ && hz <= highHz_; }
    void paintMeasured(QPainter& painter) const;
    void paintPins(QPainter& painter) const;
    void paintSwrMarks(QPainter& painter) const;
    void paintFrequencies(QPainter& painter) const;

    BandQuantity quantity_ = BandQuantity::Swr;
    study::Plane plane_ = study::Plane::Radio;
    BandData data_;
    Frame frame_;  ///< MHz against the quantity
    QList<QPointF> first_;
    QList<QPointF> second_;
    bool stale_ = false;
    double lowHz_ = 1e6;
    double highHz_ = 2e6;
    std::optional<double> cursor_;
};

}  // namespace rm::app
