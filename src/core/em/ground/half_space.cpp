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

KernelValues HalfSpace::spectra(Region region, Complex u, Complex uGround) const {
    const Complex te = inverseOf(u + uGround);
    const Complex tm = inverseOf(eps_ * u + uGround);
    const Complex d = 2.0 * (eps_ - 1.0) * te * tm;
    const Complex k2 = k_ * k_;
    if (region == Region::Across) return {2.0 * te, 2.0 * (u + eps_ * uGround) * te * tm, k_ * d, 2.0 * tm};
    const Complex rTe = k2 * (eps_ - 1.0) * te * te;
    const Complex rTm = (eps_ * u - uGround) * tm;
    if (region == Region::Soil) {
        const Complex inverse = inverseOf(uGround);
        return {-rTe * inverse, uGround * d - rTm * inverse, k_ * d, (rTm / eps_ - k2 * d) * inverse};
    }
    const Complex inverse = inverseOf(u);
    return {rTe * inverse, rTm * inverse - u * d, k_ * d, (k2 * d - rTm) * inverse};
}

double HalfSpace::scalarSize(Region region) const {
    return region == Region::Air ? 1.0 : 2.0 / std::abs(eps_ + 1.0);
}

}  // namespace rm::em
