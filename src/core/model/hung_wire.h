// A wire that hangs between supports by ropes, as typed: its length is given, the rope is what is left.
#pragma once

#include <string>
#include <vector>

#include "core/model/extra.h"

namespace rm::model {

/// Where a wire or its rope is tied to a support.
struct HangPoint {
    std::string support;  ///< by its name
    std::string height;   ///< above the ground; empty: at its top
    std::string along;    ///< roof edge and wall: from its first end; empty: in its middle
    Extra extra = {};

    bool operator==(const HangPoint&) const = default;
};

/// What decides where along its way the wire is.
enum class HungBy {
    Start,   ///< so much rope lies before it
    Middle,  ///< as much rope before it as behind it
    Corner,  ///< its middle is at one of the points between
};

struct HungWire {
    std::vector<HangPoint> points;
    std::string length = "10 m";  ///< of the wire along its bends; empty: all the way but for the rope
    HungBy by = HungBy::Middle;
    std::string rope = "0 m";  ///< before its start
    std::string corner = "1";  ///< which of the points between holds its middle
    std::string sag;           ///< share of each span, "3 %"; empty: by its pull
    std::string pull;          ///< newton, in the middle of each span; empty: taut, without sag

    bool operator==(const HungWire&) const = default;
};

}  // namespace rm::model
