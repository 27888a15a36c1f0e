#include "app/stages/radials/radial_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kLeft = 46.0;
constexpr double kRight = 62.0;
constexpr double kTop = 22.0;
constexpr double kBottom = 36.0;
constexpr double kBetween = 24.0;
/// A click or the pointer takes what is this close.
constexpr double kReach = 40.0;
/// The gain is that at the second watch angle, as in the advice.
constexpr std::size_t kWatch = 1;

double axisOf(int count) {
    return std::log2(static_cast<double>(count));
}

QString words(double lengthM) {
    const LengthUnit unit = lengthUnit();
    return QString("%1 %2").arg(written(lengthM / unit.metres, 'g', 3), unit.name);
}

}  // namespace

RadialPlots::RadialPlots(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(tr("Radials study"));
    setMinimumSize(320, 320);
    setToolTip(tr("Move the mouse to read values; click to lay that many radials of that length."));
}

void RadialPlots::setStudy(std::shared_ptr<const study::RadialStudy> study) {
    study_ = std::move(study);
    if (study_) now_ = study_->now.count;
    cursor_.reset();
    update();
}

void RadialPlots::setNow(int count) {
    now_ = count;
    update();
}

double RadialPlots::valueOf(Figure figure, const study::RadialPoint& point) const {
    switch (figure) {
        case Figure::Gain:
            return point.watchGainDbi[kWatch];
        case Figure::Resistance:
            return point.ohm.real();
        default:
            return 100.0 * point.skyShare;
    }
}

QColor RadialPlots::hue(std::size_t curve) const {
    const QColor hues[] = {theme_.copper, theme_.overlay(1), theme_.overlay(0)};
    return hues[curve];
}

Frame RadialPlots::frameOf(std::size_t plot) const {
    Frame frame;
    const double each = (height() - kTop - kBottom - kBetween * (kPlots - 1)) / static_cast<double>(kPlots);
    frame.area = {kLeft, kTop + static_cast<double>(plot) * (each + kBetween), width() - kLeft - kRight,
                  each};
    const auto& counts = study::radialCounts();
    frame.x = {axisOf(counts.front()), axisOf(counts.back())};
    Range values = Range::nothing();
    for (const auto& curve : study_->curves)
        for (const auto& point : curve.points) values.include(valueOf(static_cast<Figure>(plot), point));
    frame.y = values.rounded(4, 1.0);
    return frame;
}

QPointF RadialPlots::placeOf(std::size_t curve, std::size_t point) const {
    const auto& p = study_->curves[curve].points[point];
    return frameOf(0).at(axisOf(p.count), valueOf(Figure::Gain, p));
}

std::optional<RadialPlots::Place> RadialPlots::nearest(const QPointF& at) const {
    std::optional<Place> found;
    if (!study_) return found;
    double best = kReach;
    for (std::size_t plot = 0; plot < kPlots; ++plot) {
        const Frame frame = frameOf(plot);
        for (std::size_t c = 0; c < study_->curves.size(); ++c)
            for (std::size_t i = 0; i < study_->curves[c].points.size(); ++i) {
                const auto& p = study_->curves[c].points[i];
                const QPointF away = frame.at(axisOf(p.count), valueOf(static_cast<Figure>(plot), p)) - at;
                const double distance = std::hypot(away.x(), away.y());
                if (distance >= best) continue;
                best = distance;
                found = Place{c, i};
            }
    }
    return found;
}

QString RadialPlots::reading() const {
    if (!cursor_ || !study_) return {};
    const auto& curve = study_->curves[cursor_->curve];
    const auto& p = curve.points[cursor_->point];
    return tr("%1 × %2, %3 of wire: %4 Ω, SWR %5, %6 dBi at %7°, %8 % to the sky")
        .arg(p.count)
        .arg(words(curve.lengthM), lengthText(p.wireM, 0))
        .arg(text(quantity::formatImpedance(p.ohm)), text(quantity::formatSwr(p.swr)),
             text(quantity::formatDb(p.watchGainDbi[kWatch], 1)))
        .arg(study_->look.watchDeg[kWatch])
        .arg(written(100.0 * p.skyShare, 'f', 0));
}

void RadialPlots::paintPlot(QPainter& painter, std::size_t plot) const {
    const Frame frame = frameOf(plot);
    const QString titles[] = {tr("gain in dBi at %1°").arg(study_->look.watchDeg[kWatch]),
                              tr("resistance in Ω"), tr("% of the power to the sky")};
    painter.setFont(textFont(kSmallPt));
    painter.setPen(theme_.softInk);
    painter.drawText(QRectF(frame.area.left(), frame.area.top() - 18, frame.area.width(), 16),
                     Qt::AlignLeft | Qt::AlignBottom, titles[plot]);
    painter.setFont(textFont(kTinyPt));
    const double step = roundStep(frame.y.span(), 4);
    for (const double v : ticksBy(frame.y.low, frame.y.high, step)) {
        painter.setPen(QPen(theme_.line, 0.7));
        painter.drawLine(QPointF(frame.area.left(), frame.yOf(v)), QPointF(frame.area.right(), frame.yOf(v)));
        painter.setPen(theme_.softInk);
        painter.drawText(QRectF(0, frame.yOf(v) - 8, kLeft - 6, 16), Qt::AlignRight | Qt::AlignVCenter,
                         tickText(v, step));
    }
    std::vector<EndName> ends;
    for (std::size_t c = 0; c < study_->curves.size(); ++c) {
        if (study_->curves[c].points.empty()) continue;
        QPolygonF line;
        for (const auto& p : study_->curves[c].points)
            line << frame.at(axisOf(p.count), valueOf(static_cast<Figure>(plot), p));
        painter.setPen(QPen(hue(c), 2.0, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(line);
        painter.setPen(Qt::NoPen);
        painter.setBrush(hue(c));
        for (const QPointF& at : line) painter.drawEllipse(at, 2.2, 2.2);
        ends.push_back({line.back().y(), words(study_->curves[c].lengthM), hue(c)});
    }
    paintEndNames(painter, frame.area, kRight, std::move(ends));
}

void RadialPlots::paintNumbers(QPainter& painter) const {
    const Frame last = frameOf(kPlots - 1);
    painter.setFont(textFont(kTinyPt));
    painter.setPen(theme_.softInk);
    double taken = -1e9;
    for (const int count : study::radialCounts()) {
        const double x = last.xOf(axisOf(count));
        if (x - taken < 24.0) continue;
        taken = x;
        painter.drawText(QRectF(x - 20, last.area.bottom() + 3, 40, 14), Qt::AlignCenter,
                         QString::number(count));
    }
    painter.drawText(QRectF(last.area.left(), last.area.bottom() + 18, last.area.width(), 14),
                     Qt::AlignCenter, tr("number of radials"));
}

void RadialPlots::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!study_ || !study_->complete) return;
    for (std::size_t i = 0; i < kPlots; ++i) paintPlot(painter, i);
    paintNumbers(painter);
    const Frame first = frameOf(0);
    const Frame last = frameOf(kPlots - 1);
    if (now_ >= study::radialCounts().front() && now_ <= study::radialCounts().back()) {
        const double x = first.xOf(axisOf(now_));
        painter.setPen(QPen(theme_.ink, 1.4, Qt::DashLine));
        painter.drawLine(QPointF(x, first.area.top()), QPointF(x, last.area.bottom()));
        painter.setFont(textFont(kTinyPt, true));
        const bool left = x > first.area.right() - 60;
        painter.drawText(QRectF(left ? x - 64 : x + 4, first.area.bottom() - 16, 60, 14),
                         left ? Qt::AlignRight : Qt::AlignLeft, tr("now %1").arg(now_));
    }
    if (!cursor_) return;
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme_.heather);
    const auto& p = study_->curves[cursor_->curve].points[cursor_->point];
    for (std::size_t i = 0; i < kPlots; ++i)
        painter.drawEllipse(frameOf(i).at(axisOf(p.count), valueOf(static_cast<Figure>(i), p)), 4.0, 4.0);
}

void RadialPlots::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = nearest(event->position());
    update();
    Q_EMIT cursorMoved();
}

void RadialPlots::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    if (const auto place = nearest(event->position()))
        Q_EMIT radialsChosen(study_->curves[place->curve].points[place->point].count,
                             study_->curves[place->curve].lengthM);
}

void RadialPlots::leaveEvent(QEvent*) {
    cursor_.reset();
    update();
    Q_EMIT cursorMoved();
}

// ---------------------------------------------------------------------------------------------------------

RadialView::RadialView(QWidget* parent) : PlotStudy(parent) {
    refresh();
}

QString RadialView::old() const {
    return tr("The design has changed since: only the radials may differ.");
}

QString RadialView::plain() const {
    return shown().study() != nullptr ? text(shown().study()->advice(lengthStyle())) : QString();
}

}  // namespace rm::app
