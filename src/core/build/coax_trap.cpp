#include "core/build/coax_trap.h"

#include <cmath>

#include "core/build/winding.h"

namespace rm::build {

namespace {

constexpr const char* kCable = "coax 50 thin";
constexpr double kCableM = 0.005;  ///< outer diameter of that

/// Turns on a former, by what they make.
CoaxTrap wound(double formerM, double turns, double faradPerM) {
    CoaxTrap trap;
    trap.cable = kCable;
    trap.formerM = formerM;
    trap.turns = turns;
    trap.windingM = turns * kCableM;
    trap.cableM = turns * std::hypot(kPi * (formerM + kCableM), kCableM);
    trap.inductanceH = inductanceOf(formerM + kCableM, turns, trap.windingM);
    trap.capacitanceF = faradPerM * trap.cableM;
    trap.resonanceHz = 1.0 / (2.0 * kPi * std::sqrt(trap.inductanceH * trap.capacitanceF));
    return trap;
}

}  // namespace

CoaxTrap coaxTrapFor(double resonanceHz) {
    const model::LineKind& line = model::findLine(kCable)->kind;
    const double faradPerM = 1.0 / (line.impedanceOhm * line.velocityFactor * kSpeedOfLight);
    const auto resonant = [&](double former) {
        // More turns resonate lower.
        double few = 0.05;
        double many = 500.0;
        while (many / few > 1.0 + 1e-9) {
            const double middle = std::sqrt(few * many);
            (wound(former, middle, faradPerM).resonanceHz > resonanceHz ? few : many) = middle;
        }
        return wound(former, few, faradPerM);
    };
    return onBestFormer(resonant, [](const CoaxTrap& trap) { return trap.windingM; });
}

}  // namespace rm::build
