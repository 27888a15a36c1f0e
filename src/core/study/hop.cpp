#include "core/study/hop.h"

#include <cmath>

#include "core/common.h"

namespace rm::study {

double hopDistanceKm(double elevationDeg, double heightKm) {
    const double el = elevationDeg * kDegree;
    const double r = kEarthRadiusKm;
    return 2.0 * r * (kPi / 2.0 - el - std::asin(r * std::cos(el) / (r + heightKm)));
}

double hopElevationDeg(double distanceKm, double heightKm) {
    // Half the hop seen from the centre of the Earth; then the triangle of centre, station and mirror.
    const double half = distanceKm / (2.0 * kEarthRadiusKm);
    const double top = kEarthRadiusKm + heightKm;
    const double el = std::atan2(top * std::cos(half) - kEarthRadiusKm, top * std::sin(half));
    return el >= 0.0 ? el / kDegree : -1.0;
}

}  // namespace rm::study
