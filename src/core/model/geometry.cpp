#include "core/model/geometry.h"

#include <algorithm>

namespace rm::model {

namespace {

Vec3 nearestOn(const Vec3& point, const Vec3& from, const Vec3& to) {
    const Vec3 along = to - from;
    const double length2 = along.squaredNorm();
    if (length2 <= 0.0) return from;
    return from + std::clamp((point - from).dot(along) / length2, 0.0, 1.0) * along;
}

}  // namespace

NearestPoints nearestPoints(const Vec3& a0, const Vec3& a1, const Vec3& b0, const Vec3& b1) {
    NearestPoints best;
    best.distanceM = -1.0;
    const auto offer = [&](const Vec3& onA, const Vec3& onB) {
        const double d = (onA - onB).norm();
        if (best.distanceM < 0.0 || d < best.distanceM) best = {onA, onB, d};
    };
    // Either an end of one is nearest to the other, or both nearest points are inside.
    for (const Vec3& end : {a0, a1}) offer(end, nearestOn(end, b0, b1));
    for (const Vec3& end : {b0, b1}) offer(nearestOn(end, a0, a1), end);
    const Vec3 u = a1 - a0;
    const Vec3 v = b1 - b0;
    const Vec3 w = a0 - b0;
    const double determinant = u.squaredNorm() * v.squaredNorm() - u.dot(v) * u.dot(v);
    if (determinant > 1e-12 * u.squaredNorm() * v.squaredNorm()) {
        const double s = (u.dot(v) * v.dot(w) - v.squaredNorm() * u.dot(w)) / determinant;
        const double t = (u.squaredNorm() * v.dot(w) - u.dot(v) * u.dot(w)) / determinant;
        if (s >= 0.0 && s <= 1.0 && t >= 0.0 && t <= 1.0) offer(a0 + s * u, b0 + t * v);
    }
    return best;
}

double pointToSegment(const Vec3& point, const Vec3& from, const Vec3& to) {
    return (point - nearestOn(point, from, to)).norm();
}

}  // namespace rm::model
