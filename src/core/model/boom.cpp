#include "core/model/boom.h"

#include <algorithm>

namespace rm::model {

double boomCorrectionM(BoomKind kind, double diameterM, double lambdaM) {
    constexpr double kLinear = 25.195;
    constexpr double kSquare = 229.0;
    const double thickness = std::min(diameterM / lambdaM, kThickestBoomWavelengths);
    const double bonded = diameterM * (kLinear * thickness - kSquare * thickness * thickness);
    switch (kind) {
        case BoomKind::Bonded:
            return bonded;
        case BoomKind::Insulated:
            return 0.5 * bonded;
        case BoomKind::Above:
            return 0.25 * bonded;
        default:
            return 0.0;
    }
}

}  // namespace rm::model
