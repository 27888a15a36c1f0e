// How this antenna is cut, as typed.
#pragma once

#include <string>

#include "core/model/extra.h"

namespace rm::model {

struct BuildTexts {
    std::string foldedEnd = "15 cm";  ///< of wire, folded back at a free end
    std::string joint = "5 cm";       ///< of wire, at a feed, a load or other wires
    std::string stock = "6 m";        ///< that rods and tubes are sold in
    std::string kerf = "2 mm";        ///< that a saw takes
    Extra extra = {};

    bool operator==(const BuildTexts&) const = default;
};

}  // namespace rm::model
