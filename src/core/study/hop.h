// One hop by reflection in the ionosphere, as plain geometry: not a forecast.
#pragma once

namespace rm::study {

inline constexpr double kEarthRadiusKm = 6371.0;

/// Ground distance in km that a ray leaving at `elevationDeg` covers in one hop off a mirror at the virtual
/// height `heightKm`: 2 R [90 deg - el - asin(R cos el/(R + h))]. K. Davies, Ionospheric Radio, "Oblique
/// propagation".
double hopDistanceKm(double elevationDeg, double heightKm);

/// The elevation in degrees that reaches `distanceKm` in one hop, or -1 where one hop does not reach that
/// far.
double hopElevationDeg(double distanceKm, double heightKm);

}  // namespace rm::study
