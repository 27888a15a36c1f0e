#include "core/model/soils.h"

#include "core/words/words.h"

namespace rm::model {

namespace {

/// First relaxation of water at 20 degrees C, and the share of its permittivity that is left above it.
constexpr double kWaterRelaxationHz = 17.0e9;
constexpr double kWaterRest = 0.0671;

const char* const kItu = "ITU-R P.527";
const char* const kTerman = "Terman, Electronic and Radio Engineering (1955)";

}  // namespace

const std::vector<Soil>& soils() {
    static const std::vector<Soil> table = {
        {"salt water", say("Salt water"), 80.0, 5.0, kWaterRelaxationHz, kItu},
        {"fresh water", say("Fresh water"), 80.0, 0.003, kWaterRelaxationHz, kItu},
        {"wet loam", say("Wet loam"), 30.0, 0.01, 0.0, kItu},
        {"marsh", say("Marsh, wooded flat land"), 12.0, 0.0075, 0.0, kTerman},
        {"average", say("Average: pasture, low hills"), 13.0, 0.005, 0.0, kTerman},
        {"rock", say("Rock, steep hills"), 14.0, 0.002, 0.0, kTerman},
        {"dry sand", say("Dry sand, flat coast"), 10.0, 0.002, 0.0, kTerman},
        {"city", say("City, industry"), 5.0, 0.001, 0.0, kTerman},
    };
    return table;
}

const Soil* findSoil(const std::string& id) {
    for (const auto& soil : soils())
        if (soil.id == id) return &soil;
    return nullptr;
}

Ground groundOf(const Soil& soil) {
    return {GroundKind::Real, soil.relativePermittivity, soil.conductivitySm, soil.relaxationHz};
}

Complex permittivityAt(const Ground& ground, double frequencyHz) {
    Complex permittivity = ground.relativePermittivity;
    if (ground.relaxationHz > 0.0) {
        const double rest = kWaterRest * ground.relativePermittivity;
        permittivity =
            rest + (ground.relativePermittivity - rest) / Complex(1.0, frequencyHz / ground.relaxationHz);
    }
    return permittivity - Complex(0.0, ground.conductivitySm / (2.0 * kPi * frequencyHz * kEps0));
}

}  // namespace rm::model
