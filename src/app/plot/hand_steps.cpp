#include "app/plot/hand_steps.h"

#include <algorithm>

#include "app/plot/ticks.h"

namespace rm::app {

edit::Steps handSteps(double metresPerPixel, bool feet) {
    constexpr double kInchM = 0.0254;
    if (feet)
        return {metresPerPixel > 0.15 ? 12.0 * kInchM : metresPerPixel > 0.03 ? 3.0 * kInchM : kInchM, 1.0};
    return {std::max(0.01, roundStep(metresPerPixel, 2)), 1.0};
}

}  // namespace rm::app
