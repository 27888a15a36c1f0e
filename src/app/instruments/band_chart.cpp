#include "app/instruments/band_chart.h"
#include "app/look/key_pointer.h"
#include "app/look/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

namespace rm::app {

namespace {

/// Tallest SWR that the axis shows: all of the curve where that leaves its best part room, otherwise that
/// part.
double swrCeiling(double best, double worst) {
    const double wanted = std::min(1.08 * worst, std::max(8.0, 3.0 * best));
    for (const double ceiling : {2.5, 4.0, 6.0, 8.0, 10.0, 15.0, 20.0, 30.0, 50.0})
        if (wanted <= ceiling) return ceiling;
    return 100.0;
}

/// All that lies between the points of a sweep is drawn (study/sweep_curve.h).
constexpr std::size_t kMostDrawn = 8000;
/// Room for "X = 0".
constexpr double kResonancePx = 36.0;

/// What is compared with the baseline.
QString differenceOf(BandQuantity quantity) {
    switch (quantity) {
        case BandQuantity::Swr:
            return "SWR";
        case BandQuantity::Impedance:
            return "Ω";
        case BandQuantity::Smith:
            return {};
        case BandQuantity::ReturnLoss:
            return tr("return loss, dB");
        case BandQuantity::Phase:
            return tr("phase, °");
        case BandQuantity::Loss:
            return tr("loss, dB");
        case BandQuantity::Gain:
            return tr("gain, dB");
        case BandQuantity::FrontToBack:
            return tr("F/B, dB");
        case BandQuantity::Takeoff:
            return tr("takeoff, °");
    }
    return {};
}

}  // namespace

double valueOf(BandQuantity quantity, Complex ohm, double referenceOhm) {
    if (quantity == BandQuantity::ReturnLoss) return study::returnLossDb(ohm, referenceOhm);
    if (quantity == BandQuantity::Phase) return std::arg(study::reflection(ohm, referenceOhm)) / kDegree;
    return std::min(study::swr(ohm, referenceOhm), 1e3);
}

BandChart::BandChart(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(160, 90);
    setAccessibleName(tr("Band"));
    setToolTip(tr("Move the mouse to read values; click to work at that frequency."));
}

void BandChart::setQuantity(BandQuantity quantity, study::Plane plane) {
    quantity_ = quantity;
    plane_ = plane;
    rebuild();
}

void BandChart::setData(const BandData& shown) {
    data_ = shown;
    rebuild();
}

void BandChart::setRange(double lowHz, double highHz) {
    lowHz_ = lowHz;
    highHz_ = highHz;
    rebuild();
}

void BandChart::setStale(bool stale) {
    if (stale == stale_) return;
    stale_ = stale;
    update();
}

void BandChart::setCursorFrequency(std::optional<double> hz) {
    cursor_ = hz;
    update();
}

Complex BandChart::ohmOf(const study::SweepPoint& p) const {
    return plane_ == study::Plane::Radio ? p.radioOhm : p.antennaOhm;
}

const PinResult* BandChart::baseline() const {
    if (!data_.pins) return nullptr;
    for (const auto& pin : *data_.pins)
        if (pin && pin->baseline && curveOf(*pin, false).size() > 1) return pin.get();
    return nullptr;
}

QList<QPointF> BandChart::compared(QList<QPointF> curve, bool second) const {
    const PinResult* base = baseline();
    if (base == nullptr) return curve;
    const QList<QPointF> reference = curveOf(*base, second);
    for (QPointF& p : curve) {
        auto above = std::lower_bound(reference.begin(), reference.end(), p.x(),
                                      [](const QPointF& q, double x) { return q.x() < x; });
        if (above == reference.end()) --above;
        const auto below = above == reference.begin() ? above : above - 1;
        const double width = above->x() - below->x();
        const double t = width > 0.0 ? std::clamp((p.x() - below->x()) / width, 0.0, 1.0) : 0.0;
        p.setY(p.y() - (1.0 - t) * below->y() - t * above->y());
    }
    return curve;
}

QString BandChart::axisTitle() const {
    if (baseline() != nullptr) {
        return differenceOf(quantity_) + tr(" − baseline");
    }
    const QString where = plane_ == study::Plane::Radio ? tr(" at the radio") : tr(" at the antenna");
    switch (quantity_) {
        case BandQuantity::Impedance:
            return "Ω" + where;
        case BandQuantity::ReturnLoss:
            return tr("return loss, dB") + where;
        case BandQuantity::Phase:
            return tr("phase of reflection") + where;
        case BandQuantity::Loss:
            return tr("feed path loss, dB");
        case BandQuantity::Gain:
            return tr("peak gain, dBi");
        case BandQuantity::FrontToBack:
            return tr("front-to-back, dB");
        case BandQuantity::Takeoff:
            return tr("takeoff angle, °");
        default:
            return "SWR" + where;
    }
}

QList<QPointF> BandChart::curveOf(const study::Sweep* sweep, const std::vector<study::PatternPoint>* patterns,
                                  const model::Expansion* expansion, bool second) const {
    QList<QPointF> curve;
    if (second && quantity_ != BandQuantity::Impedance) return curve;
    if (ofPattern(quantity_)) {
        if (patterns == nullptr) return curve;
        for (const auto& p : *patterns)
            curve << QPointF(p.frequencyHz / 1e6, quantity_ == BandQuantity::Gain      ? p.gainDbi
                                                  : quantity_ == BandQuantity::Takeoff ? p.takeoffDeg
                                                                                       : p.frontToBackDb);
        return curve;
    }
    if (sweep == nullptr) return curve;
    // More points than pixels say nothing more.
    const auto& all = sweep->curve();
    const std::size_t stride = 1 + all.size() / kMostDrawn;
    for (std::size_t i = 0; i < all.size(); i += stride) {
        const auto& p = all[i];
        const Complex z = ohmOf(p);
        double y = 0.0;
        if (quantity_ == BandQuantity::Impedance)
            y = second ? z.imag() : z.real();
        else if (quantity_ == BandQuantity::Loss)
            y = expansion == nullptr
                    ? 0.0
                    : study::feedPathJoints(*expansion, p.antennaOhm, p.frequencyHz, p.harnessLossDb)
                          .back()
                          .totalLossDb;
        else
            y = valueOf(quantity_, z, sweep->referenceOhm);
        curve << QPointF(p.frequencyHz / 1e6, y);
    }
    return curve;
}

QList<QPointF> BandChart::curveOf(const PinResult& pin, bool second) const {
    return curveOf(pin.sweep.get(), pin.patterns.get(), pin.expansion.get(), second);
}

QList<QPointF> BandChart::modelled(bool second) const {
    return compared(curveOf(data_.sweep.get(), data_.patterns.get(), data_.expansion.get(), second), second);
}

QList<QPointF> BandChart::measured(const MeasuredCurve& source, bool second) const {
    QList<QPointF> curve;
    if (ofPattern(quantity_) || quantity_ == BandQuantity::Loss || !data_.sweep) return curve;
    for (const auto& p : source.at(plane_)) {
        if (!inside(p.frequencyHz)) continue;
        const double x = p.frequencyHz / 1e6;
        if (baseline() != nullptr) continue;  // differences are of the modelled curves
        if (quantity_ == BandQuantity::Swr && !second)
            curve << QPointF(x, std::min(p.swr, 1e3));
        else if (p.impedanceOhm && quantity_ == BandQuantity::Impedance)
            curve << QPointF(x, second ? p.impedanceOhm->imag() : p.impedanceOhm->real());
        else if (p.impedanceOhm && !second)
            curve << QPointF(x, valueOf(quantity_, *p.impedanceOhm, data_.sweep->referenceOhm));
    }
    return curve;
}

/// Room for labels and titles round the area, and the values that it holds.
void BandChart::scale() {
    frame_.area = QRectF(rect()).adjusted(50, 6, -8, -31);
    frame_.x = {lowHz_ / 1e6, highHz_ / 1e6};
    // The measurements take part in the scale.
    Range values = Range::nothing();
    const auto take = [&](const QList<QPointF>& curve) {
        for (const QPointF& point : curve) values.include(point.y());
    };
    take(first_);
    take(second_);
    for (const auto& curve : data_.measured)
        for (const bool second : {false, true}) take(measured(curve, second));
    const bool compared = baseline() != nullptr;
    // Differences and pattern figures are scaled to all antennas, the SWR to the live one.
    if (data_.pins && (compared || ofPattern(quantity_)))
        for (const auto& pin : *data_.pins)
            for (const bool second : {false, true})
                if (pin) take(this->compared(curveOf(*pin, second), second));
    if (quantity_ == BandQuantity::Swr && !compared) {
        frame_.y = {1.0, values.empty() ? 4.0 : swrCeiling(values.low, values.high)};
        return;
    }
    const bool fromZero = !ofPattern(quantity_) && quantity_ != BandQuantity::Phase && !compared;
    if (fromZero && !values.empty()) values.include(0.0);
    frame_.y = values.rounded(4, 1.0);
}

void BandChart::rebuild() {
    first_ = modelled(false);
    second_ = modelled(true);
    scale();
    update();
}

void BandChart::resizeEvent(QResizeEvent*) {
    scale();
}

double BandChart::xOf(double hz) const {
    return frame_.xOf(hz / 1e6);
}

double BandChart::yOf(double value) const {
    return frame_.yOf(value);
}

double BandChart::frequencyAt(double x) const {
    return frame_.xAt(x) * 1e6;
}

QString BandChart::cursorText() const {
    if (!cursor_ || !data_.sweep || data_.sweep->points.empty()) return {};
    const study::SweepPoint p = data_.sweep->at(*cursor_);
    const Complex z = ohmOf(p);
    const QString frequency = text(quantity::formatFrequency(*cursor_));
    if (ofPattern(quantity_) && data_.patterns && !data_.patterns->empty()) {
        const auto& points = *data_.patterns;
        const auto nearest =
            std::min_element(points.begin(), points.end(), [&](const auto& a, const auto& b) {
                return std::abs(a.frequencyHz - *cursor_) < std::abs(b.frequencyHz - *cursor_);
            });
        return tr("%1  %2 dBi at %3°  F/B %4 dB")
            .arg(frequency, text(quantity::formatDb(nearest->gainDbi, 2)))
            .arg(written(nearest->takeoffDeg, 'f', 1))
            .arg(written(nearest->frontToBackDb, 'f', 1));
    }
    return QString("%1  SWR %2  %3 Ω")
        .arg(frequency, text(quantity::formatSwr(study::swr(z, data_.sweep->referenceOhm))),
             text(quantity::formatImpedance(z)));
}

QStringList BandChart::notes() const {
    QStringList list;
    if (!data_.sweep || data_.sweep->points.empty()) return list;
    if (quantity_ == BandQuantity::Swr && plane_ == study::Plane::Radio) {
        for (const std::size_t i : {std::size_t{0}, std::size_t{1}})
            if (const auto found = data_.sweep->stretch(data_.limits[i]))
                list << tr("%1 or less over %2 kHz")
                            .arg(data_.limits[i])
                            .arg(written((found->highHz - found->lowHz) / 1e3, 'f', 0));
        list << tr("best %1 at %2")
                    .arg(text(quantity::formatSwr(data_.sweep->bestSwr())),
                         text(quantity::formatFrequency(data_.sweep->bestFrequencyHz())));
    }
    for (const double hz : data_.sweep->resonancesHz())
        list << tr("X = 0 at ") + text(quantity::formatFrequency(hz));
    return list;
}

void BandChart::paintMeasured(QPainter& painter) const {
    for (const auto& source : data_.measured) {
        const QColor hue = theme_.measured(source.index);
        for (const bool second : {false, true}) {
            const auto points = measured(source, second);
            QPolygonF line;
            for (const QPointF& p : points) line << QPointF(xOf(p.x() * 1e6), yOf(p.y()));
            painter.setPen(QPen(hue, 1.0, second ? Qt::DashLine : Qt::SolidLine));
            painter.setBrush(Qt::NoBrush);
            painter.drawPolyline(line);
            painter.setPen(Qt::NoPen);
            painter.setBrush(hue);
            // A dot for every point, as far as they stay apart.
            double last = -10.0;
            for (const QPointF& at : line) {
                if (at.x() - last < 5.0) continue;
                last = at.x();
                painter.drawEllipse(at, 2.1, 2.1);
            }
        }
    }
    // Who is who, where there is something to tell apart.
    if (data_.measured.empty()) return;
    double y = frame_.area.top() + 2.0;
    painter.setFont(textFont(kTinyPt));
    const double right = frame_.area.right() - 6.0;
    const auto line = [&](const QString& name, const QColor& hue) {
        painter.setPen(theme_.words(hue));
        painter.drawText(QRectF(right - 230, y, 230, 12), Qt::AlignRight | Qt::AlignVCenter, name);
        y += 12.0;
    };
    line(tr("modelled"), theme_.copper);
    for (const auto& source : data_.measured) line(source.name, theme_.measured(source.index));
}

/// The sweeps of the pins as thin lines.
void BandChart::paintPins(QPainter& painter) const {
    if (!data_.pins) return;
    painter.setBrush(Qt::NoBrush);
    for (const auto& pin : *data_.pins) {
        if (!pin) continue;
        for (const bool second : {false, true}) {
            QPolygonF line;
            for (const QPointF& p : compared(curveOf(*pin, second), second))
                if (inside(p.x() * 1e6)) line << QPointF(xOf(p.x() * 1e6), yOf(p.y()));
            painter.setPen(QPen(theme_.overlay(pin->colour), 1.4, second ? Qt::DashLine : Qt::SolidLine));
            painter.drawPolyline(line);
        }
    }
}

/// How wide the band is below the first two limits, as bars on them, and where the SWR is best.
void BandChart::paintSwrMarks(QPainter& painter) const {
    const QColor hues[] = {theme_.reed, theme_.sun};
    for (const std::size_t i : {std::size_t{0}, std::size_t{1}}) {
        const auto found = data_.sweep->stretch(data_.limits[i]);
        const bool whole = found && found->lowHz <= data_.sweep->points.front().frequencyHz &&
                           found->highHz >= data_.sweep->points.back().frequencyHz;
        if (!found || whole || data_.limits[i] > frame_.y.high) continue;
        const double y = yOf(data_.limits[i]);
        const double left = xOf(found->lowHz);
        const double right = xOf(found->highHz);
        painter.setPen(QPen(hues[i], 2.4));
        painter.drawLine(QPointF(left, y), QPointF(right, y));
        for (const double x : {left, right}) painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4));
    }
    const double best = data_.sweep->bestFrequencyHz();
    const QPointF at(xOf(best), yOf(data_.sweep->bestSwr()));
    painter.setPen(QPen(theme_.copper, 1.4));
    painter.setBrush(theme_.panel);
    painter.drawEllipse(at, 3.2, 3.2);
}

/// The working frequency, spots, resonances and the cursor.
void BandChart::paintFrequencies(QPainter& painter) const {
    const QRectF plot = frame_.area;
    const auto upright = [&](double hz, const QPen& pen) {
        painter.setPen(pen);
        painter.drawLine(QPointF(xOf(hz), plot.top()), QPointF(xOf(hz), plot.bottom()));
    };
    if (inside(data_.workingHz)) {
        const double x = xOf(data_.workingHz);
        upright(data_.workingHz, QPen(theme_.sun, 1.0, Qt::DotLine));
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme_.sun);
        painter.drawPolygon(
            QPolygonF({{x, plot.bottom() - 6}, {x - 4.5, plot.bottom()}, {x + 4.5, plot.bottom()}}));
    }
    for (const double spot : data_.band.spotsHz)
        if (inside(spot)) {
            painter.setPen(QPen(theme_.softInk, 1.4));
            painter.drawLine(QPointF(xOf(spot), plot.top()), QPointF(xOf(spot), plot.top() + 6));
        }
    if (data_.sweep && !ofPattern(quantity_))
        for (const double hz : data_.sweep->resonancesHz())
            if (inside(hz)) {
                upright(hz, QPen(theme_.water, 0.8, Qt::DashDotLine));
                painter.setPen(theme_.water);
                painter.setFont(textFont(kTinyPt));
                // On the side where no other line is in the way.
                const double x = xOf(hz);
                const double room = xOf(data_.workingHz) - x;
                const bool left = (room >= 0.0 && room < kResonancePx) || x + kResonancePx > plot.right();
                painter.drawText(
                    QRectF(left ? x - 3 - kResonancePx : x + 3, plot.bottom() - 13, kResonancePx, 12),
                    left ? Qt::AlignRight : Qt::AlignLeft, "X = 0");
            }
    if (data_.resonance && inside(data_.resonance->frequencyHz)) {
        const double x = xOf(data_.resonance->frequencyHz);
        upright(data_.resonance->frequencyHz, QPen(theme_.water, 1.2));
        painter.drawText(QRectF(x + 3, plot.top() + 1, 130, 12), Qt::AlignLeft,
                         tr("X = 0 at %1").arg(written(data_.resonance->frequencyHz / 1e6, 'f', 3)));
    }
    if (cursor_ && inside(*cursor_)) upright(*cursor_, QPen(theme_.heather, 1.2));
}

void BandChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!(frame_.x.span() > 0.0) || frame_.area.width() < 20.0 || frame_.area.height() < 20.0) return;
    frame_.paintGrid(painter, theme_, width() > 480 ? 8 : 4, 4);
    frame_.paintTitles(painter, theme_, "MHz", axisTitle());
    painter.save();
    painter.setClipRect(frame_.area.adjusted(-6, -4, 6, 4));
    const auto draw = [&](const QList<QPointF>& curve, const QPen& pen) {
        QPolygonF line;
        for (const QPointF& point : curve) line << frame_.at(point.x(), point.y());
        painter.setPen(pen);
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(line);
    };
    const auto across = [&](double value) {
        painter.setPen(QPen(theme_.reed, 1.2, Qt::DashLine));
        if (value >= frame_.y.low && value <= frame_.y.high)
            painter.drawLine(QPointF(frame_.area.left(), yOf(value)),
                             QPointF(frame_.area.right(), yOf(value)));
    };
    if (quantity_ == BandQuantity::Swr && baseline() == nullptr) across(data_.limits[1]);
    if (quantity_ == BandQuantity::Impedance) across(0.0);
    painter.setOpacity(stale_ ? 0.3 : 1.0);
    draw(second_, QPen(theme_.water, 2.0));
    draw(first_, QPen(theme_.copper, 2.0));
    painter.setOpacity(1.0);
    paintPins(painter);
    paintMeasured(painter);
    if (data_.sweep && !data_.sweep->points.empty() && quantity_ == BandQuantity::Swr &&
        plane_ == study::Plane::Radio && baseline() == nullptr)
        paintSwrMarks(painter);
    painter.restore();
    paintFrequencies(painter);
    painter.setFont(textFont(kTinyPt));
    if (quantity_ == BandQuantity::Impedance) {
        painter.setPen(theme_.copper);
        painter.drawText(QRectF(frame_.area.left() + 5, frame_.area.bottom() - 15, 20, 12), Qt::AlignLeft,
                         "R");
        painter.setPen(theme_.water);
        painter.drawText(QRectF(frame_.area.left() + 19, frame_.area.bottom() - 15, 20, 12), Qt::AlignLeft,
                         "X");
    }
    if (ofPattern(quantity_) && (!data_.patterns || data_.patterns->empty())) {
        painter.setPen(theme_.softInk);
        painter.drawText(frame_.area, Qt::AlignCenter, tr("working…"));
    }
}

void BandChart::mouseMoveEvent(QMouseEvent* event) {
    Q_EMIT cursorMoved(std::clamp(frequencyAt(event->position().x()), lowHz_, highHz_));
}

void BandChart::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        Q_EMIT frequencyChosen(std::clamp(frequencyAt(event->position().x()), lowHz_, highHz_));
}

void BandChart::leaveEvent(QEvent*) {
    Q_EMIT cursorMoved(std::numeric_limits<double>::quiet_NaN());
}

}  // namespace rm::app
