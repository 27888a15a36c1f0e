// The outside of a feed line as a wire, as typed: it hangs from a feed and runs to the radio.
#pragma once

#include <string>
#include <vector>

#include "core/model/extra.h"
#include "core/model/typed.h"

namespace rm::model {

/// Which side of the feed the shield is joined to.
enum class ShieldOn {
    Other,   ///< the side against that of the feed's own wire, towards the start of its part
    Own,     ///< the side of the feed's own wire
    Middle,  ///< between both: a voltage balun holds them at equal and opposite voltages against it
};

/// How the run ends at the radio.
enum class RunEnd {
    Open,
    Rod,    ///< a lead straight down and a rod in the soil
    Earth,  ///< the same with the resistance of the station's earth in series
};

/// A corner on the way.
struct RunPoint {
    std::string support;  ///< at the foot of this one, at the height of the point; empty: at the point
    PointText at{"0 m", "0 m", "0 m"};
    Extra extra = {};

    bool operator==(const RunPoint&) const = default;
};

/// Heights count from the ground, whatever the height of the site.
struct CableRun {
    std::string feed;  ///< by its name; empty: the first
    ShieldOn shield = ShieldOn::Other;
    bool down = true;           ///< first straight down, to `level`
    std::string level = "1 m";  ///< less than zero: in the soil
    std::vector<RunPoint> points;
    RunEnd end = RunEnd::Open;
    std::string rod = "1.5 m";    ///< length of the rod
    std::string earthOhm = "10";  ///< of the station's earth
    bool sized = true;            ///< diameter and jacket are those of the first cable of the feed path
    bool measures = false;        ///< that cable is as long as the run

    bool operator==(const CableRun&) const = default;
};

}  // namespace rm::model
