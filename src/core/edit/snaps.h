// Places that a dragged point clicks into, each with a name that says why.
//
// Two families: points of what is there already (ends, middles), which are taken as they are wherever they
// lie, and guides (level with, plumb above, at a right angle, as long as), which correct one direction each
// and go together.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::edit {

struct SnapPoint {
    Vec3 atM = Vec3::Zero();
    std::string name;  ///< "end of Mast"
};

struct SnapLength {
    double lengthM = 0.0;
    std::string name;  ///< "a quarter wave"
};

/// What is there to snap to.
struct SnapScene {
    std::vector<SnapPoint> points;
    std::vector<SnapLength> lengths;
    std::optional<Vec3> anchorM;        ///< the other end of the conductor in hand
    std::optional<Vec3> beforeAnchorM;  ///< where the conductor before it comes from
    bool overGround = false;
};

/// A velocity factor for waves along an insulated wire about half a wave long: the coat adds inductance per
/// length as the logarithm of its radii does. Source: R. W. P. King and G. S. Smith, Antennas in Matter
/// (1981), chapter 8, for a thin coat in air; the wire's own inductance that of its half wave.
double coatVelocityFactor(const model::PlainWire& wire, double lambdaM);

/// The points and lengths of a worked-out design; what belongs to `leaveOut` is in the hand itself.
SnapScene snapScene(const model::Expansion& expansion, const std::vector<std::string>& leaveOut);

/// Lengths that suit a wire of this kind at a wavelength: a quarter, a half, five eighths, a whole wave.
std::vector<SnapLength> waveLengths(const model::PlainWire& like, double lambdaM);

struct Snapped {
    Vec3 atM = Vec3::Zero();
    std::string name;  ///< "level with Mast, a quarter wave"; empty: nothing was near
};

/// Where a point of the site appears, in pixels.
using OnScreen = std::function<Eigen::Vector2d(const Vec3&)>;

/// The place near `rawM` to click into, if any is within `pixels` of it on the screen. Guides never leave the
/// plane of the hand, whose two directions are `planeU` and `planeV`.
Snapped snapped(const SnapScene& scene, const Vec3& rawM, const Vec3& planeU, const Vec3& planeV,
                const OnScreen& onScreen, double pixels);

}  // namespace rm::edit
