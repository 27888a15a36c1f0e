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

Vec3 YardState::handlePoint() const {
    const Vec3 out = camera.right();
    double reach = 0.0;
    const Vec3 base(centreM.x(), centreM.y(), 0.0);
    for (const auto& wire : expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) reach = std::max(reach, (end - base).dot(out));
    const Vec3 at = base + (reach + kHandleOutPx / camera.pixelsPerM(size)) * out;
    return {at.x(), at.y(), expansion->model.bounds().low.z()};
}

}  // namespace rm::app
