#include "app/stages/shape/grip_handles.h"

#include <QLineF>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr double kReachPx = 9.0;
/// The frame stands this far outside of what is selected.
constexpr double kFramePx = 30.0;
constexpr double kApartPx = 28.0;
constexpr double kEdgePx = 16.0;
/// A grip stands this far above what sits on it.
constexpr double kStalkPx = 19.0;

void paintTurn(QPainter& p, const QPointF& at) {
    // An arc that goes round, with its head.
    p.drawArc(QRectF(at.x() - 6, at.y() - 6, 12, 12), 30 * 16, 270 * 16);
    p.drawLine(at + QPointF(5.2, -3), at + QPointF(5.6, -7));
    p.drawLine(at + QPointF(5.2, -3), at + QPointF(1.4, -4));
}

void paintScale(QPainter& p, const QPointF& at) {
    // A small corner inside a large one.
    p.drawPolyline(QPolygonF({at + QPointF(-6, 1), at + QPointF(-6, 6), at + QPointF(-1, 6)}));
    p.drawPolyline(QPolygonF({at + QPointF(-6, -6), at + QPointF(6, -6), at + QPointF(6, 6)}));
}

void paintWhole(QPainter& p, const QPointF& at) {
    p.drawEllipse(at, 3.2, 3.2);
    for (const auto& [x, y] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
        p.drawLine(at + 5.0 * QPointF(x, y), at + 8.0 * QPointF(x, y));
}

}  // namespace

void GripHandles::lay(const model::Design& design, const ExpansionPtr& expansion,
                      const std::vector<model::Id>& parts) {
    handles_.clear();
    several_ = parts.size() > 1;
    if (!expansion) return;
    model::Bounds box;
    std::vector<Vec3> ends;
    for (const model::Id id : parts) {
        const std::string& name = model::at(design.parts, id).name;
        for (const auto& wire : expansion->model.wires)
            if (wire.origin() == name) {
                box.include(wire);
                ends.insert(ends.end(), {wire.startM, wire.endM});
            }
        for (const auto& grip : edit::gripsOf(design, *expansion, id)) {
            // Of several parts only the parts as a whole: the corners of all would be too many.
            if (several_ && grip.kind != edit::GripKind::Whole) continue;
            GripHandle handle;
            handle.grip = grip;
            handle.atM = grip.atM;
            handle.name = several_ ? text(name) + tr(": whole part") : text(grip.name);
            // A feed or a load that sits on a grip is taken by itself; the grip stands above it.
            for (const auto& port : expansion->model.places()) {
                const auto& wire = expansion->model.wires.at(port.place.wire);
                const Vec3 sits = wire.startM + port.place.at * (wire.endM - wire.startM);
                if ((sits - grip.atM).norm() < 2.0 * wire.radiusM + 1e-6) handle.beside = {0.0, -kStalkPx};
            }
            handles_.push_back(handle);
        }
    }
    if (handles_.empty() || box.empty()) return;
    centreM_ = box.centre();
    reachM_ = 0.0;
    for (const Vec3& end : ends) reachM_ = std::max(reachM_, (end - centreM_).norm());
    for (const auto& [kind, name] :
         {std::pair{GripHandle::Kind::Turn, tr("turn")}, {GripHandle::Kind::Scale, tr("scale")}}) {
        GripHandle frame;
        frame.kind = kind;
        frame.grip.part = parts.front();
        frame.atM = centreM_;
        frame.name = name;
        handles_.push_back(frame);
    }
}

const GripHandle* GripHandles::same(const GripHandle& handle) const {
    const auto found =
        std::find_if(handles_.begin(), handles_.end(), [&](const GripHandle& one) { return one.is(handle); });
    return found == handles_.end() ? nullptr : &*found;
}

/// The frame stands beside the parts as they are seen: to the right it turns, to the left it scales.
QPointF GripHandles::seenAt(const GripHandle& handle) const {
    const YardState& yard = yard_.state();
    if (handle.kind == GripHandle::Kind::Grip) return yard.at(handle.atM) + handle.beside;
    const double side = handle.kind == GripHandle::Kind::Turn ? 1.0 : -1.0;
    QPointF at = yard.at(centreM_ + side * reachM_ * yard.camera.right()) + QPointF(side * kFramePx, 0.0);
    // A long boom seen from its end reaches out of the picture.
    at.setX(std::clamp(at.x(), kEdgePx, std::max(kEdgePx, yard.size.width() - kEdgePx)));
    // Below the handle that raises the antenna, where that stands in the same place.
    if (const auto lift = yard_.heightHandle(); lift && QLineF(*lift, at).length() < kApartPx)
        at.setY(lift->y() + kApartPx);
    return at;
}

const GripHandle* GripHandles::under(const QPointF& at) const {
    const GripHandle* best = nullptr;
    double nearest = kReachPx;
    for (const auto& handle : handles_) {
        const double d = QLineF(seenAt(handle), at).length();
        // Of a corner and a middle in one place the corner is meant.
        if (d < nearest - (handle.grip.kind == edit::GripKind::Whole ? 1.0 : 0.0)) {
            nearest = d;
            best = &handle;
        }
    }
    return best;
}

void GripHandles::paint(QPainter& p, const YardState& yard, const std::optional<GripHandle>& hot) const {
    for (const auto& handle : handles_) {
        const bool held = hot && hot->is(handle);
        const QPointF at = seenAt(handle);
        if (several_ && handle.kind != GripHandle::Kind::Grip) {
            p.setPen(QPen(yard.theme.reed, 1.0, Qt::DashLine));
            p.drawLine(yard.at(centreM_), at);
        }
        p.setPen(QPen(yard.theme.reed, held ? 2.0 : 1.4));
        p.setBrush(Qt::NoBrush);
        if (handle.kind == GripHandle::Kind::Turn) {
            paintTurn(p, at);
            continue;
        }
        if (handle.kind == GripHandle::Kind::Scale) {
            paintScale(p, at);
            continue;
        }
        if (!handle.beside.isNull()) p.drawLine(at, yard.at(handle.atM));
        p.setBrush(held ? yard.theme.reed : yard.theme.panel);
        if (handle.grip.kind == edit::GripKind::Whole)
            paintWhole(p, at);
        else
            p.drawEllipse(at, held ? 5.0 : 4.2, held ? 5.0 : 4.2);
    }
}

}  // namespace rm::app
