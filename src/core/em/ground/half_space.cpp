#include "core/em/ground/half_space.h"

namespace rm::em {

HalfSpace::HalfSpace(const model::Ground& ground, double frequencyHz)
    : k_(wavenumber(frequencyHz)),
      eps_(ground.relativePermittivity, -ground.conductivitySm / (2.0 * kPi * frequencyHz * kEps0)),
      kg_(k_ * std::sqrt(eps_)) {}

KernelValues HalfSpace::spectra(Complex u, Complex uGround) const {
    const Complex te = 1.0 / (u + uGround);
    const Complex tm = 1.0 / (eps_ * u + uGround);
    const Complex inverse = 1.0 / u;
    const Complex d = 2.0 * (eps_ - 1.0) * te * tm;
    const Complex rTe = k_ * k_ * (eps_ - 1.0) * te * te;
    const Complex rTm = (eps_ * u - uGround) * tm;
    return {rTe * inverse, rTm * inverse - u * d, k_ * d, (k_ * k_ * d - rTm) * inverse};
}

}  // namespace rm::em
