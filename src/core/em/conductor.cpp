#include "core/em/conductor.h"

#include <cmath>

namespace rm::em {

namespace {

/// I0(x)/I1(x) for Re x >= 0 by the continued fraction of the ratio of modified Bessel functions (Gautschi
/// and Slavik, Math. Comp. 32, 1978), or the asymptotic series where |x| is large.
Complex besselRatio(Complex x) {
    if (std::abs(x) > 60.0) {
        const Complex y = 1.0 / x;
        return 1.0 + y * (0.5 + y * (0.375 + y * (0.375 + y * 0.4921875)));
    }
    // I0/I1 = 2/x + 1/(4/x + 1/(6/x + ...)), evaluated from a depth beyond |x|.
    const int depth = 40 + static_cast<int>(2.0 * std::abs(x));
    Complex tail = 2.0 * (depth + 1.0) / x;
    for (int n = depth; n >= 1; --n) tail = 2.0 * n / x + 1.0 / tail;
    return tail;
}

}  // namespace

Complex wireImpedancePerM(double frequencyHz, double radiusM, double conductivitySm) {
    if (!std::isfinite(conductivitySm) || frequencyHz <= 0.0) return 0.0;
    const double omega = 2.0 * kPi * frequencyHz;
    // J0(kc a)/J1(kc a) with kc = -j g: kc J0/J1 = g I0(g a)/I1(g a), g^2 = j w mu0 sigma.
    const Complex g = std::sqrt(Complex(0.0, omega * kMu0 * conductivitySm));
    return g * besselRatio(g * radiusM) / (2.0 * kPi * radiusM * conductivitySm);
}

double coatedRadiusM(double radiusM, double coatM, double coatPermittivity) {
    return radiusM * std::pow(1.0 + coatM / radiusM, 1.0 - 1.0 / coatPermittivity);
}

double coatInductancePerM(double radiusM, double coatM, double coatPermittivity) {
    return kMu0 / (2.0 * kPi) * (1.0 - 1.0 / coatPermittivity) * std::log(1.0 + coatM / radiusM);
}

double coatElastanceM(double radiusM, double coatM, double coatPermittivity) {
    return std::log(1.0 + coatM / radiusM) / (2.0 * kPi * kEps0 * coatPermittivity);
}

Complex WireMaterial::impedancePerM(double frequencyHz) const {
    return wireImpedancePerM(frequencyHz, conductorRadiusM, conductivitySm) +
           Complex(0.0, 2.0 * kPi * frequencyHz * inductancePerM);
}

}  // namespace rm::em
