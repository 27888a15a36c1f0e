// Wires that lie on real ground: where they are taken to be, and what may stand on or in it.
#pragma once

#include <vector>

#include "core/model/finding.h"
#include "core/model/wire_model.h"

namespace rm::model {

struct Expansion;

/// Least distance of a wire from the surface of real ground in its own radii (coat included): down to here
/// the default mesh is within 0.2 % of a fine one (docs/theory.md, "Close to the ground"). Closer, the charge
/// crowds on the side of the image, which the average round the conductor does not see.
inline constexpr double kLeastHeightRadii = 2.5;

inline double leastHeightM(const PlainWire& wire) {
    return kLeastHeightRadii * (wire.radiusM + wire.coatM);
}

/// The wire lies in the soil: its middle is below the surface of real ground.
bool isInSoil(const Ground& ground, const PlainWire& wire);
/// The same of a piece of wire between two points.
bool isInSoil(const Ground& ground, const Vec3& startM, const Vec3& endM);

/// Fraction along the wire where it passes through the surface of real ground; 0 where it does not, or where
/// no more than its thickness is on the other side.
double crossing(const Ground& ground, const PlainWire& wire);

/// Moves wires that lie on real ground, closer to its surface than can be worked out, to the least height
/// above it (those a hair below it, to the least depth), together with what is joined to them; a finding for
/// every part says so.
void liftFromSurface(WireModel& model, std::vector<Finding>& findings);

/// What is nearer to the ground than this rests on it.
inline constexpr double kRestsM = 0.1;

/// The design stands, lies or is buried: a wire that the height of the site lifts is less than a hand's
/// breadth above the ground, or in it. The ground holds such an antenna, and nobody errs in its height as a
/// whole.
bool restsOnGround(const Expansion& expansion);

}  // namespace rm::model
