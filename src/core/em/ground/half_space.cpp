#include "core/em/ground/half_space.h"

#include "core/model/soils.h"

namespace rm::em {

namespace {

Complex inverseOf(Complex z) {
    return std::conj(z) / std::norm(z);
}

}  // namespace

HalfSpace::HalfSpace(const model::Ground& ground, double frequencyHz)
    : k_(wavenumber(frequencyHz)),
      eps_(model::permittivityAt(ground, frequencyHz)),
      kg_(k_ * std::sqrt(eps_)) {}

KernelValues HalfSpace::spectra(Complex u, Complex uGround) const {
    const Complex te = inverseOf(u + uGround);
    const Complex tm = inverseOf(eps_ * u + uGround);
    const Complex inverse = inverseOf(u);
    const Complex d = 2.0 * (eps_ - 1.0) * te * tm;
    const Complex rTe = k_ * k_ * (eps_ - 1.0) * te * te;
    const Complex rTm = (eps_ * u - uGround) * tm;
    return {rTe * inverse, rTm * inverse - u * d, k_ * d, (k_ * k_ * d - rTm) * inverse};
}

}  // namespace rm::em
