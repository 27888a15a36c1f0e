// What a good antenna is, which dimensions may move to get there, and what must not be exceeded; as typed.
#pragma once

#include <string>
#include <vector>

#include "core/model/typed.h"

namespace rm::model {

enum class GoalKind {
    Swr,          ///< at the radio, at most
    Gain,         ///< of the strongest lobe in dBi, at least
    GainAt,       ///< in dBi at an elevation, towards a bearing or the best one, at least
    MeanGain,     ///< mean in dBi over a range of elevations, at least
    LeastGain,    ///< least in dBi over a range of elevations, at least
    FrontToRear,  ///< dB over the strongest direction of the half space behind, at least
    FrontToBack,  ///< dB over the direction straight behind, at least
    Null,         ///< dB below the strongest lobe in one direction, at least
    Flat,         ///< variation of the gain over the band in dB, at most
    SideLobe,  ///< of the elevation or azimuth cut in dB below the main lobe, at least; the sign is not read
    Resistance,  ///< at the antenna in ohm, between
    Impedance,   ///< at the antenna: ohm from a wanted one, at most
    Efficiency,  ///< percent, at least
    Takeoff,     ///< degrees, at most
    Resonance,   ///< X = 0 at a frequency
    Bandwidth    ///< around the middle of the band or range, below an SWR, as wide as possible
};

enum class Importance { Useful, Important, Essential };

struct Goal {
    GoalKind kind = GoalKind::Swr;
    bool enabled = true;
    std::string from;                ///< range of frequencies; empty: bands
    std::string to;                  ///< empty: at `from` alone
    std::vector<std::string> bands;  ///< by name; empty: all bands of the design
    bool counted = false;            ///< to be met on as many of its bands as possible, not on all
    std::string limit;               ///< in the unit of the kind; empty for a gain: as much as possible
    std::string upper;               ///< resistance: the other end
    std::string wanted = "50";       ///< Impedance: "36", "25 - j10"
    std::string angle = "10 deg";    ///< elevation of what looks in one direction; the lower one of a range
    std::string angleTo = "20 deg";  ///< the upper one
    std::string towards;  ///< "front", "back", "best" or a compass bearing; empty: what suits the kind
    std::vector<std::string> driveSets;  ///< by name, each of which it holds for; empty: the one in use
    Importance importance = Importance::Important;
    int stage = 1;  ///< goals of a later stage hold what an earlier one has reached
    Extra extra;

    bool operator==(const Goal&) const = default;
};

/// A dimension that may move.
struct Mover {
    std::string dimension;
    std::string low;      ///< empty: the low end of its slider, or 15 % less
    std::string high;     ///< empty: the high end of its slider, or 15 % more
    std::string step;     ///< that can be built; empty: 1 mm, a tenth of a degree
    std::string choices;  ///< only these values, separated by commas; empty: all between the limits
    bool enabled = true;
    Extra extra;

    bool operator==(const Mover&) const = default;
};

enum class LimitKind { LongestElement, BoomLength, TotalWire, HighestPoint, LowestPoint, KeepApart };

struct BuildLimit {
    LimitKind kind = LimitKind::BoomLength;
    std::string value = "5 m";
    bool enabled = true;
    Extra extra;

    bool operator==(const BuildLimit&) const = default;
};

/// Errors of building as typed, standard deviations: lengths with their units, shares with a percent sign.
struct BuildErrorTexts {
    std::string length = "3 mm";
    std::string angle = "0.5 deg";
    std::string diameter = "2 %";
    std::string height = "0.1 m";
    std::string ground = "30 %";
    Extra extra = {};

    bool operator==(const BuildErrorTexts&) const = default;
};

struct TunePlan {
    std::vector<Goal> goals;
    std::vector<Mover> movers;
    std::vector<BuildLimit> limits;
    bool asBuilt = false;  ///< goals are to hold for nine of ten builds with these errors
    BuildErrorTexts errors{"1 mm", "0.5 deg", "1 %", "0.1 m", "30 %"};

    bool empty() const { return goals.empty() && movers.empty() && limits.empty() && !asBuilt; }
    Extra extra = {};

    bool operator==(const TunePlan&) const = default;
};

}  // namespace rm::model
