// The few types and physical constants that every part of the core shares.
#pragma once

#include <Eigen/Core>
#include <Eigen/Geometry>
#include <complex>
#include <numbers>
#include <stdexcept>
#include <string>

namespace rm {

using Complex = std::complex<double>;
using Vec3 = Eigen::Vector3d;

/// A failure with a message that the person at the screen can act on.
class Error : public std::runtime_error {
  public:
    using std::runtime_error::runtime_error;
};

/// Vacuum constants in SI units: CODATA 2018 mu0, exact c0, and what follows from them.
inline constexpr double kSpeedOfLight = 299792458.0;
inline constexpr double kMu0 = 1.25663706212e-6;
inline constexpr double kEps0 = 1.0 / (kMu0 * kSpeedOfLight * kSpeedOfLight);
inline constexpr double kEta0 = kMu0 * kSpeedOfLight;
inline constexpr double kPi = std::numbers::pi;
inline constexpr double kDegree = kPi / 180.0;

/// Wavelength in vacuum in metres.
inline double wavelengthM(double frequencyHz) {
    return kSpeedOfLight / frequencyHz;
}
/// Wavenumber in vacuum in rad/m.
inline double wavenumber(double frequencyHz) {
    return 2.0 * kPi * frequencyHz / kSpeedOfLight;
}

}  // namespace rm
