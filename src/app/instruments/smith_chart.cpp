#include "app/instruments/smith_chart.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "core/circuit/reflection.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kMargin = 15.0;
/// Radius from which all numbers have room.
constexpr double kRoomy = 90.0;
/// How near the mouse has to be to a trace, in pixels.
constexpr double kNear = 7.0;

double distanceToSegment(QPointF p, QPointF a, QPointF b) {
    const QPointF ab = b - a;
    const double length = QPointF::dotProduct(ab, ab);
    const double t = length > 0.0 ? std::clamp(QPointF::dotProduct(p - a, ab) / length, 0.0, 1.0) : 0.0;
    const QPointF d = p - (a + t * ab);
    return std::hypot(d.x(), d.y());
}

}  // namespace

SmithChart::SmithChart(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(150, 150);
    setAccessibleName(tr("Smith chart"));
}

void SmithChart::setReference(double ohm) {
    referenceOhm_ = ohm;
    update();
}

void SmithChart::setLimits(const std::array<double, 3>& limits) {
    limits_ = limits;
    update();
}

void SmithChart::setTraces(std::vector<SmithTrace> traces, std::vector<SmithMark> marks) {
    traces_ = std::move(traces);
    marks_ = std::move(marks);
    update();
}

void SmithChart::setStale(bool stale) {
    if (stale == stale_) return;
    stale_ = stale;
    update();
}

void SmithChart::setHighlight(std::optional<int> block) {
    if (highlight_ == block) return;
    highlight_ = block;
    update();
}

double SmithChart::radius() const {
    return 0.5 * std::min(width(), height()) - kMargin;
}

QPointF SmithChart::centre() const {
    return {0.5 * width(), 0.5 * height()};
}

QPointF SmithChart::pointOf(Complex ohm) const {
    const Complex gamma = circuit::reflection(ohm, referenceOhm_);
    return centre() + radius() * QPointF(gamma.real(), -gamma.imag());
}

void SmithChart::paintGrid(QPainter& painter) const {
    const QPointF middle = centre();
    const double r = radius();
    QPainterPath disc;
    disc.addEllipse(middle, r, r);
    painter.setPen(QPen(theme_.line, 1.4));
    painter.setBrush(theme_.paper);
    painter.drawPath(disc);
    painter.setBrush(Qt::NoBrush);
    painter.save();
    painter.setClipPath(disc);
    painter.setPen(QPen(theme_.line, 0.8));
    painter.drawLine(QPointF(middle.x() - r, middle.y()), QPointF(middle.x() + r, middle.y()));
    for (const double value : {0.2, 0.5, 1.0, 2.0, 5.0}) {
        // Circles of constant resistance touch the right end, those of constant reactance pass through it.
        const double resistance = r / (1.0 + value);
        painter.drawEllipse(QPointF(middle.x() + r - resistance, middle.y()), resistance, resistance);
        const double reactance = r / value;
        for (const double side : {-1.0, 1.0})
            painter.drawEllipse(QPointF(middle.x() + r, middle.y() + side * reactance), reactance, reactance);
    }
    painter.restore();
    const QColor hues[] = {theme_.reed, theme_.sun, theme_.copper};
    painter.setFont(textFont(kTinyPt));
    for (std::size_t i = 0; i < limits_.size(); ++i) {
        const double size = r * (limits_[i] - 1.0) / (limits_[i] + 1.0);
        painter.setPen(QPen(hues[i], 1.1, Qt::DashLine));
        painter.drawEllipse(middle, size, size);
        painter.setPen(hues[i]);
        if (r > kRoomy || i + 1 == limits_.size())
            painter.drawText(QRectF(middle.x() - 16, middle.y() - size - 11, 32, 11), Qt::AlignCenter,
                             written(limits_[i]));
    }
    painter.setPen(theme_.softInk);
    // A small chart has room for three numbers on its axis.
    for (const double value : {0.2, 0.5, 1.0, 2.0, 5.0}) {
        const double ohm = value * referenceOhm_;
        const QPointF at = pointOf({ohm, 0.0});
        if (r > kRoomy || value == 0.2 || value == 1.0 || value == 5.0)
            painter.drawText(QRectF(at.x() - 20, at.y() + 1, 40, 11), Qt::AlignCenter, written(ohm));
        for (const double side : {-1.0, 1.0}) {
            const QPointF edge = pointOf({0.0, side * ohm});
            const QPointF out = edge + (edge - middle) * (9.0 / r);
            painter.drawText(QRectF(out.x() - 22, out.y() - 6, 44, 12), Qt::AlignCenter,
                             QString("%1j%2").arg(side < 0.0 ? QString(QChar(0x2212)) : QString()).arg(ohm));
        }
    }
}

void SmithChart::paintTraces(QPainter& painter) const {
    for (const auto& trace : traces_) {
        QPolygonF line;
        for (const Complex z : trace.ohm) line << pointOf(z);
        QColor colour = trace.colour;
        double width = trace.width;
        if (stale_) colour.setAlphaF(0.35F);
        if (highlight_ && trace.block >= 0) {
            if (trace.block == *highlight_)
                width += 2.0;
            else
                colour.setAlphaF(0.3F);
        }
        painter.setBrush(Qt::NoBrush);
        painter.setPen(
            QPen(colour, width, trace.dotted ? Qt::DotLine : Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(line);
    }
}

void SmithChart::paintMarks(QPainter& painter) const {
    painter.setFont(textFont(kSmallPt, true));
    std::vector<QRectF> taken;
    // The last is the most important: it gets its label first.
    for (auto m = marks_.rbegin(); m != marks_.rend(); ++m) {
        const SmithMark& mark = *m;
        const QPointF at = pointOf(mark.ohm);
        QColor colour = mark.colour;
        if (stale_) colour.setAlphaF(0.35F);
        painter.setPen(QPen(colour, 1.8));
        painter.setBrush(mark.filled ? colour : theme_.paper);
        painter.drawEllipse(at, 3.6, 3.6);
        if (mark.text.isEmpty()) continue;
        const double wide = painter.fontMetrics().horizontalAdvance(mark.text) + 4.0;
        const bool left = at.x() + 8.0 + wide > width();
        const QRectF box(left ? at.x() - 8.0 - wide : at.x() + 8.0, at.y() - 16.0, wide, 14.0);
        if (std::any_of(taken.begin(), taken.end(), [&](const QRectF& r) { return r.intersects(box); }))
            continue;
        taken.push_back(box);
        painter.drawText(box, Qt::AlignCenter, mark.text);
    }
}

void SmithChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paintGrid(painter);
    paintTraces(painter);
    paintMarks(painter);
}

int SmithChart::traceAt(QPointF point) const {
    int found = -1;
    double nearest = kNear;
    for (std::size_t t = 0; t < traces_.size(); ++t) {
        if (traces_[t].name.isEmpty()) continue;
        for (std::size_t i = 1; i < traces_[t].ohm.size(); ++i) {
            const double d =
                distanceToSegment(point, pointOf(traces_[t].ohm[i - 1]), pointOf(traces_[t].ohm[i]));
            if (d >= nearest) continue;
            nearest = d;
            found = static_cast<int>(t);
        }
    }
    return found;
}

void SmithChart::mouseMoveEvent(QMouseEvent* event) {
    const int trace = traceAt(event->position());
    Q_EMIT blockHovered(trace < 0 ? -1 : traces_[static_cast<std::size_t>(trace)].block);
    const QPointF offset = (event->position() - centre()) / radius();
    const Complex gamma(offset.x(), -offset.y());
    if (std::abs(gamma) < 1.0) Q_EMIT cursorMoved(circuit::impedanceOf(gamma, referenceOhm_));
}

void SmithChart::leaveEvent(QEvent*) {
    Q_EMIT blockHovered(-1);
}

bool SmithChart::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const int trace = traceAt(help->pos());
    if (trace >= 0) {
        QToolTip::showText(help->globalPos(), traces_[static_cast<std::size_t>(trace)].name, this);
        return true;
    }
    const QPointF offset = (QPointF(help->pos()) - centre()) / radius();
    const Complex gamma(offset.x(), -offset.y());
    if (std::abs(gamma) >= 1.0) return QWidget::event(event);
    const Complex z = circuit::impedanceOf(gamma, referenceOhm_);
    QToolTip::showText(help->globalPos(),
                       QString("%1 Ω, SWR %2")
                           .arg(QString::fromStdString(quantity::formatImpedance(z)),
                                QString::fromStdString(quantity::formatSwr(circuit::swr(z, referenceOhm_)))),
                       this);
    return true;
}

}  // namespace rm::app
