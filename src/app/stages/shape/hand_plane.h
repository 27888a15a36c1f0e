// The plane that a hand moves in, and where a ray from the eye through a pixel meets it.
#pragma once

#include <optional>

#include "app/stages/shape/yard_state.h"
#include "core/edit/snaps.h"

namespace rm::app {

/// How near a place must be for a hand to click into it, pixels.
inline constexpr double kSnapPx = 7.0;

struct HandPlane {
    Vec3 through = Vec3::Zero();
    Vec3 u = Vec3::UnitX();
    Vec3 v = Vec3::UnitY();

    Vec3 normal() const { return u.cross(v).normalized(); }
    bool upright() const { return std::abs(normal().z()) < 0.5; }

    static HandPlane level(const Vec3& through) { return {through, Vec3::UnitX(), Vec3::UnitY()}; }
    /// Upright, through the horizontal direction `along` where that is seen from the side, else facing the
    /// eye.
    static HandPlane upright(const Vec3& through, const Vec3& along, const Camera& camera);
    /// The one that suits the view: level from above, upright from the side.
    static HandPlane suited(const Vec3& through, const Vec3& along, const Camera& camera);

    /// Nothing where the plane is seen along its edge, or the point would be behind the eye.
    std::optional<Vec3> under(const QPointF& pixel, const YardState& yard) const;
};

/// The point of the line through `a` along `direction` that is nearest to what is under the pixel.
std::optional<Vec3> onLine(const Vec3& a, const Vec3& direction, const QPointF& pixel, const YardState& yard);

/// Where points appear, as snapping asks for it; as long as the yard is there.
edit::OnScreen onScreen(const YardState& yard);

/// How many metres one pixel is at this point.
double metresPerPixel(const Vec3& at, const YardState& yard);

}  // namespace rm::app
