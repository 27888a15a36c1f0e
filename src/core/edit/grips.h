// Grips: the places of a part that hands take hold of, and what the part becomes when one is dragged.
//
// A grip is where the wires of the part say it is, and dragging it sets the fields that put it there: the
// points of a wire, leg and angle of an inverted V, length and bearing of a radial. Where formulas stand in
// those fields the dimensions behind them move (edit/fit.h).
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/edit/fit.h"
#include "core/model/expand.h"

namespace rm::edit {

enum class GripKind {
    Point,    ///< an end or a corner of a wire
    Corner,   ///< of a regular loop
    Apex,     ///< of an inverted V
    Tip,      ///< of a leg, a radial, an element
    Hub,      ///< where radials leave
    Element,  ///< the middle of an element, along its boom
    Depth,    ///< below a foot or a top: the depth of radials, the length of a rod
    Whole,    ///< the part with all that belongs to it
};

struct Grip {
    model::Id part = 0;
    GripKind kind = GripKind::Point;
    std::size_t index = 0;
    std::string name;                        ///< "end", "corner 2", "apex"
    Vec3 atM = Vec3::Zero();                 ///< on the site
    std::optional<Vec3> anchorM = {};        ///< the other end of the conductor that it ends
    std::optional<Vec3> beforeAnchorM = {};  ///< where the conductor before it comes from

    /// The same grip, wherever it is now.
    bool is(const Grip& other) const {
        return part == other.part && kind == other.kind && index == other.index;
    }
};

/// The grips of a part where the yard shows it: of copies those of the first. None where it has no wires.
std::vector<Grip> gripsOf(const model::Design& design, const model::Expansion& expansion, model::Id part);

/// The same grip of a design as it is now; nothing where it is gone.
std::optional<Grip> gripNow(const model::Design& design, const model::Expansion& expansion, const Grip& grip);

struct Dragged {
    model::Design design;
    Fit fit;
};

/// The design with the grip at `toM` on the site, as far as its fields let it. `offsetM` is where the part
/// shown lies from where its fields say: gripOffset.
Dragged dragGrip(model::Design design, const Grip& grip, const Vec3& toM, const Vec3& offsetM,
                 const Steps& steps);

/// From where the fields of a part put it to where the yard shows it: the height of the site, and what copies
/// do to the first of them.
Vec3 gripOffset(const model::Design& design, const model::Expansion& expansion, model::Id part);

}  // namespace rm::edit
