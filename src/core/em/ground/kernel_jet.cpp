#include "core/em/ground/kernel_jet.h"

#include <cmath>

namespace rm::em {

KernelSlopes::KernelSlopes(const KernelJet& jet, double k, double rhoM, double zetaM) : lanes_(jet.lanes) {
    const double r = std::sqrt(rhoM * rhoM + zetaM * zetaM);
    const Complex jk(0.0, k);
    const Complex g = std::polar(1.0 / r, -k * r);
    const Complex slope = -(jk + 1.0 / r) * g;
    const Complex bend = g / (r * r) - (jk + 1.0 / r) * slope;
    const double x = rhoM / r;
    const double y = zetaM / r;
    const Complex mixed = (bend - slope / r) * x * y;
    wave_ = {g,
             slope * x,
             slope * y,
             slope * y,
             bend * x * x + slope * y * y / r,
             mixed,
             mixed,
             bend * y * y + slope * x * x / r};
}

}  // namespace rm::em
