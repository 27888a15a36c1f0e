#include "app/stages/shape/hand_plane.h"

#include <cmath>

namespace rm::app {

namespace {

/// From this elevation on the hand moves over the ground and not up and down.
constexpr double kFromAboveDeg = 35.0;
/// A plane seen more along its edge than this is no place for a hand.
constexpr double kEdge = 0.2;

struct Ray {
    Vec3 eye;
    Vec3 direction;
};

/// The inverse of Camera::project.
Ray rayThrough(const QPointF& pixel, const YardState& yard) {
    const Camera& c = yard.camera;
    const double scale = c.pixelsPerM(yard.size);
    const Vec3 eye = c.target + 3.5 * c.distanceM * c.toEye();
    const Vec3 at = c.target + (pixel.x() - 0.5 * yard.size.width()) / scale * c.right() -
                    (pixel.y() - 0.5 * yard.size.height()) / scale * c.up();
    return {eye, (at - eye).normalized()};
}

}  // namespace

HandPlane HandPlane::upright(const Vec3& through, const Vec3& along, const Camera& camera) {
    HandPlane plane{through, camera.right(), Vec3::UnitZ()};
    Vec3 level(along.x(), along.y(), 0.0);
    if (level.norm() > 0.05 * along.norm() && level.norm() > 1e-6) {
        level.normalize();
        if (std::abs(level.cross(Vec3::UnitZ()).dot(camera.toEye())) > kEdge + 0.1) plane.u = level;
    }
    return plane;
}

HandPlane HandPlane::suited(const Vec3& through, const Vec3& along, const Camera& camera) {
    if (std::abs(camera.elevationDeg) > kFromAboveDeg) return level(through);
    return upright(through, along, camera);
}

std::optional<Vec3> HandPlane::under(const QPointF& pixel, const YardState& yard) const {
    const Ray ray = rayThrough(pixel, yard);
    const double towards = ray.direction.dot(normal());
    if (std::abs(towards) < 0.02) return std::nullopt;
    const double t = (through - ray.eye).dot(normal()) / towards;
    if (t <= 0.0 || t > 200.0 * yard.camera.distanceM) return std::nullopt;
    return Vec3(ray.eye + t * ray.direction);
}

std::optional<Vec3> onLine(const Vec3& a, const Vec3& direction, const QPointF& pixel,
                           const YardState& yard) {
    const Ray ray = rayThrough(pixel, yard);
    const Vec3 d = direction.normalized();
    // The nearest points of two lines.
    const double b = d.dot(ray.direction);
    const double denominator = 1.0 - b * b;
    if (denominator < 0.01) return std::nullopt;
    const Vec3 between = a - ray.eye;
    const double s = (b * between.dot(ray.direction) - between.dot(d)) / denominator;
    return Vec3(a + s * d);
}

edit::OnScreen onScreen(const YardState& yard) {
    return [&yard](const Vec3& point) {
        const QPointF pixel = yard.at(point);
        return Eigen::Vector2d(pixel.x(), pixel.y());
    };
}

double metresPerPixel(const Vec3& at, const YardState& yard) {
    const double eye = 3.5 * yard.camera.distanceM;
    return yard.camera.project(at, yard.size).depth / (eye * yard.camera.pixelsPerM(yard.size));
}

}  // namespace rm::app
