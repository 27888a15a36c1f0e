#include "app/instruments/polar_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "core/quantity/format.h"
#include "core/study/hop.h"
#include "core/study/lobes.h"

namespace rm::app {

namespace {

constexpr double kRingsDb[] = {0.0, -3.0, -10.0, -20.0, -30.0};

/// Difference at the outer ring and, below zero, in the middle where cuts are shown as differences.
constexpr double kDifferenceDb = 20.0;
/// Nulls deeper than this count as this deep in differences.
constexpr double kFloorDbi = -40.0;

QString db(double value, int decimals = 1) {
    return QString::fromStdString(quantity::formatDb(value, decimals));
}

double wrap360(double a) {
    return std::fmod(std::fmod(a, 360.0) + 360.0, 360.0);
}

}  // namespace

PolarView::PolarView(Kind kind, QWidget* parent) : Themed(parent), kind_(kind) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(kind == Kind::Elevation ? tr("Elevation") : tr("Azimuth"));
    setToolTip(kind == Kind::Elevation
                   ? tr("Gain against elevation, towards the bearing of the strongest lobe. "
                        "The outer scale is the distance of one hop "
                        "off a layer 300 km up: geometry, not a forecast.\nClick to cut the "
                        "azimuth at that elevation; double-click for the takeoff angle.")
                   : tr("Gain against compass bearing, at the elevation chosen in the "
                        "elevation instrument: the takeoff angle at first, "
                        "45° where the main lobe goes steeply up.\nClick to cut the "
                        "elevation through that bearing; double-click for the strongest."));
}

void PolarView::setAnalysis(AnalysisPtr analysis, double headingDeg) {
    analysis_ = std::move(analysis);
    headingDeg_ = headingDeg;
    update();
}

void PolarView::setStale(bool stale) {
    if (stale == stale_) return;
    stale_ = stale;
    update();
}

void PolarView::setCursorAngle(std::optional<double> degrees) {
    if (degrees == cursor_) return;
    cursor_ = degrees;
    update();
}

const study::Cut* PolarView::cut() const {
    if (!analysis_) return nullptr;
    return kind_ == Kind::Elevation ? &analysis_->elevation : &analysis_->azimuth;
}

bool PolarView::halfPlane() const {
    return kind_ == Kind::Elevation && (cut() == nullptr || cut()->angleDeg.back() < 200.0);
}

QPointF PolarView::centre() const {
    if (halfPlane()) return {0.5 * width(), height() - 26.0};
    return {0.5 * width(), 24.0 + 0.5 * (height() - 30.0)};
}

double PolarView::radius() const {
    const double side = 0.5 * width() - 42.0;
    if (halfPlane()) return std::max(30.0, std::min(side, height() - 26.0 - 44.0));
    return std::max(30.0, std::min(side, 0.5 * (height() - 30.0) - 20.0));
}

double PolarView::bearingOf(double azimuthDeg) const {
    return wrap360(headingDeg_ - azimuthDeg);
}

double PolarView::screenAngle(double cutAngle) const {
    return kind_ == Kind::Elevation ? cutAngle : 90.0 - bearingOf(cutAngle);
}

QPointF PolarView::pointAt(double cutAngle, double r) const {
    const double a = screenAngle(cutAngle) * kDegree;
    return centre() + QPointF(r * std::cos(a), -r * std::sin(a));
}

/// The strongest gain on the picture, which touches the outer ring.
double PolarView::reference() const {
    double most = analysis_->figures.peak.gainDbi;
    if (pins_)
        for (const auto& pin : *pins_)
            if (pin) most = std::max(most, pin->analysis->figures.peak.gainDbi);
    return most;
}

/// Share of the radius for so many dB: the square root of the field strength, which shows main and side
/// lobes alike, or linear in dB.
double PolarView::shareOf(double belowDb) const {
    if (scale_ == Scale::LinearDb) return std::clamp(1.0 + belowDb / linearDb_, 0.0, 1.02);
    return std::pow(10.0, std::clamp(belowDb, -60.0, 0.5) / 40.0);
}

double PolarView::scale(double gainDbi) const {
    return shareOf(gainDbi - reference());
}

void PolarView::setPins(PinsPtr pins) {
    if (pins == pins_) return;
    pins_ = std::move(pins);
    update();
}

void PolarView::setAngles(const model::Angles& angles) {
    if (angles == angles_) return;
    angles_ = angles;
    update();
}

void PolarView::setScale(Scale scale) {
    scale_ = scale;
    update();
}

void PolarView::setLinearRange(double db) {
    linearDb_ = db;
    update();
}

void PolarView::setLabels(Labels labels) {
    labels_ = labels;
    update();
}

QString PolarView::ringText(double levelDb) const {
    if (!analysis_ || labels_ == Labels::BelowMaximum) return db(levelDb, 0);
    double zero = 0.0;
    if (labels_ == Labels::OverBaseline && pins_)
        for (const auto& pin : *pins_)
            if (pin && pin->baseline) zero = pin->analysis->figures.peak.gainDbi;
    return db(reference() + levelDb - zero, 0);
}

QStringList PolarView::differencesText() const {
    QStringList list;
    const study::Cut* c = cut();
    if (c == nullptr || !pins_) return list;
    for (const auto& pin : *pins_) {
        if (!pin) continue;
        const study::Cut& other =
            kind_ == Kind::Elevation ? pin->analysis->elevation : pin->analysis->azimuth;
        double difference = analysis_->figures.peak.gainDbi - pin->analysis->figures.peak.gainDbi;
        // The same place on the compass is another angle for an antenna that points elsewhere.
        const double turn = kind_ == Kind::Azimuth ? pin->headingDeg - headingDeg_ : 0.0;
        if (cursor_) difference = c->at(*cursor_) - other.at(*cursor_ + turn);
        list << QString("%1%2").arg(difference < 0.0 ? "−" : "+").arg(written(std::abs(difference), 'f', 1));
    }
    return list;
}

QString PolarView::headline() const {
    if (!analysis_) return {};
    const auto& peak = analysis_->figures.peak;
    if (kind_ == Kind::Elevation)
        return tr("%1 dBi at %2°, bearing %3°")
            .arg(db(peak.gainDbi, 2))
            .arg(written(peak.direction.elevationDeg, 'f', 1))
            .arg(std::lround(bearingOf(analysis_->elevation.fixedAngleDeg)) % 360, 3, 10, QChar('0'));
    return tr("at %1° elevation, width %2, F/B %3 dB")
        .arg(written(analysis_->azimuth.fixedAngleDeg, 'f', 1))
        .arg(analysis_->figures.beamwidthDeg > 359.0
                 ? tr("all round")
                 : QString("%1°").arg(std::lround(analysis_->figures.beamwidthDeg)))
        .arg(db(analysis_->figures.frontToBackDb));
}

QString PolarView::cursorText() const {
    const study::Cut* c = cut();
    if (c == nullptr || !cursor_) return {};
    const double gain = c->at(*cursor_);
    const QString value =
        QString("%1 dBi, %2 dB").arg(db(gain, 2), db(gain - analysis_->figures.peak.gainDbi));
    if (kind_ == Kind::Azimuth)
        return QString("%1°  %2").arg(std::lround(bearingOf(*cursor_)) % 360, 3, 10, QChar('0')).arg(value);
    double elevation = *cursor_;
    QString side;
    if (elevation > 90.0 && elevation <= 180.0) {
        elevation = 180.0 - elevation;
        side = tr(" behind");
    } else if (elevation > 180.0) {
        elevation = elevation <= 270.0 ? 180.0 - elevation : elevation - 360.0;
        side = tr(" below");
    }
    QString text = QString("%1°%2  %3").arg(written(elevation, 'f', 0)).arg(side, value);
    if (halfPlane() && elevation > 0.5)
        text += tr("  one hop %1 km")
                    .arg(std::lround(study::hopDistanceKm(elevation, angles_.layerKm) / 10.0) * 10);
    return text;
}

/// The baseline, where the cuts are shown as differences from it.
const PinResult* PolarView::differences() const {
    if (labels_ != Labels::OverBaseline || !pins_) return nullptr;
    for (const auto& pin : *pins_)
        if (pin && pin->baseline) return pin.get();
    return nullptr;
}

double PolarView::shareAt(double gainDbi, double cutAngle) const {
    const PinResult* base = differences();
    if (base == nullptr) return scale(gainDbi);
    const study::Cut& other = kind_ == Kind::Elevation ? base->analysis->elevation : base->analysis->azimuth;
    const double turn = kind_ == Kind::Azimuth ? base->headingDeg - headingDeg_ : 0.0;
    const double over = std::max(kFloorDbi, gainDbi) - std::max(kFloorDbi, other.at(cutAngle + turn));
    return std::clamp(0.5 + 0.5 * over / kDifferenceDb, 0.0, 1.0);
}

/// Radii of the rings with what is written at them.
std::vector<std::pair<double, QString>> PolarView::rings() const {
    std::vector<std::pair<double, QString>> list;
    const double r = radius();
    if (differences() != nullptr) {
        for (const double over : {kDifferenceDb, 0.5 * kDifferenceDb, 0.0, -0.5 * kDifferenceDb})
            list.emplace_back(r * (0.5 + 0.5 * over / kDifferenceDb), (over > 0.0 ? "+" : "") + db(over, 0));
        return list;
    }
    for (const double level : kRingsDb) {
        if (scale_ == Scale::LinearDb && -level > linearDb_) continue;
        // The outer ring is the strongest lobe itself: it needs a number only where that is not zero.
        const bool plain = level == 0.0 && labels_ == Labels::BelowMaximum;
        list.emplace_back(r * shareOf(level), plain ? QString() : ringText(level));
    }
    return list;
}

void PolarView::paintScale(QPainter& p) const {
    if (halfPlane()) paintNeeded(p);
    paintRings(p);
    if (kind_ == Kind::Azimuth)
        paintCompass(p);
    else if (halfPlane())
        paintHopRuler(p);
}

void PolarView::paintRings(QPainter& p) const {
    const double r = radius();
    p.setFont(textFont(kTinyPt));
    for (const auto& [s, label] : rings()) {
        p.setPen(QPen(theme_.line, label.isEmpty() ? 1.3 : 0.9));
        p.setBrush(Qt::NoBrush);
        const QRectF box(centre().x() - s, centre().y() - s, 2 * s, 2 * s);
        if (halfPlane())
            p.drawArc(box, 0, 180 * 16);
        else
            p.drawEllipse(box);
    }
    p.setPen(QPen(theme_.line, 0.9));
    for (int a = 0; a < 360; a += 30) {
        if (halfPlane() && a > 180) break;
        const double angle = a * kDegree;
        p.drawLine(centre(), centre() + QPointF(r * std::cos(angle), -r * std::sin(angle)));
    }
    if (halfPlane()) {
        p.setPen(QPen(theme_.softInk, 1.2));
        p.drawLine(QPointF(centre().x() - r - 30, centre().y()),
                   QPointF(centre().x() + r + 30, centre().y()));
        QPen dotted(theme_.softInk, 0.8, Qt::DotLine);
        p.setPen(dotted);
        for (const double watch : angles_.watchDeg) p.drawLine(centre(), pointAt(watch, r));
        p.setPen(theme_.softInk);
        for (const int a : {30, 60, 90, 120, 150}) {
            const QPointF at = pointAt(a, r - 11);
            p.drawText(QRectF(at.x() - 16, at.y() - 7, 32, 14), Qt::AlignCenter,
                       QString("%1°").arg(a <= 90 ? a : 180 - a));
        }
    }
    // Ring labels along a spoke that the curve rarely crosses.
    p.setPen(theme_.softInk);
    for (const auto& [s, label] : rings()) {
        const double a = (halfPlane() ? 98.0 : 72.0) * kDegree;
        const QPointF at = centre() + QPointF(s * std::cos(a), -s * std::sin(a));
        p.drawText(QRectF(at.x() - 14, at.y() - 6, 28, 12), Qt::AlignCenter, label);
    }
}

void PolarView::paintHopRuler(QPainter& p) const {
    const double r = radius();
    p.setFont(textFont(kTinyPt));
    const QRectF box(centre().x() - r - 6, centre().y() - r - 6, 2 * r + 12, 2 * r + 12);
    p.setPen(QPen(theme_.water, 1.6));
    p.drawArc(box, 0, 180 * 16);
    for (const double km : {250.0, 500.0, 1000.0, 1500.0, 2000.0, 3000.0}) {
        const double el = study::hopElevationDeg(km, angles_.layerKm);
        if (el < 0.0) continue;
        for (const double angle : {el, 180.0 - el}) {
            p.setPen(QPen(theme_.water, 1.2));
            p.drawLine(pointAt(angle, r + 3), pointAt(angle, r + 9));
            if (km == 1500.0) continue;
            const QPointF at = pointAt(angle, r + 22);
            p.setPen(theme_.water);
            p.drawText(QRectF(at.x() - 20, at.y() - 7, 40, 14), Qt::AlignCenter, written(km, 'f', 0));
        }
    }
    p.setPen(theme_.water);
    p.drawText(QRectF(centre().x() - 60, centre().y() - r - 25, 120, 12), Qt::AlignCenter,
               tr("km in one hop"));
}

void PolarView::paintCompass(QPainter& p) const {
    const double r = radius();
    p.setFont(textFont(kTinyPt, true));
    const struct {
        QString name;
        double bearing;
    } points[] = {{tr("N"), 0}, {tr("E"), 90}, {tr("S"), 180}, {tr("W"), 270}};
    for (const auto& point : points) {
        const double a = (90.0 - point.bearing) * kDegree;
        const QPointF at = centre() + QPointF((r + 10) * std::cos(a), -(r + 10) * std::sin(a));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(at.x() - 10, at.y() - 7, 20, 14), Qt::AlignCenter, point.name);
    }
    // Where the antenna's front points: a small wedge on the rim.
    const double front = (90.0 - headingDeg_) * kDegree;
    const auto rim = [&](double offset, double radius) {
        return centre() + QPointF(radius * std::cos(front + offset), -radius * std::sin(front + offset));
    };
    p.setPen(Qt::NoPen);
    p.setBrush(theme_.copper);
    p.drawPolygon(QPolygonF({rim(0.0, r + 8), rim(0.045, r), rim(-0.045, r)}));
}

void PolarView::paintCurve(QPainter& p) const {
    const study::Cut& c = *cut();
    const double r = radius();
    QPolygonF curve;
    for (std::size_t i = 0; i < c.angleDeg.size(); ++i)
        curve << pointAt(c.angleDeg[i], r * shareAt(c.gainDbi[i], c.angleDeg[i]));
    QPainterPath area;
    area.addPolygon(curve);
    if (halfPlane()) area.lineTo(centre());
    area.closeSubpath();
    QColor fill = theme_.copper;
    fill.setAlphaF(0.13F);
    p.setPen(Qt::NoPen);
    p.setBrush(fill);
    p.drawPath(area);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme_.copper, 2.0, Qt::SolidLine, Qt::FlatCap, Qt::BevelJoin));
    p.drawPolyline(curve);
    // The strongest direction of this cut.
    const auto peak = std::max_element(c.gainDbi.begin(), c.gainDbi.end());
    const double angle = c.angleDeg[static_cast<std::size_t>(peak - c.gainDbi.begin())];
    p.setPen(QPen(theme_.copper, 1.2));
    p.setBrush(theme_.panel);
    p.drawEllipse(pointAt(angle, r * shareAt(*peak, angle)), 3.2, 3.2);
}

void PolarView::paintPins(QPainter& p) const {
    if (!pins_) return;
    const double r = radius();
    p.setBrush(Qt::NoBrush);
    for (const auto& pin : *pins_) {
        if (!pin) continue;
        const study::Cut& c = kind_ == Kind::Elevation ? pin->analysis->elevation : pin->analysis->azimuth;
        const double turn = kind_ == Kind::Azimuth ? headingDeg_ - pin->headingDeg : 0.0;
        QPolygonF curve;
        for (std::size_t i = 0; i < c.angleDeg.size(); ++i)
            curve << pointAt(c.angleDeg[i] + turn, r * shareAt(c.gainDbi[i], c.angleDeg[i] + turn));
        p.setPen(QPen(theme_.overlay(pin->colour), 1.5, Qt::SolidLine, Qt::FlatCap, Qt::BevelJoin));
        p.drawPolyline(curve);
    }
}

/// Half-power points, nulls and the largest side lobe of the live cut.
void PolarView::paintMarks(QPainter& p) const {
    if (differences() != nullptr) return;
    const study::CutFigures f = study::readCut(*cut());
    const double r = radius();
    p.setPen(QPen(theme_.copper, 1.2, Qt::DashLine));
    for (const auto& edge : {f.lowDeg, f.highDeg})
        if (edge) p.drawLine(pointAt(*edge, 0.12 * r), pointAt(*edge, r * scale(f.maximum.gainDbi - 3.0)));
    p.setPen(QPen(theme_.softInk, 1.6));
    for (const auto& null : f.nulls) p.drawLine(pointAt(null.angleDeg, r - 4), pointAt(null.angleDeg, r + 2));
    if (f.sideLobe && *f.sideLobeDb() > -30.0) {
        p.setPen(QPen(theme_.copper, 1.2));
        p.setBrush(theme_.panel);
        const QPointF at = pointAt(f.sideLobe->angleDeg, r * scale(f.sideLobe->gainDbi));
        p.drawRect(QRectF(at.x() - 2.6, at.y() - 2.6, 5.2, 5.2));
    }
}

/// The angles that the wanted distances need, as a wedge on both sides.
void PolarView::paintNeeded(QPainter& p) const {
    const auto range = study::neededAngles(angles_);
    if (!range) return;
    QColor fill = theme_.reed;
    fill.setAlphaF(0.14F);
    p.setPen(Qt::NoPen);
    p.setBrush(fill);
    const double r = radius() + 6;
    const QRectF box(centre().x() - r, centre().y() - r, 2 * r, 2 * r);
    const double span = range->highDeg - range->lowDeg;
    for (const double from : {range->lowDeg, 180.0 - range->highDeg})
        p.drawPie(box, static_cast<int>(std::lround(16 * from)), static_cast<int>(std::lround(16 * span)));
}

void PolarView::paintCursor(QPainter& p) const {
    if (!cursor_) return;
    const double r = radius();
    p.setPen(QPen(theme_.heather, 1.2));
    p.drawLine(centre(), pointAt(*cursor_, r));
    const double gain = cut()->at(*cursor_);
    if (gain > -60.0) {
        p.setBrush(theme_.heather);
        p.drawEllipse(pointAt(*cursor_, r * shareAt(gain, *cursor_)), 3.5, 3.5);
    }
}

void PolarView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kTitlePt, true));
    p.setPen(theme_.ink);
    p.drawText(QRectF(10, 4, 120, 18), Qt::AlignLeft | Qt::AlignVCenter,
               kind_ == Kind::Elevation ? tr("Elevation") : tr("Azimuth"));
    if (stale_) p.setOpacity(0.35);
    scaleLayer_(p, size(), Qt::transparent,
                {rings(), angles_, headingDeg_, halfPlane(), theme_.dark, textFont(kTinyPt)},
                [this](QPainter& painter) { paintScale(painter); });
    if (cut() != nullptr) {
        paintPins(p);
        paintCurve(p);
        paintMarks(p);
        paintCursor(p);
        p.setFont(textFont(kSmallPt));
        const QString text = cursor_ ? cursorText() : headline();
        p.setPen(cursor_ ? theme_.heather : theme_.ink);
        p.drawText(QRectF(90, 4, width() - 100, 18), Qt::AlignRight | Qt::AlignVCenter, text);
        // Below it, in the colours of the pins, how far the live pattern is above each.
        const QStringList differences = differencesText();
        double right = width() - 10.0;
        qsizetype number = differences.size();
        for (auto pin = pins_ ? pins_->rbegin() : decltype(pins_->rbegin()){}; pins_ && pin != pins_->rend();
             ++pin) {
            if (!*pin) continue;
            const QString words = differences[--number];
            const double wide = p.fontMetrics().horizontalAdvance(words) + 10.0;
            p.setPen(theme_.words(theme_.overlay((*pin)->colour)));
            p.drawText(QRectF(right - wide, 20, wide, 14), Qt::AlignRight | Qt::AlignVCenter, words);
            right -= wide;
        }
        if (!stale_) Q_EMIT painted(0);
    }
}

std::optional<double> PolarView::angleAt(const QPointF& point) const {
    const QPointF d = point - centre();
    if (cut() == nullptr || (halfPlane() && d.y() > 6.0)) return std::nullopt;
    const double screen = std::atan2(-d.y(), d.x()) / kDegree;
    if (halfPlane()) return std::round(std::clamp(screen < -90.0 ? screen + 360.0 : screen, 0.0, 180.0));
    return std::round(wrap360(kind_ == Kind::Elevation ? screen : headingDeg_ - (90.0 - screen)));
}

void PolarView::mouseMoveEvent(QMouseEvent* event) {
    if (const auto angle = angleAt(event->position())) Q_EMIT cursorMoved(*angle);
}

void PolarView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    if (const auto angle = angleAt(event->position())) Q_EMIT angleChosen(*angle);
}

void PolarView::mouseDoubleClickEvent(QMouseEvent*) {
    Q_EMIT resetRequested();
}

void PolarView::leaveEvent(QEvent*) {
    Q_EMIT cursorMoved(std::numeric_limits<double>::quiet_NaN());
}

}  // namespace rm::app
