#include "core/model/feed_blocks.h"

#include "core/words/words.h"

#include <cmath>

namespace rm::model {

namespace {

constexpr double kNeperInDb = 8.685889638065036;

}  // namespace

double LineKind::matchedLossDb(double lengthM, double frequencyHz) const {
    const double mhz = frequencyHz / 1e6;
    return (lossRootDb * std::sqrt(mhz) + lossLinearDb * mhz) * lengthM / 100.0;
}

Complex LineKind::propagation(double frequencyHz) const {
    return {matchedLossDb(1.0, frequencyHz) / kNeperInDb,
            2.0 * kPi * frequencyHz / (velocityFactor * kSpeedOfLight)};
}

Complex Element::impedance(double frequencyHz) const {
    const double w = 2.0 * kPi * frequencyHz;
    switch (kind) {
        case ElementKind::Inductor:
            return {q ? w * value / *q : 0.0, w * value};
        case ElementKind::Capacitor:
            return {q ? 1.0 / (w * value * *q) : 0.0, -1.0 / (w * value)};
        default:
            return value;
    }
}

const std::vector<LineType>& lineTypes() {
    static const std::vector<LineType> table = {
        {"coax 50 thin", say("Coax 50 Ω, 5 mm, solid"), {50.0, 0.66, 1.42, 0.018}, 3.6e-3, 0.7e-3},
        {"coax 50 thick", say("Coax 50 Ω, 10 mm, solid"), {50.0, 0.66, 0.60, 0.010}, 8.2e-3, 1.0e-3},
        {"coax 50 foam", say("Coax 50 Ω, 10 mm, foam"), {50.0, 0.85, 0.39, 0.0025}, 8.1e-3, 1.1e-3},
        {"coax 75", say("Coax 75 Ω, 7 mm, foam"), {75.0, 0.82, 0.62, 0.003}, 5.2e-3, 0.9e-3},
        {"ribbon 300", say("Ribbon 300 Ω, dry"), {300.0, 0.82, 0.40, 0.010}, 3.5e-3, 0.0},
        {"ladder 450", say("Ladder line 450 Ω, dry"), {450.0, 0.91, 0.078, 0.0017}, 7.0e-3, 0.0},
        {"open wire 600", say("Open wire 600 Ω"), {600.0, 0.96, 0.050, 0.0005}, 24.0e-3, 0.0},
    };
    return table;
}

const LineType* findLine(const std::string& id) {
    for (const auto& line : lineTypes())
        if (line.id == id) return &line;
    return nullptr;
}

}  // namespace rm::model
