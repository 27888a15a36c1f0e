// The band instrument: SWR, R and X, or return loss against frequency, with a cursor that reads values.
#pragma once

#include <QChartView>
#include <QLineSeries>
#include <QValueAxis>
#include <QWidget>
#include <optional>

#include "app/runner.h"
#include "app/theme.h"
#include "core/study/resonance.h"

class QToolButton;
class QLabel;

namespace rm::app {

/// The chart itself; draws the cursor and the marks over the curves.
class BandChart : public QChartView {
    Q_OBJECT
  public:
    explicit BandChart(QWidget* parent = nullptr);

    enum class Quantity { Swr, Impedance, ReturnLoss };

    void setTheme(const Theme& theme);
    void setQuantity(Quantity quantity);
    void setSweep(SweepPtr sweep);
    void setRange(double lowHz, double highHz);
    void setWorkingFrequency(double hz);
    void setResonance(std::optional<study::Resonance> resonance);
    void setStale(bool stale);
    void setCursorFrequency(std::optional<double> hz);
    QString cursorText() const;

    /// Screen position of a frequency, for tests and marks.
    double xOf(double hz) const;

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
    double frequencyAt(double x) const;

    Theme theme_ = Theme::light();
    Quantity quantity_ = Quantity::Swr;
    SweepPtr sweep_;
    QLineSeries* first_;
    QLineSeries* second_;
    QLineSeries* limit_;
    QValueAxis* xAxis_;
    QValueAxis* yAxis_;
    double lowHz_ = 1e6;
    double highHz_ = 2e6;
    double workingHz_ = 0.0;
    std::optional<study::Resonance> resonance_;
    std::optional<double> cursor_;
};

class BandView : public QWidget {
    Q_OBJECT
  public:
    explicit BandView(QWidget* parent = nullptr);

    BandChart* chart() { return chart_; }
    void setTheme(const Theme& theme);
    void setSweep(SweepPtr sweep, const QString& title);
    void setStale(bool stale);
    /// What stands at the top right: range of SWR and bandwidth, or what the cursor reads.
    QString headline() const;

  public Q_SLOTS:
    void showQuantity(int quantity);

  private:
    void refresh();

    BandChart* chart_;
    QLabel* title_;
    QLabel* headline_;
    QList<QToolButton*> choices_;
    SweepPtr sweep_;
};

}  // namespace rm::app
