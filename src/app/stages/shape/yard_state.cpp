#include "app/stages/shape/yard_state.h"

#include <algorithm>
#include <cmath>

namespace rm::app {

namespace {

constexpr double kHandleOutPx = 30.0;

}  // namespace

double YardState::extent() const {
    if (!expansion || expansion->model.wires.empty()) return 20.0;
    model::Bounds box = expansion->model.bounds();
    if (overGround()) box.low.z() = std::min(0.0, box.low.z());
    return std::max(0.05, box.diagonal());
}

bool YardState::isWithin(const Vec3& point) const {
    return std::any_of(
        expansion->model.wires.begin(), expansion->model.wires.end(),
        [&](const model::PlainWire& wire) { return wire.runsOn && (wire.startM - point).norm() < 1e-6; });
}

Vec3 YardState::handlePoint() const {
    const Vec3 out = camera.right();
    double reach = 0.0;
    const Vec3 base(centreM.x(), centreM.y(), 0.0);
    for (const auto& wire : expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) reach = std::max(reach, (end - base).dot(out));
    const Vec3 at = base + (reach + kHandleOutPx / camera.pixelsPerM(size)) * out;
    return {at.x(), at.y(), expansion->model.bounds().low.z()};
}

double pixelsToLine(const QPointF& point, const QPointF& from, const QPointF& to) {
    const QPointF along = to - from;
    const double length2 = QPointF::dotProduct(along, along);
    const double t =
        length2 > 0.0 ? std::clamp(QPointF::dotProduct(point - from, along) / length2, 0.0, 1.0) : 0.0;
    const QPointF d = point - (from + t * along);
    return std::hypot(d.x(), d.y());
}

}  // namespace rm::app
