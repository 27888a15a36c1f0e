// Small pieces that several items of a design share: points, places and lines as typed.
#pragma once

#include <array>
#include <string>

#include "core/model/extra.h"
#include "core/model/id.h"

namespace rm::model {

/// Forward, left and up, as typed.
using PointText = std::array<std::string, 3>;

enum class PlaceKind { Start, Middle, End, Corner, Distance, Percent, Side };

/// Somewhere along a part, or along one element of an element row.
struct Place {
    PlaceKind kind = PlaceKind::Middle;
    std::string value;         ///< corner or side number, distance from the start, or percentage
    std::string element = {};  ///< of an element row; empty on other parts
    Extra extra = {};

    bool operator==(const Place&) const = default;
};

/// The line whose figures the designer gives.
inline constexpr const char* kCustomLine = "custom";

/// A piece of transmission line as typed.
struct LineText {
    std::string line = "coax 50 thin";  ///< an id of model/feed_blocks.h, or kCustomLine
    std::string lineOhm = "50";         ///< of a custom line, as the next three
    std::string velocityFactor = "0.66";
    std::string lossRoot = "0";    ///< dB per 100 m and root of MHz
    std::string lossLinear = "0";  ///< dB per 100 m and MHz
    std::string length = "20 m";

    bool operator==(const LineText&) const = default;
};

}  // namespace rm::model
