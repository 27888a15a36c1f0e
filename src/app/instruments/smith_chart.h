// A Smith chart: traces of impedances over circles of resistance, reactance and SWR.
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "app/look/themed.h"
#include "core/common.h"

namespace rm::app {

/// A curve on the chart.
struct SmithTrace {
    std::vector<Complex> ohm;
    QColor colour;
    double width = 1.6;
    bool dotted = false;
    QString name;    ///< shown when it is hovered; empty: it cannot be
    int block = -1;  ///< of the feed path, where it is a step of the walk
};

struct SmithMark {
    Complex ohm;
    QColor colour;
    QString text;
    bool filled = true;
};

class SmithChart : public Themed<QWidget> {
    Q_OBJECT
  public:
    explicit SmithChart(QWidget* parent = nullptr);

    void setReference(double ohm);
    void setLimits(const std::array<double, 3>& limits);
    void setTraces(std::vector<SmithTrace> traces, std::vector<SmithMark> marks);
    void setStale(bool stale);
    /// Draws the trace of this block of the feed path in full and the others faintly; nothing: all alike.
    void setHighlight(std::optional<int> block);
    std::optional<int> highlight() const { return highlight_; }
    const std::vector<SmithTrace>& traces() const { return traces_; }
    const std::vector<SmithMark>& marks() const { return marks_; }

    /// Where an impedance is on the widget.
    QPointF pointOf(Complex ohm) const;

  Q_SIGNALS:
    /// The block whose arc is under the mouse; -1: none.
    void blockHovered(int block);
    /// The impedance under the mouse.
    void cursorMoved(rm::Complex ohm);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    bool event(QEvent* event) override;

  private:
    double radius() const;
    QPointF centre() const;
    void paintGrid(QPainter& painter) const;
    void paintTraces(QPainter& painter) const;
    void paintMarks(QPainter& painter) const;
    int traceAt(QPointF point) const;

    double referenceOhm_ = 50.0;
    std::array<double, 3> limits_{1.5, 2.0, 3.0};
    std::vector<SmithTrace> traces_;
    std::vector<SmithMark> marks_;
    std::optional<int> highlight_;
    std::optional<QPointF> mouse_;
    bool stale_ = false;
};

}  // namespace rm::app
