// Families of random but buildable antennas, each from a seed. Whatever the checks of the program refuse is
// left to the caller.
#pragma once

#include <string>
#include <vector>

#include "core/model/wire_model.h"

namespace rm::trials {

struct Trial {
    std::string family;
    unsigned seed = 0;
    double frequencyHz = 0.0;
    model::WireModel model;
    bool lossless = true;  ///< what goes in is radiated
};

/// Names of the families, in the order of their trials.
const std::vector<std::string>& families();

/// One antenna of a family, always the same for the same seed.
Trial makeTrial(const std::string& family, unsigned seed);

}  // namespace rm::trials
