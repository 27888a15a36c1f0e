#include "app/stages/shape/yard_state.h"

#include <algorithm>
#include <cmath>

namespace rm::app {

namespace {

constexpr double kHandleOutPx = 30.0;

}  // namespace

double YardState::extent() const {
    if (!expansion || expansion->model.wires.empty()) return 20.0;
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);
    for (const auto& wire : expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            low = low.cwiseMin(end);
            high = high.cwiseMax(end);
        }
    if (overGround()) low.z() = std::min(0.0, low.z());
    return std::max(0.05, (high - low).norm());
}

Vec3 YardState::handlePoint() const {
    double low = 1e99;
    for (const auto& wire : expansion->model.wires) low = std::min({low, wire.startM.z(), wire.endM.z()});
    const Vec3 out = camera.right();
    double reach = 0.0;
    const Vec3 base(centreM.x(), centreM.y(), 0.0);
    for (const auto& wire : expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) reach = std::max(reach, (end - base).dot(out));
    const Vec3 at = base + (reach + kHandleOutPx / camera.pixelsPerM(size)) * out;
    return {at.x(), at.y(), low};
}

double pixelsToLine(const QPointF& point, const QPointF& from, const QPointF& to) {
    const QPointF along = to - from;
    const double length2 = QPointF::dotProduct(along, along);
    const double t =
        length2 > 0.0 ? std::clamp(QPointF::dotProduct(point - from, along) / length2, 0.0, 1.0) : 0.0;
    const QPointF d = point - (from + t * along);
    return std::hypot(d.x(), d.y());
}

double stepAbove(double raw) {
    if (!(raw > 0.0) || !std::isfinite(raw)) return 1.0;
    const double power = std::pow(10.0, std::floor(std::log10(raw)));
    for (const double m : {1.0, 2.0, 5.0})
        if (m * power >= raw * (1.0 - 1e-9)) return m * power;
    return 10.0 * power;
}

}  // namespace rm::app
