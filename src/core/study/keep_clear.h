// How far from an antenna people have to stay, on every band.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/exposure.h"
#include "core/study/near_map.h"
#include "core/study/sweep.h"

namespace rm::study {

/// Where a limit is passed at one height.
struct ClearZone {
    double heightM = 0.0;
    /// The farthest place where the field is above the limit, level from the middle of the antenna and from
    /// the nearest wire; 0: nowhere.
    double fromMiddleM = 0.0;
    double fromWireM = 0.0;
    double most = 0.0;  ///< the largest share of the limit at this height
    em::PointPlane plane;
    std::vector<MapSegment> contour;  ///< where the limit is reached, on `plane`
    bool clipped = false;             ///< it reaches farther than was looked
};

/// One person at one frequency: at the height of a head, and of the window.
struct ClearRow {
    std::string band;
    double frequencyHz = 0.0;  ///< the worst of the band's ends and its middle
    Person person = Person::Public;
    FieldLimits limits;
    double antennaW = 0.0;  ///< into the antenna with the radio at full power
    ClearZone head;
    ClearZone window;
};

struct ClearTable {
    model::KeepClear rules;
    double radioW = 0.0;
    std::vector<ClearRow> rows;         ///< band after band, the public before the operator
    std::vector<std::string> problems;  ///< bands that cannot be worked out, and why
    bool complete = false;

    /// What the distances rest on, as sentences for people who check them.
    std::vector<std::string> notes() const;
};

/// The zones of a solved antenna at its frequency, of the public and of the operator. Throws rm::Stopped.
std::vector<ClearRow> clearRows(const model::Expansion& design, const Analysis& analysis,
                                const model::KeepClear& rules, double radioW,
                                const std::stop_token& stop = {});

/// Every band that the design is for, at its ends and in its middle. Throws rm::Error for a design with
/// errors.
ClearTable keepClear(const model::Project& project, const model::Design& design, std::stop_token stop = {},
                     const Progress& progress = {});

}  // namespace rm::study
