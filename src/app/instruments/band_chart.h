// A quantity against frequency, with measurements laid over it, marks where they matter, and a cursor.
#pragma once

#include <QChartView>
#include <QLineSeries>
#include <QValueAxis>

#include "app/instruments/band_data.h"
#include "app/look/themed.h"

namespace rm::app {

class BandChart : public Themed<QChartView> {
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
    /// What is written on the chart beside its curves: bandwidths, the minimum, resonances.
    QStringList notes() const;

  Q_SIGNALS:
    void cursorMoved(double hz);
    void frequencyChosen(double hz);

  protected:
    void drawForeground(QPainter* painter, const QRectF& rect) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    void rebuild();
    void scaleX();
    void scaleY(const QList<QPointF>& first, const QList<QPointF>& second);
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
    QString axisTitle() const;
    double frequencyAt(double x) const;
    bool inside(double hz) const { return hz >= lowHz_ && hz <= highHz_; }
    void paintMeasured(QPainter& painter) const;
    void paintPins(QPainter& painter) const;
    void paintSwrMarks(QPainter& painter) const;
    void paintFrequencies(QPainter& painter) const;

    BandQuantity quantity_ = BandQuantity::Swr;
    study::Plane plane_ = study::Plane::Radio;
    BandData data_;
    QLineSeries* first_;
    QLineSeries* second_;
    QLineSeries* limit_;
    QValueAxis* xAxis_;
    QValueAxis* yAxis_;
    double lowHz_ = 1e6;
    double highHz_ = 2e6;
    std::optional<double> cursor_;

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
