// Far field of the span currents in free space or over ground, and gain from the power into the ports.
#pragma once

#include <memory>
#include <stop_token>
#include <vector>

#include "core/em/mesh.h"

namespace rm::em {

/// A direction in degrees: elevation from the horizon (-90 to 90), azimuth from +x towards +y.
struct Direction {
    double elevationDeg = 0.0;
    double azimuthDeg = 0.0;
};

/// Far field E r exp(j k r) in volts, theta (downward) and phi components.
struct FarField {
    Complex theta;
    Complex phi;
};

/// Fields of the currents `local` (A per local function) towards each direction. Over ground: space wave by
/// the Fresnel reflection coefficients per element of current, by those of transmission for currents in the
/// soil, nothing below the horizon. E = -j w mu0/(4 pi)
/// [N - r (r.N)], N = sum over spans of u int I exp(j k r.r') ds; the integral of each polynomial is a
/// spherical Bessel function: int P_m(t) exp(j q t) dt = 2 j^m j_m(q).
std::vector<FarField> farField(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz,
                               const std::vector<Direction>& directions);

/// farField() of the same currents, asked again and again: what it takes from them is set up once. The mesh
/// has to outlive it.
class FarFieldReader {
  public:
    FarFieldReader(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz);
    ~FarFieldReader();

    std::vector<FarField> towards(const std::vector<Direction>& directions) const;

  private:
    struct Sums;
    const Mesh& mesh_;
    double frequencyHz_;
    std::unique_ptr<const Sums> sums_;
};

/// Radiation intensity over isotropic: gain in dBi for input power in W. -999 where nothing is radiated.
double gainDbi(const FarField& field, double inputPowerW);

/// Where the power goes that leaves an antenna as waves, over the input power.
struct SkyPower {
    double radiated = 0.0;  ///< to the sky; in free space to all sides
    /// What real ground keeps of the plane waves that come down on it, |E|^2 (1 - |R|^2) of both
    /// polarisations: the reflection takes it from the sky wave. The rest of the loss in the ground is that
    /// of the near field, which heats the soil round the wires.
    double lostInReflection = 0.0;
};

/// Fields all over the sky, in rings of equal steps in azimuth from 0. Between them is no lobe that they
/// miss.
struct SkyRings {
    std::vector<double> elevationDeg;           ///< rising
    std::vector<std::vector<FarField>> fields;  ///< of each ring
};

/// Product rule: Gauss in sin(elevation), equal steps in azimuth. `read`, where it is given, receives the
/// fields that were summed up. Throws rm::Stopped where it is asked to stop.
SkyPower skyPower(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz, double inputPowerW,
                  const std::stop_token& stop = {}, SkyRings* read = nullptr);

/// Average of the gain (as a ratio) over the sphere in free space, over the upper half space with ground:
/// 1 for a lossless antenna. The radiated part of skyPower.
double averageGain(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz, double inputPowerW,
                   const std::stop_token& stop = {});

}  // namespace rm::em
