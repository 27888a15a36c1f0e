// What stands on a site and holds wires up, as typed: masts, trees, roof edges, walls, pegs. It belongs to
// the site and not to the antenna: places count from the origin of the design to the east and to the north,
// so that an antenna that is turned leaves the trees where they are.
#pragma once

#include <string>

#include "core/model/extra.h"
#include "core/model/id.h"

namespace rm::model {

enum class SupportKind { Mast, Tree, RoofEdge, Wall, Peg };

struct Support {
    std::string name;
    SupportKind kind = SupportKind::Mast;
    std::string east = "0 m";
    std::string north = "0 m";
    std::string height = "10 m";  ///< of its top above the ground; a peg's is where the rope is tied
    std::string toEast = "5 m";   ///< roof edge and wall: the other end
    std::string toNorth = "0 m";
    Extra extra = {};
    Id id = 0;

    bool operator==(const Support&) const = default;
};

/// Whether it runs from one place to another.
inline bool isEdge(SupportKind kind) {
    return kind == SupportKind::RoofEdge || kind == SupportKind::Wall;
}

/// "roof edge"
std::string supportName(SupportKind kind);

/// A picture of the site from above, laid under its plan: two points of it and where they are.
struct Backdrop {
    std::string file;  ///< empty: none
    /// Of the picture, from its left and from its top, as shares of its width and of its height.
    double firstX = 0.25;
    double firstY = 0.5;
    double secondX = 0.75;
    double secondY = 0.5;
    double firstEastM = -10.0;
    double firstNorthM = 0.0;
    double secondEastM = 10.0;
    double secondNorthM = 0.0;
    Extra extra = {};

    bool operator==(const Backdrop&) const = default;
};

}  // namespace rm::model
