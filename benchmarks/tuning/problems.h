// Antennas to be tuned, of the kinds that designers bring: what a tuner is measured by.
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::tuning {

struct Problem {
    std::string name;
    std::string what;  ///< in a line
    model::Design design;
    std::vector<model::Band> bands;
};

std::vector<Problem> problems();

}  // namespace rm::tuning
