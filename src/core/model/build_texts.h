// How this antenna is cut, as typed.
#pragma once

#include <string>

#include "core/model/extra.h"

namespace rm::model {

struct BuildTexts {
    std::string foldedEnd = "15 cm";  ///< of wire, folded back at a free end
    std::string joint = "5 cm";       ///< of wire, at a feed, a load or other wires
    std::string stock = "6 m";        ///< that rods and tubes are sold in
    std::string reel = "100 m";       ///< that wire is sold on
    std::string kerf = "2 mm";        ///< that a saw takes
    std::string overlap = "10 cm";    ///< of a tube inside the next thicker one
    std::string wall = "1.5 mm";      ///< of tubes, and of a boom
    std::string gap = "0 mm";         ///< between the two halves of a rod or tube that is fed in between
    std::string boomEnd = "5 cm";     ///< of a boom beyond its first and its last element
    Extra extra = {};

    bool operator==(const BuildTexts&) const = default;
};

}  // namespace rm::model
