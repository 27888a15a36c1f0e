#include "app/stages/spacing/spacing_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"
#include "core/quantity/format.h"

namespace rm::app {

SpacingPlot::SpacingPlot(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(280, 200);
    setAccessibleName(tr("Gain and side lobes against spacing"));
    setToolTip(
        tr("Click to set the spacing. In free space: over ground the lobes of the ground come on top"));
}

void SpacingPlot::setPoints(std::vector<study::StackingPoint> points, std::optional<double> adviceM,
                            double nowM) {
    points_ = std::move(points);
    adviceM_ = adviceM;
    nowM_ = nowM;
    update();
}

QRectF SpacingPlot::area() const {
    return QRectF(rect()).adjusted(46, 26, -46, -34);
}

QPointF SpacingPlot::at(double spacingM) const {
    const QRectF r = area();
    const double from = points_.front().spacingM;
    const double to = points_.back().spacingM;
    return {r.left() + r.width() * (spacingM - from) / (to - from), r.center().y()};
}

double SpacingPlot::spacingAt(double x) const {
    const QRectF r = area();
    return points_.front().spacingM +
           (points_.back().spacingM - points_.front().spacingM) * (x - r.left()) / r.width();
}

void SpacingPlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = area();
    if (points_.size() < 2) {
        p.setPen(theme_.softInk);
        p.drawText(r, Qt::AlignCenter, tr("Choose a stack in the Plan and scan its spacing."));
        return;
    }
    double low = 1e9;
    double high = -1e9;
    double worst = -60.0;
    for (const auto& point : points_) {
        low = std::min(low, point.gainDbi);
        high = std::max(high, point.gainDbi);
        if (point.sideLobeDb) worst = std::max(worst, *point.sideLobeDb);
    }
    low = std::floor(low);
    high = std::ceil(high + 0.1);
    constexpr double kFloor = -40.0;
    const auto gainY = [&](double g) { return r.bottom() - r.height() * (g - low) / (high - low); };
    const auto lobeY = [&](double db) {
        return r.bottom() - r.height() * (std::max(db, kFloor) - kFloor) / -kFloor;
    };
    p.setFont(textFont(kTinyPt));
    for (int i = 0; i <= 4; ++i) {
        const double y = r.bottom() - 0.25 * i * r.height();
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(r.left(), y), QPointF(r.right(), y));
        p.setPen(theme_.copper);
        p.drawText(QRectF(0, y - 7, r.left() - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                   QString::fromStdString(quantity::formatDb(low + 0.25 * i * (high - low), 1)));
        p.setPen(theme_.water);
        p.drawText(QRectF(r.right() + 5, y - 7, 40, 14), Qt::AlignLeft | Qt::AlignVCenter,
                   QString::fromStdString(quantity::formatDb(kFloor + 10.0 * i, 0)));
    }
    const double from = points_.front().spacingM;
    const double to = points_.back().spacingM;
    const LengthUnit unit = lengthUnit();
    const double step = roundStep((to - from) / unit.metres, 7);
    for (const double count : ticksBy(from / unit.metres, to / unit.metres, step)) {
        const double m = count * unit.metres;
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(at(m).x(), r.top()), QPointF(at(m).x(), r.bottom()));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(at(m).x() - 24, r.bottom() + 3, 48, 13), Qt::AlignCenter, written(count));
    }
    p.drawText(QRectF(r.left(), r.bottom() + 17, r.width(), 14), Qt::AlignCenter,
               tr("spacing in %1").arg(unit.whole));
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.copper);
    p.drawText(QRectF(r.left(), 4, 0.5 * r.width(), 16), Qt::AlignLeft, tr("gain in free space, dBi"));
    p.setPen(theme_.water);
    p.drawText(QRectF(r.center().x(), 4, 0.5 * r.width(), 16), Qt::AlignRight,
               tr("largest side lobe, dB below"));
    const auto mark = [&](double m, const QColor& colour, const QString& name, double y) {
        if (m < from || m > to) return;
        p.setPen(QPen(colour, 1.4, Qt::DashLine));
        p.drawLine(QPointF(at(m).x(), r.top()), QPointF(at(m).x(), r.bottom()));
        p.drawText(QRectF(at(m).x() + 4, y, 140, 14), Qt::AlignLeft, name);
    };
    p.setFont(textFont(kTinyPt));
    mark(nowM_, theme_.sun, tr("now %1").arg(lengthText(nowM_, 2)), r.bottom() - 32);
    if (adviceM_)
        mark(*adviceM_, theme_.reed, tr("half-power rule %1").arg(lengthText(*adviceM_, 2)), r.bottom() - 18);
    QPolygonF gain;
    QPolygonF lobes;
    for (const auto& point : points_) {
        gain << QPointF(at(point.spacingM).x(), gainY(point.gainDbi));
        if (point.sideLobeDb) lobes << QPointF(at(point.spacingM).x(), lobeY(*point.sideLobeDb));
    }
    p.setPen(QPen(theme_.water, 1.8));
    p.drawPolyline(lobes);
    p.setPen(QPen(theme_.copper, 2.2));
    p.drawPolyline(gain);
    if (!cursorM_) return;
    const auto nearest = std::min_element(points_.begin(), points_.end(), [&](const auto& a, const auto& b) {
        return std::abs(a.spacingM - *cursorM_) < std::abs(b.spacingM - *cursorM_);
    });
    const double x = at(nearest->spacingM).x();
    p.setPen(QPen(theme_.heather, 1.2));
    p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
    p.setFont(textFont(kSmallPt));
    p.drawText(QRectF(r.left(), r.top() + 2, r.width() - 4, 16), Qt::AlignRight,
               tr("%1  %2 dBi  side lobe %3")
                   .arg(lengthText(nearest->spacingM, 2))
                   .arg(QString::fromStdString(quantity::formatDb(nearest->gainDbi, 2)),
                        nearest->sideLobeDb
                            ? QString::fromStdString(quantity::formatDb(*nearest->sideLobeDb)) + " dB"
                            : tr("none")));
}

void SpacingPlot::mouseMoveEvent(QMouseEvent* event) {
    if (points_.size() < 2) return;
    cursorM_ = spacingAt(event->position().x());
    update();
}

void SpacingPlot::mousePressEvent(QMouseEvent* event) {
    if (points_.size() < 2 || !area().contains(event->position())) return;
    Q_EMIT spacingChosen(std::round(100.0 * spacingAt(event->position().x())) / 100.0);
}

void SpacingPlot::leaveEvent(QEvent*) {
    cursorM_.reset();
    update();
}

SpacingView::SpacingView(QWidget* parent) : StudyFrame(parent) {
    setTitle(tr("Stacking distance"));
    plot_ = new SpacingPlot;
    addContent(plot_, 1);
}

}  // namespace rm::app
