#include "app/stages/chokes/choke_view.h"

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

namespace {

constexpr double kLeft = 46.0;
constexpr double kRight = 26.0;
constexpr double kTop = 22.0;
constexpr double kBottom = 36.0;
constexpr double kBetween = 24.0;
constexpr double kReach = 40.0;

}  // namespace

ChokePlots::ChokePlots(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(tr("Choke study"));
    setMinimumSize(320, 320);
    setToolTip(tr("Move the mouse to read values; click to put the choke there, or to make it that large."));
}

void ChokePlots::setStudy(std::shared_ptr<const study::ChokeStudy> study) {
    study_ = std::move(study);
    cursor_.reset();
    update();
}

double ChokePlots::valueOf(Figure figure, const study::ChokePoint& point) {
    return figure == Figure::Share ? 100.0 * point.share : figure == Figure::Swr ? point.swr : -point.lostDb;
}

double ChokePlots::xOf(std::size_t side, const study::ChokePoint& point) const {
    return side == 0 ? point.alongM : std::log10(std::max(point.ohm, 1e-3));
}

Frame ChokePlots::frameOf(std::size_t side, std::size_t plot) const {
    Frame frame;
    const double wide = 0.5 * width();
    const double each = (height() - kTop - kBottom - kBetween * (kPlots - 1)) / static_cast<double>(kPlots);
    frame.area = {static_cast<double>(side) * wide + kLeft,
                  kTop + static_cast<double>(plot) * (each + kBetween), wide - kLeft - kRight, each};
    frame.x = {xOf(side, points(side).front()), xOf(side, points(side).back())};
    Range values = Range::nothing();
    // One scale for both sides, so that they can be compared; from nothing for the current.
    for (const std::size_t both : {std::size_t{0}, std::size_t{1}})
        for (const auto& point : points(both)) values.include(valueOf(static_cast<Figure>(plot), point));
    values.include(valueOf(static_cast<Figure>(plot), study_->none));
    if (static_cast<Figure>(plot) == Figure::Share) values.include(0.0);
    if (static_cast<Figure>(plot) == Figure::Swr) values.include(1.0);
    frame.y = values.rounded(4, static_cast<Figure>(plot) == Figure::Share ? 5.0 : 0.2);
    return frame;
}

QPointF ChokePlots::placeOf(std::size_t side, std::size_t point) const {
    const auto& p = points(side)[point];
    return frameOf(side, 0).at(xOf(side, p), valueOf(Figure::Share, p));
}

std::optional<ChokePlots::Place> ChokePlots::nearest(const QPointF& at) const {
    std::optional<Place> found;
    if (!study_ || study_->places.empty()) return found;
    const std::size_t side = at.x() < 0.5 * width() ? 0 : 1;
    double best = kReach;
    for (std::size_t i = 0; i < points(side).size(); ++i) {
        const double away = std::abs(frameOf(side, 0).at(xOf(side, points(side)[i]), 0.0).x() - at.x());
        if (away >= best) continue;
        best = away;
        found = Place{side, i};
    }
    return found;
}

QString ChokePlots::reading() const {
    if (!cursor_ || !study_) return {};
    const auto& p = points(cursor_->side)[cursor_->point];
    return tr("%1: %2 % of the feed current on the cable, SWR %3, gain changed by %4 dB, %5 W in the choke")
        .arg(cursor_->side == 0 ? tr("%1 from the feed").arg(lengthText(p.alongM, 1))
                                : QString("%1 Ω").arg(written(p.ohm, 'g', 3)),
             written(100.0 * p.share, 'f', 1), text(quantity::formatSwr(p.swr)),
             text(quantity::formatDb(-p.lostDb, 2)), written(p.watts, 'g', 2));
}

void ChokePlots::paintPlot(QPainter& p, std::size_t side, std::size_t plot) const {
    const Frame frame = frameOf(side, plot);
    const auto figure = static_cast<Figure>(plot);
    const QString titles[] = {tr("% of the feed current on the cable"), tr("SWR at the radio"),
                              tr("change of gain by the run in dB")};
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(frame.area.left(), frame.area.top() - 18, frame.area.width(), 16),
               Qt::AlignLeft | Qt::AlignBottom, titles[plot]);
    p.setFont(textFont(kTinyPt));
    const double step = roundStep(frame.y.span(), 4);
    for (const double v : ticksBy(frame.y.low, frame.y.high, step)) {
        p.setPen(QPen(theme_.line, 0.7));
        p.drawLine(QPointF(frame.area.left(), frame.yOf(v)), QPointF(frame.area.right(), frame.yOf(v)));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(frame.area.left() - kLeft, frame.yOf(v) - 8, kLeft - 6, 16),
                   Qt::AlignRight | Qt::AlignVCenter, tickText(v, step));
    }
    // Without any choke.
    const double none = frame.yOf(valueOf(figure, study_->none));
    p.setPen(QPen(theme_.softInk, 1.0, Qt::DashLine));
    p.drawLine(QPointF(frame.area.left(), none), QPointF(frame.area.right(), none));
    if (plot == 0)
        p.drawText(QRectF(frame.area.left(), none - 15, frame.area.width() - 4, 14), Qt::AlignRight,
                   tr("no choke"));
    QPolygonF curve;
    for (const auto& point : points(side)) curve << frame.at(xOf(side, point), valueOf(figure, point));
    p.setPen(QPen(side == 0 ? theme_.copper : theme_.water, 1.8));
    p.drawPolyline(curve);
    // The choke as it is.
    if (!study_->choke.empty()) {
        const double x = frame.at(xOf(side, study_->now), 0.0).x();
        if (x >= frame.area.left() - 1 && x <= frame.area.right() + 1) {
            p.setPen(QPen(theme_.ink, 1.0));
            p.setBrush(theme_.sun);
            p.drawEllipse(QPointF(x, frame.yOf(valueOf(figure, study_->now))), 4, 4);
        }
    }
    if (cursor_ && cursor_->side == side) {
        p.setPen(QPen(theme_.heather, 1.2));
        const auto& at = points(side)[cursor_->point];
        const double x = frame.at(xOf(side, at), 0.0).x();
        p.drawLine(QPointF(x, frame.area.top()), QPointF(x, frame.area.bottom()));
    }
    if (plot + 1 < kPlots) return;
    p.setPen(theme_.softInk);
    const LengthUnit unit = lengthUnit();
    if (side == 0) {
        const double mark = roundStep(frame.x.span() / unit.metres, 6);
        for (const double at : ticksBy(frame.x.low / unit.metres, frame.x.high / unit.metres, mark))
            p.drawText(QRectF(frame.at(at * unit.metres, 0.0).x() - 24, frame.area.bottom() + 3, 48, 13),
                       Qt::AlignCenter, tickText(at, mark));
    } else {
        for (const double ohm : {10.0, 100.0, 1000.0, 10000.0})
            p.drawText(QRectF(frame.at(std::log10(ohm), 0.0).x() - 24, frame.area.bottom() + 3, 48, 13),
                       Qt::AlignCenter, written(ohm));
    }
    p.drawText(QRectF(frame.area.left() - kLeft, frame.area.bottom() + 18, 0.5 * width(), 14),
               Qt::AlignCenter,
               side == 0 ? tr("the choke so many %1 from the feed").arg(unit.whole)
                         : tr("a choke of so many ohm, where it is"));
}

void ChokePlots::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!study_ || study_->places.empty() || study_->sizes.empty()) return;
    for (std::size_t side = 0; side < 2; ++side)
        for (std::size_t plot = 0; plot < kPlots; ++plot) paintPlot(p, side, plot);
}

void ChokePlots::mouseMoveEvent(QMouseEvent* event) {
    cursor_ = nearest(event->position());
    update();
    Q_EMIT cursorMoved();
}

void ChokePlots::mousePressEvent(QMouseEvent* event) {
    const auto place = nearest(event->position());
    if (!place || event->button() != Qt::LeftButton) return;
    const auto& point = points(place->side)[place->point];
    if (place->side == 0)
        Q_EMIT placeChosen(point.alongM);
    else
        Q_EMIT sizeChosen(point.ohm);
}

void ChokePlots::leaveEvent(QEvent*) {
    cursor_.reset();
    update();
    Q_EMIT cursorMoved();
}

ChokeView::ChokeView(QWidget* parent) : PlotStudy(parent) {
    refresh();
}

QString ChokeView::old() const {
    return tr("The antenna has changed since: these are the curves before.");
}

QString ChokeView::plain() const {
    return shown().study() != nullptr ? text(shown().study()->advice(lengthStyle())) : QString();
}

}  // namespace rm::app
