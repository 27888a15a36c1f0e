#include "app/stages/boom/boom_drawing.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"

namespace rm::app {

namespace {

constexpr double kReachPx = 7.0;
constexpr double kTipPx = 11.0;
constexpr int kMargin = 26;

}  // namespace

BoomDrawing::BoomDrawing(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumHeight(150);
    setAccessibleName(tr("Boom with its elements"));
    setToolTip(tr("Drag an element along the boom, or its tip to stretch it"));
}

void BoomDrawing::setRow(const model::RowSizes& sizes, bool boom) {
    sizes_ = sizes;
    boom_ = boom;
    // While something is dragged the paper stays where it is.
    if (drag_.grip == Grip::None) fit();
    update();
}

void BoomDrawing::setSelected(int element) {
    selected_ = element;
    update();
}

void BoomDrawing::fit() {
    double low = 0.0;
    double high = 0.1;
    double longest = 0.1;
    for (const auto& e : sizes_.elements) {
        low = std::min(low, e.positionM);
        high = std::max(high, e.positionM);
        if (e.form == model::ElementForm::LoopInPlane) high = std::max(high, e.positionM + e.secondM);
        longest = std::max(longest, e.lengthM);
    }
    const double wide = std::max(40.0, width() - 2.0 * kMargin - 10.0);
    const double tall = std::max(40.0, height() - 2.0 * kMargin - 14.0);
    scale_ = std::min(wide / (high - low), tall / longest);
    origin_ = QPointF(0.5 * width() - 0.5 * (low + high) * scale_, 0.5 * (height() - 14.0));
}

QPointF BoomDrawing::at(double alongM, double acrossM) const {
    return origin_ + QPointF(alongM * scale_, -acrossM * scale_);
}

QPointF BoomDrawing::onBoom(std::size_t element) const {
    return at(sizes_.elements.at(element).positionM, 0.0);
}

QPointF BoomDrawing::tip(std::size_t element) const {
    return outline(sizes_.elements.at(element)).front();
}

/// The conductor that a feed sits on, from tip to tip.
QPolygonF BoomDrawing::outline(const model::ElementSize& e) const {
    const double half = 0.5 * e.lengthM;
    if (e.form != model::ElementForm::Bent)
        return QPolygonF() << at(e.positionM, half) << at(e.positionM, -half);
    const double flat = 0.5 * e.flatM;
    const double ahead = (half - flat) * std::sin(e.sweepDeg * kDegree);
    const double out = flat + (half - flat) * std::cos(e.sweepDeg * kDegree);
    return QPolygonF() << at(e.positionM + ahead, out) << at(e.positionM, flat) << at(e.positionM, -flat)
                       << at(e.positionM + ahead, -out);
}

BoomDrawing::Hit BoomDrawing::hitAt(QPointF where) const {
    Hit hit;
    double nearest = kTipPx;
    for (std::size_t i = 0; i < sizes_.elements.size(); ++i) {
        const QPolygonF line = outline(sizes_.elements[i]);
        for (const QPointF& end : {line.front(), line.back()}) {
            const double d = std::hypot(where.x() - end.x(), where.y() - end.y());
            if (d >= nearest) continue;
            nearest = d;
            hit = {Grip::Tip, static_cast<int>(i)};
        }
    }
    if (hit.grip == Grip::Tip) return hit;
    nearest = kReachPx;
    for (std::size_t i = 0; i < sizes_.elements.size(); ++i) {
        const auto& e = sizes_.elements[i];
        const double d = std::abs(where.x() - at(e.positionM, 0.0).x());
        if (d >= nearest || std::abs(where.y() - origin_.y()) > 0.5 * e.lengthM * scale_) continue;
        nearest = d;
        hit = {Grip::Body, static_cast<int>(i)};
    }
    return hit;
}

void BoomDrawing::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (sizes_.elements.empty()) {
        p.setPen(theme_.softInk);
        p.setFont(textFont(kTextPt));
        p.drawText(rect(), Qt::AlignCenter, tr("The elements cannot be worked out yet."));
        return;
    }
    // The ruler below runs from the start of the boom.
    double low = 0.0;
    double high = 0.0;
    for (const auto& e : sizes_.elements) {
        low = std::min(low, e.positionM);
        high = std::max(high, e.positionM);
    }
    const double ruler = height() - 16.0;
    const LengthUnit unit = lengthUnit();
    p.setFont(textFont(kTinyPt));
    // As many marks as their words leave room for.
    const double room = p.fontMetrics().horizontalAdvance(unit.text(10.25)) + 8.0;
    const double span = std::max(high - low, 0.1);
    const int parts = std::clamp(static_cast<int>(span * scale_ / room), 1, 6);
    const double step = roundStep(span / unit.metres, parts);
    for (const double count : ticksBy(low / unit.metres, high / unit.metres + 0.5 * step, step)) {
        const double x = at(count * unit.metres, 0.0).x();
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(x, ruler - 4), QPointF(x, ruler));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(x - 30, ruler + 1, 60, 13), Qt::AlignCenter, unit.text(count));
    }
    p.setPen(QPen(theme_.line, 0.8));
    p.drawLine(QPointF(at(low, 0).x() - 8, ruler), QPointF(at(high, 0).x() + 8, ruler));
    p.setPen(QPen(boom_ ? theme_.softInk : theme_.line, boom_ ? 4.0 : 1.2,
                  boom_ ? Qt::SolidLine : Qt::DashLine, Qt::RoundCap));
    p.drawLine(at(low, 0.0), at(high, 0.0));
    double aboveTo = -1e9;
    double belowTo = -1e9;
    for (std::size_t i = 0; i < sizes_.elements.size(); ++i) {
        const auto& e = sizes_.elements[i];
        const bool selected = static_cast<int>(i) == selected_;
        const QColor colour = selected ? theme_.reed : theme_.ink;
        const double thick = std::clamp(e.diameterM * scale_, 2.0, 8.0);
        p.setPen(QPen(colour, thick, Qt::SolidLine, Qt::RoundCap));
        p.setBrush(Qt::NoBrush);
        const QPolygonF line = outline(e);
        p.drawPolyline(line);
        if (model::hasSecondConductor(e.form)) {
            // In the plane of the boom to scale; one above the other drawn a little beside.
            const double beside =
                e.form == model::ElementForm::LoopInPlane ? e.secondM * scale_ : 4.0 + 0.5 * thick;
            p.setPen(QPen(colour, 1.6));
            p.drawPolyline(QPolygonF() << line.front() << line.front() + QPointF(beside, 0)
                                       << line.back() + QPointF(beside, 0) << line.back());
        }
        if (e.fed) {
            p.setPen(QPen(theme_.panel, 1.2));
            p.setBrush(theme_.sun);
            p.drawEllipse(at(e.positionM, 0.0), 5.0, 5.0);
        }
        p.setPen(Qt::NoPen);
        p.setBrush(selected ? theme_.reed : theme_.softInk);
        for (const QPointF& end : {line.front(), line.back()}) p.drawEllipse(end, 2.6, 2.6);
        p.setPen(colour);
        p.setFont(textFont(kTinyPt, selected));
        // Where two stand close the second one is labelled at its lower tip, and one more in between not at
        // all: it is in the table, and while it is chosen here.
        const QString label = lengthText(e.lengthM, 3);
        const double wide = p.fontMetrics().horizontalAdvance(label) + 6.0;
        const double x = line.front().x();
        const bool below = x - 0.5 * wide < aboveTo;
        if (below && x < belowTo && !selected) continue;
        (below ? belowTo : aboveTo) = below ? x + wide : x + 0.5 * wide;
        const double labelY = below ? line.back().y() + 5.0 : line.front().y() - 18.0;
        p.drawText(QRectF(below ? x - 2.0 : x - 0.5 * wide, labelY, wide, 13),
                   below ? Qt::AlignLeft : Qt::AlignCenter, label);
    }
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(width() - 66.0, 0.5 * (height() - 14.0) - 20.0, 60, 13), Qt::AlignRight, tr("front →"));
}

void BoomDrawing::resizeEvent(QResizeEvent*) {
    fit();
}

void BoomDrawing::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    drag_ = hitAt(event->position());
    if (drag_.grip == Grip::None) return;
    grabM_ = (event->position().x() - onBoom(static_cast<std::size_t>(drag_.element)).x()) / scale_;
    Q_EMIT chosen(drag_.element);
}

void BoomDrawing::mouseMoveEvent(QMouseEvent* event) {
    const QPointF where = event->position();
    if (!(event->buttons() & Qt::LeftButton) || drag_.grip == Grip::None) {
        const Hit hit = hitAt(where);
        QWidget::setCursor(hit.grip == Grip::Tip    ? Qt::SizeVerCursor
                           : hit.grip == Grip::Body ? Qt::SizeHorCursor
                                                    : Qt::ArrowCursor);
        return;
    }
    constexpr double kGrainM = 0.001;
    const auto& e = sizes_.elements.at(static_cast<std::size_t>(drag_.element));
    if (drag_.grip == Grip::Body) {
        const double metres = (where.x() - origin_.x()) / scale_ - grabM_;
        Q_EMIT positionDragged(drag_.element, std::round(metres / kGrainM) * kGrainM);
        return;
    }
    double half = std::abs(where.y() - origin_.y()) / scale_;
    if (e.form == model::ElementForm::Bent)
        half = 0.5 * e.flatM +
               std::max(0.0, half - 0.5 * e.flatM) / std::max(0.1, std::cos(e.sweepDeg * kDegree));
    Q_EMIT lengthDragged(drag_.element, std::max(kGrainM, std::round(2.0 * half / kGrainM) * kGrainM));
}

void BoomDrawing::mouseReleaseEvent(QMouseEvent*) {
    if (drag_.grip == Grip::None) return;
    drag_ = {};
    fit();
    update();
    Q_EMIT dragFinished();
}

}  // namespace rm::app
