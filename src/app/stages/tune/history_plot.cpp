#include "app/stages/tune/history_plot.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"

namespace rm::app {

HistoryPlot::HistoryPlot(QWidget* parent) : Themed(parent) {
    setMinimumSize(130, 80);
    setAccessibleName(tr("Largest miss over time"));
    setToolTip(
        tr("The largest miss of any goal, in units worth minding, over the seconds of work; below the line "
           "all goals are met"));
}

void HistoryPlot::clear() {
    steps_.clear();
    now_ = 0.0;
    update();
}

void HistoryPlot::add(double seconds, double objective) {
    steps_.push_back({seconds, std::min(objective, 60.0)});
    now_ = std::max(now_, seconds);
    update();
}

void HistoryPlot::setNow(double seconds) {
    now_ = std::max(now_, seconds);
    update();
}

void HistoryPlot::paintEvent(QPaintEvent*) {
    if (steps_.empty()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = QRectF(rect()).adjusted(30, 16, -6, -18);
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(0, 0, width(), 14), Qt::AlignLeft | Qt::AlignVCenter, tr("still missing"));
    double top = 0.3;
    double bottom = -0.2;
    for (const auto& step : steps_) {
        top = std::max(top, step.objective);
        bottom = std::min(bottom, step.objective);
    }
    top *= 1.08;
    bottom *= 1.1;
    // The root draws the last steps, which matter, larger than the first leaps.
    const auto squeeze = [](double v) { return v >= 0.0 ? std::sqrt(v) : -std::sqrt(-v); };
    const double high = squeeze(top);
    const double low = squeeze(bottom);
    const auto y = [&](double v) { return r.bottom() - r.height() * (squeeze(v) - low) / (high - low); };
    const double until = std::max(0.5, now_);
    const auto x = [&](double s) { return r.left() + r.width() * s / until; };
    p.setPen(Qt::NoPen);
    p.setBrush(theme_.reedTint);
    p.drawRect(QRectF(QPointF(r.left(), y(0.0)), r.bottomRight()));
    p.setPen(QPen(theme_.reed, 1.0));
    p.drawLine(QPointF(r.left(), y(0.0)), QPointF(r.right(), y(0.0)));
    p.drawText(QRectF(r.left(), y(0.0), r.width() - 3, 13), Qt::AlignRight | Qt::AlignVCenter, tr("met"));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(0, y(top / 1.08) - 7, r.left() - 4, 14), Qt::AlignRight | Qt::AlignVCenter,
               written(top / 1.08, 'g', 2));
    p.drawText(QRectF(0, y(0.0) - 7, r.left() - 4, 14), Qt::AlignRight | Qt::AlignVCenter, "0");
    p.drawText(QRectF(r.left(), r.bottom() + 3, r.width(), 13), Qt::AlignRight,
               QString("%1 s").arg(written(until, 'f', 1)));
    QPolygonF line;
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        if (i > 0) line << QPointF(x(steps_[i].seconds), y(steps_[i - 1].objective));
        line << QPointF(x(steps_[i].seconds), y(steps_[i].objective));
    }
    line << QPointF(x(until), y(steps_.back().objective));
    p.setPen(QPen(theme_.copper, 2.0));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(line);
}

}  // namespace rm::app
