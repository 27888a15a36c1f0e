// Distances between straight wires, and when two ends count as joined.
#pragma once

#include <cmath>

#include "core/common.h"

namespace rm::model {

struct NearestPoints {
    Vec3 onA;
    Vec3 onB;
    double distanceM = 0.0;
};

/// The nearest points of the segments a0-a1 and b0-b1.
NearestPoints nearestPoints(const Vec3& a0, const Vec3& a1, const Vec3& b0, const Vec3& b1);

/// Distance of a point from the segment from-to.
double pointToSegment(const Vec3& point, const Vec3& from, const Vec3& to);

/// Bearing of a direction to the right of the front, degrees.
inline double bearingDeg(const Vec3& d) {
    return std::atan2(-d.y(), d.x()) / kDegree;
}

/// Compass bearing of a direction in a design whose front points to `headingDeg`: 0 to 360.
inline double compassDeg(const Vec3& d, double headingDeg) {
    return std::fmod(bearingDeg(d) + headingDeg + 720.0, 360.0);
}

/// How close two ends must be to count as joined: half the thinner radius.
inline double joinToleranceM(double radiusA, double radiusB) {
    return 0.5 * (radiusA < radiusB ? radiusA : radiusB);
}

}  // namespace rm::model
