#include "app/stages/shape/yard.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <map>

#include "core/em/far_field.h"
#include "core/em/quadrature.h"
#include "core/em/span_basis.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

/// Of a wire's colour, what is left under the ground.
constexpr float kThroughGround = 0.4F;

/// 1, 2 or 5 times a power of ten that gives about `parts` steps over `span`.
double gridStep(double span, int parts) {
    const double raw = span / parts;
    if (!(raw > 0.0) || !std::isfinite(raw)) return 1.0;
    const double power = std::pow(10.0, std::floor(std::log10(raw)));
    for (const double m : {1.0, 2.0, 5.0})
        if (m * power >= raw) return m * power;
    return 10.0 * power;
}

double distanceToSegment(const QPointF& p, const QPointF& a, const QPointF& b) {
    const QPointF ab = b - a;
    const double length2 = QPointF::dotProduct(ab, ab);
    const double t = length2 > 0.0 ? std::clamp(QPointF::dotProduct(p - a, ab) / length2, 0.0, 1.0) : 0.0;
    const QPointF d = p - (a + t * ab);
    return std::hypot(d.x(), d.y());
}

}  // namespace

Yard::Yard(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName("Yard");
}

void Yard::setWires(ExpansionPtr expansion) {
    expansion_ = std::move(expansion);
    analysis_.reset();
    grid_.reset();
    remarks_.clear();
    if (!fitted_ && expansion_ && !expansion_->model.wires.empty()) fit();
    update();
}

void Yard::setResults(const ResultsPtr& results) {
    if (expansion_ == results->expansion && analysis_ == results->analysis && grid_ == results->lobe &&
        remarks_ == results->remarks)
        return;
    setWires(results->expansion);
    analysis_ = results->analysis;
    grid_ = results->lobe;
    remarks_ = results->remarks;
}

void Yard::setStale(bool stale) {
    if (stale_ == stale) return;
    stale_ = stale;
    update();
}

void Yard::setSelectedPart(const QString& name) {
    selected_ = name;
    update();
}

void Yard::setCaption(const QString& caption) {
    caption_ = caption;
    update();
}

void Yard::setShowCurrents(bool show) {
    currents_ = show;
    update();
}

void Yard::setShowLobe(bool show) {
    lobe_ = show;
    update();
}

void Yard::setRay(std::optional<em::Direction> direction) {
    cursor_ = direction;
    update();
}

void Yard::setShowPhase(bool show) {
    phase_ = show;
    update();
}

bool Yard::overGround() const {
    return expansion_ && expansion_->model.ground.kind != model::GroundKind::FreeSpace;
}

double Yard::extent() const {
    if (!expansion_ || expansion_->model.wires.empty()) return 20.0;
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);
    for (const auto& wire : expansion_->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            low = low.cwiseMin(end);
            high = high.cwiseMax(end);
        }
    if (overGround()) low.z() = 0.0;
    return std::max(0.05, (high - low).norm());
}

void Yard::fit() {
    if (!expansion_ || expansion_->model.wires.empty()) return;
    std::vector<Vec3> points;
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);
    for (const auto& wire : expansion_->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            points.push_back(end);
            if (overGround()) points.emplace_back(end.x(), end.y(), 0.0);
            low = low.cwiseMin(end);
            high = high.cwiseMax(end);
        }
    if (overGround()) low.z() = 0.0;
    centreM_ = 0.5 * (low + high);
    camera_.target = centreM_;
    camera_.distanceM = extent();
    if (overGround())  // room for the compass round the antenna
        for (int i = 0; i < 8; ++i)
            points.push_back(Vec3(centreM_.x(), centreM_.y(), 0.0) +
                             compassReach() * 1.2 * Vec3(std::cos(i * kPi / 4), std::sin(i * kPi / 4), 0.0));
    // Project, then zoom and shift until everything fills most of the view.
    for (int step = 0; step < 4; ++step) {
        QPolygonF shadow;
        for (const Vec3& point : points) shadow << camera_.project(point, size()).at;
        const QRectF box = shadow.boundingRect();
        const QPointF off = box.center() - QPointF(0.5 * width(), 0.5 * height() + 6);
        const double metres = 1.0 / camera_.pixelsPerM(size());
        camera_.target += metres * (off.x() * camera_.right() - off.y() * camera_.up());
        camera_.distanceM *= std::max({box.width() / std::max(60.0, width() - 56.0),
                                       box.height() / std::max(60.0, height() - 96.0), 1e-3});
    }
    fitted_ = true;
    touched_ = false;
    update();
}

/// Radius of the compass on the ground.
double Yard::compassReach() const {
    return 0.5 * extent();
}

void Yard::resizeEvent(QResizeEvent*) {
    if (fitted_ && !touched_) fit();
}

void Yard::viewFromFront() {
    camera_.azimuthDeg = 0.0;
    camera_.elevationDeg = 3.0;
    fit();
}

void Yard::viewFromSide() {
    camera_.azimuthDeg = 270.0;
    camera_.elevationDeg = 3.0;
    fit();
}

void Yard::viewFromAbove() {
    camera_.azimuthDeg = 180.0;
    camera_.elevationDeg = 89.0;
    fit();
}

void Yard::viewAtAnAngle() {
    camera_.azimuthDeg = 215.0;
    camera_.elevationDeg = 18.0;
    fit();
}

void Yard::line(QPainter& p, const Vec3& from, const Vec3& to) const {
    p.drawLine(camera_.project(from, size()).at, camera_.project(to, size()).at);
}

void Yard::paintGround(QPainter& p) const {
    if (!overGround()) return;
    const double span = 1.9 * extent();
    const double step = gridStep(span, 12);
    const int n = static_cast<int>(std::ceil(0.5 * span / step));
    const double edge = n * step;
    const Vec3 c(std::round(centreM_.x() / step) * step, std::round(centreM_.y() / step) * step, 0.0);
    QPolygonF field;
    for (const auto& [x, y] : {std::pair{-edge, -edge}, {edge, -edge}, {edge, edge}, {-edge, edge}})
        field << camera_.project(c + Vec3(x, y, 0), size()).at;
    QColor grass = theme_.reed;
    grass.setAlphaF(theme_.dark ? 0.10F : 0.09F);
    p.setPen(Qt::NoPen);
    p.setBrush(grass);
    p.drawPolygon(field);
    QColor grid = theme_.reed;
    grid.setAlphaF(0.28F);
    p.setPen(QPen(grid, 0.8));
    for (int i = -n; i <= n; ++i) {
        line(p, c + Vec3(i * step, -edge, 0), c + Vec3(i * step, edge, 0));
        line(p, c + Vec3(-edge, i * step, 0), c + Vec3(edge, i * step, 0));
    }
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(12, height() - 20, 200, 14), Qt::AlignLeft | Qt::AlignVCenter,
               QString("grid %1 m").arg(step));
}

void Yard::paintCompass(QPainter& p) const {
    if (!expansion_) return;
    const double reach = compassReach();
    const Vec3 c(centreM_.x(), centreM_.y(), overGround() ? 0.0 : centreM_.z());
    const auto toward = [&](double bearing) {
        const double azimuth = (expansion_->headingDeg - bearing) * kDegree;
        return Vec3(std::cos(azimuth), std::sin(azimuth), 0.0);
    };
    p.setFont(textFont(kSmallPt, true));
    for (const auto& [name, bearing] : {std::pair{"N", 0.0}, {"E", 90.0}, {"S", 180.0}, {"W", 270.0}}) {
        const Vec3 out = c + reach * 1.16 * toward(bearing);
        const QPointF at = camera_.project(out, size()).at;
        p.setPen(bearing == 0.0 ? theme_.ink : theme_.softInk);
        p.drawText(QRectF(at.x() - 10, at.y() - 8, 20, 16), Qt::AlignCenter, name);
    }
    p.setPen(QPen(theme_.softInk, 1.2));
    line(p, c + reach * 0.9 * toward(0), c + reach * 1.02 * toward(0));
    // The front of the antenna.
    const Vec3 front = Vec3::UnitX();
    const Vec3 side = Vec3::UnitY();
    const QPointF tip = camera_.project(c + reach * front, size()).at;
    QPolygonF arrow{{tip, camera_.project(c + reach * (0.90 * front + 0.035 * side), size()).at,
                     camera_.project(c + reach * (0.90 * front - 0.035 * side), size()).at}};
    QColor copper = theme_.copper;
    copper.setAlphaF(0.75F);
    p.setPen(Qt::NoPen);
    p.setBrush(copper);
    p.drawPolygon(arrow);
    p.setPen(theme_.copper);
    p.setFont(textFont(kTinyPt));
    const int bearing = static_cast<int>(std::lround(std::fmod(expansion_->headingDeg + 360.0, 360.0))) % 360;
    p.drawText(QRectF(tip.x() - 40, tip.y() + 3, 80, 12), Qt::AlignCenter,
               QString("front %1°").arg(bearing, 3, 10, QChar('0')));
    if (cursor_) {
        const double a = cursor_->azimuthDeg * kDegree;
        const double e = cursor_->elevationDeg * kDegree;
        p.setPen(QPen(theme_.heather, 1.4));
        line(p, c, c + reach * Vec3(std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e)));
    }
}

void Yard::paintHeights(QPainter& p) const {
    if (!overGround() || !expansion_) return;
    p.setFont(textFont(kTinyPt));
    std::map<long, bool> written;
    std::map<long, bool> depths;
    std::vector<QRectF> taken;
    // Where another label stands already none is written over it.
    const auto label = [&](const QRectF& place, const QString& words) {
        const QRectF box(place.topLeft(), QSizeF(p.fontMetrics().horizontalAdvance(words), place.height()));
        if (std::any_of(taken.begin(), taken.end(),
                        [&](const QRectF& other) { return other.intersects(box); }))
            return;
        taken.push_back(box);
        p.setPen(theme_.softInk);
        p.drawText(place, Qt::AlignLeft | Qt::AlignVCenter, words);
    };
    for (const auto& wire : expansion_->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            if (end.z() < -1e-3 && depths.size() < 3 &&
                depths.emplace(std::lround(end.z() * 50.0), true).second) {
                const QPointF at = camera_.project(end, size()).at;
                label(QRectF(at.x() + 6, at.y() + 3, 80, 12), QString("%1 m deep").arg(-end.z(), 0, 'f', 2));
            }
            if (end.z() < 1e-3) continue;
            const Vec3 foot(end.x(), end.y(), 0.0);
            p.setPen(QPen(theme_.softInk, 0.7, Qt::DotLine));
            line(p, foot, end);
            if (QString::fromStdString(wire.origin()) != selected_ && !selected_.isEmpty()) continue;
            // One label for each height, on the first end that has it.
            if (!written.emplace(std::lround(end.z() * 50.0), true).second || written.size() > 8) continue;
            const QPointF at = camera_.project(end, size()).at;
            label(QRectF(at.x() + 6, at.y() - 15, 80, 12),
                  QString("%1 m up").arg(end.z(), 0, 'f', end.z() < 100.0 ? 2 : 0));
        }
}

void Yard::paintWires(QPainter& p) const {
    if (!expansion_) return;
    for (const auto& wire : expansion_->model.wires) {
        const bool selected = !selected_.isEmpty() && QString::fromStdString(wire.origin()) == selected_;
        const double thickness = 2.0 * wire.radiusM * camera_.pixelsPerM(size());
        const QPen pen(selected ? theme_.reed : theme_.ink, std::clamp(thickness, selected ? 2.6 : 1.7, 14.0),
                       Qt::SolidLine, Qt::RoundCap);
        // What is under the ground shines through it.
        QPen below = pen;
        QColor soft = pen.color();
        soft.setAlphaF(kThroughGround);
        below.setColor(soft);
        const double from = wire.startM.z();
        const double to = wire.endM.z();
        if (overGround() && from * to < 0.0) {
            const Vec3 surface = wire.startM + from / (from - to) * (wire.endM - wire.startM);
            p.setPen(from < 0.0 ? below : pen);
            line(p, wire.startM, surface);
            p.setPen(from < 0.0 ? pen : below);
            line(p, surface, wire.endM);
            continue;
        }
        p.setPen(overGround() && from + to < 0.0 ? below : pen);
        line(p, wire.startM, wire.endM);
    }
    p.setPen(Qt::NoPen);
    p.setBrush(theme_.ink);
    for (const auto& joint : expansion_->joints)
        p.drawEllipse(camera_.project(joint.pointM, size()).at, 2.6, 2.6);
}

Vec3 Yard::portPoint(const model::WirePlace& place) const {
    const auto& wire = expansion_->model.wires.at(place.wire);
    return wire.startM + place.at * (wire.endM - wire.startM);
}

void Yard::paintMarks(QPainter& p) const {
    if (!expansion_) return;
    // Lines between points: a loose pair of threads.
    const auto ports = expansion_->model.places();
    for (const auto& line : expansion_->model.lines) {
        const QPointF from = camera_.project(portPoint(ports.at(line.fromPort).place), size()).at;
        const QPointF to = camera_.project(portPoint(ports.at(line.toPort).place), size()).at;
        const QPointF along = to - from;
        const double length = std::max(1.0, std::hypot(along.x(), along.y()));
        const QPointF side = QPointF(-along.y(), along.x()) * (1.8 / length);
        p.setPen(QPen(theme_.water, 1.1));
        p.drawLine(from + side, line.crossed ? to - side : to + side);
        p.drawLine(from - side, line.crossed ? to + side : to - side);
    }
    // Loads: a small open box on the wire.
    for (const auto& load : expansion_->model.loads) {
        const QPointF at = camera_.project(portPoint(load.place), size()).at;
        p.setPen(QPen(theme_.water, 1.8));
        p.setBrush(theme_.panel);
        p.drawRect(QRectF(at.x() - 5, at.y() - 4, 10, 8));
    }
    // Feedpoint: a diamond of sunlight with a dark heart, split by the wire.
    int number = 0;
    for (const auto& feed : expansion_->model.feeds) {
        ++number;
        const QPointF at = camera_.project(portPoint(feed.place), size()).at;
        p.setPen(QPen(theme_.ink, 1.2));
        p.setBrush(theme_.sun);
        p.drawPolygon(QPolygonF(
            {at + QPointF(0, -8), at + QPointF(6.5, 0), at + QPointF(0, 8), at + QPointF(-6.5, 0)}));
        p.setBrush(theme_.ink);
        p.drawEllipse(at, 1.7, 1.7);
        if (expansion_->model.feeds.size() > 1) {
            p.setFont(textFont(kTinyPt, true));
            p.drawText(QRectF(at.x() + 8, at.y() - 8, 20, 14), Qt::AlignLeft, QString::number(number));
        }
    }
}

Vec3 Yard::handlePoint() const {
    // Beside the antenna, level with its lowest point.
    double low = 1e99;
    for (const auto& wire : expansion_->model.wires) low = std::min({low, wire.startM.z(), wire.endM.z()});
    const Vec3 out = camera_.right();
    double reach = 0.0;
    const Vec3 base(centreM_.x(), centreM_.y(), 0.0);
    for (const auto& wire : expansion_->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) reach = std::max(reach, (end - base).dot(out));
    return {base.x() + out.x() * (reach + 0.06 * extent()), base.y() + out.y() * (reach + 0.06 * extent()),
            low};
}

std::optional<QPointF> Yard::heightHandle() const {
    if (!overGround() || expansion_->model.wires.empty()) return std::nullopt;
    return camera_.project(handlePoint(), size()).at;
}

void Yard::paintHandle(QPainter& p) const {
    const auto at = heightHandle();
    if (!at) return;
    const Vec3 point = handlePoint();
    p.setPen(QPen(theme_.reed, 1.3));
    line(p, {point.x(), point.y(), 0.0}, point);
    p.setBrush(drag_ == Drag::Height ? theme_.reed : theme_.panel);
    p.drawEllipse(*at, 6, 6);
    p.setPen(QPen(drag_ == Drag::Height ? theme_.panel : theme_.reed, 1.4));
    p.drawLine(*at + QPointF(-2.5, -1), *at + QPointF(0, -3.5));
    p.drawLine(*at + QPointF(2.5, -1), *at + QPointF(0, -3.5));
    p.drawLine(*at + QPointF(-2.5, 1), *at + QPointF(0, 3.5));
    p.drawLine(*at + QPointF(2.5, 1), *at + QPointF(0, 3.5));
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.reed);
    const QString text =
        QString("lowest %1%2 m").arg(point.z() < 0.0 ? "−" : "").arg(std::abs(point.z()), 0, 'f', 2);
    const bool room = at->x() + 12 + p.fontMetrics().horizontalAdvance(text) < width() - 6;
    p.drawText(
        room ? QRectF(at->x() + 10, at->y() - 7, 110, 14) : QRectF(at->x() - 120, at->y() - 7, 110, 14),
        (room ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, text);
}

void Yard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath frame;
    frame.addRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    p.fillPath(frame, theme_.yard);
    p.setClipPath(frame);
    paintGround(p);
    paintCompass(p);
    paintLobe(p);
    paintRemarks(p);
    paintHeights(p);
    paintCurrents(p);
    paintWires(p);
    paintMarks(p);
    paintHandle(p);
    p.setClipping(false);
    p.setPen(QPen(theme_.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawPath(frame);
    p.setFont(textFont(kTitlePt, true));
    p.setPen(theme_.ink);
    p.drawText(QRectF(12, 8, 100, 18), Qt::AlignLeft | Qt::AlignVCenter, "Yard");
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(100, 8, width() - 112, 18), Qt::AlignRight | Qt::AlignVCenter, caption_);
    if (hasFocus()) {
        p.setPen(QPen(theme_.reed, 1.2));
        p.drawPath(frame);
    }
}

QString Yard::partAt(const QPointF& point) const {
    if (!expansion_) return {};
    QString best;
    double nearest = 8.0;
    for (const auto& wire : expansion_->model.wires) {
        const double d = distanceToSegment(point, camera_.project(wire.startM, size()).at,
                                           camera_.project(wire.endM, size()).at);
        if (d >= nearest) continue;
        nearest = d;
        best = QString::fromStdString(wire.origin());
    }
    return best;
}

void Yard::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    pressed_ = last_ = event->position();
    const auto handle = heightHandle();
    const bool onHandle = handle && QLineF(*handle, pressed_).length() < 10.0;
    if (event->button() == Qt::LeftButton && onHandle) {
        drag_ = Drag::Height;
        heightAtPress_ = expansion_->heightM;
    } else if (event->button() == Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier)) {
        drag_ = Drag::Turn;
    } else {
        drag_ = Drag::Pan;
    }
    update();
}

void Yard::mouseMoveEvent(QMouseEvent* event) {
    const QPointF now = event->position();
    const QPointF moved = now - last_;
    last_ = now;
    switch (drag_) {
        case Drag::Turn:
            touched_ = true;
            camera_.azimuthDeg = std::fmod(camera_.azimuthDeg - 0.4 * moved.x() + 360.0, 360.0);
            camera_.elevationDeg =
                std::clamp(camera_.elevationDeg + 0.4 * moved.y(), overGround() ? 1.0 : -89.0, 89.0);
            update();
            break;
        case Drag::Pan: {
            touched_ = true;
            const double scale = 1.0 / camera_.pixelsPerM(size());
            camera_.target += scale * (-moved.x() * camera_.right() + moved.y() * camera_.up());
            update();
            break;
        }
        case Drag::Height: {
            const double lift =
                (pressed_.y() - now.y()) /
                (camera_.pixelsPerM(size()) * std::max(0.2, std::cos(camera_.elevationDeg * kDegree)));
            Q_EMIT heightDragged(std::round((heightAtPress_ + lift) * 20.0) / 20.0);
            break;
        }
        case Drag::None: {
            const auto handle = heightHandle();
            if (handle && QLineF(*handle, now).length() < 10.0) {
                setCursor(Qt::SizeVerCursor);
                setToolTip("Drag to raise or lower the whole antenna");
            } else {
                const QString part = partAt(now);
                setCursor(part.isEmpty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
                setToolTip(part.isEmpty()
                               ? "Drag to turn, Shift-drag to move, wheel to zoom, double-click to fit"
                               : part);
            }
        }
    }
}

void Yard::mouseReleaseEvent(QMouseEvent* event) {
    const bool still = QLineF(pressed_, event->position()).length() < 4.0;
    if (drag_ == Drag::Turn && still) Q_EMIT partClicked(partAt(event->position()));
    if (drag_ == Drag::Height) Q_EMIT dragFinished();
    drag_ = Drag::None;
    update();
}

void Yard::mouseDoubleClickEvent(QMouseEvent*) {
    fit();
}

void Yard::wheelEvent(QWheelEvent* event) {
    touched_ = true;
    camera_.distanceM *= std::pow(0.999, event->angleDelta().y());
    camera_.distanceM = std::clamp(camera_.distanceM, 0.1 * extent(), 20.0 * extent());
    update();
    event->accept();
}

void Yard::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Left:
            camera_.azimuthDeg -= 5.0;
            break;
        case Qt::Key_Right:
            camera_.azimuthDeg += 5.0;
            break;
        case Qt::Key_Up:
            camera_.elevationDeg = std::min(89.0, camera_.elevationDeg + 4.0);
            break;
        case Qt::Key_Down:
            camera_.elevationDeg = std::max(overGround() ? 1.0 : -89.0, camera_.elevationDeg - 4.0);
            break;
        case Qt::Key_Plus:
            camera_.distanceM *= 0.9;
            break;
        case Qt::Key_Minus:
            camera_.distanceM /= 0.9;
            break;
        default:
            QWidget::keyPressEvent(event);
            return;
    }
    update();
}

}  // namespace rm::app
