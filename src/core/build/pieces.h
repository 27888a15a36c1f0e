// From the worked-out antenna to the pieces that are cut for it: what runs on without a feed, a load or a
// branch is one piece of wire, rod or tube.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::build {

/// What is left over at the ends of wires, metres.
struct Allowances {
    double endM = 0.15;                           ///< folded back through an insulator at a free end of wire
    std::map<std::string, double> partEndM = {};  ///< the same of parts that have their own, by name
    double feedM = 0.05;  ///< where wire is joined to a feed, a load, a trap or other wires
    /// Only wire is folded: what is thicker than this is rod or tube.
    double thickestWireM = 0.004;
};

/// Equal pieces of one part.
struct Piece {
    std::string part;       ///< as a person calls it: "Yagi, reflector"
    std::string origin;     ///< the part of the design
    std::string conductor;  ///< "copper 2 mm", as the part says
    int count = 1;
    double modelledM = 0.0;  ///< length of each as modelled, along its bends
    double cutM = 0.0;       ///< of each, to cut
    std::string added;       ///< what makes the difference; empty: nothing
    bool wire = true;        ///< thin enough to be folded and to come off a reel; otherwise rod or tube
    int bends = 0;
    int freeEnds = 0;  ///< of each, joined to nothing
};

/// Length of each kind of conductor in all.
struct Total {
    std::string conductor;
    double cutM = 0.0;
    int pieces = 0;
    bool wire = true;
};

struct CutList {
    std::vector<Piece> pieces;  ///< by part, in the order of the design
    std::vector<Total> totals;
};

/// The cut list of an antenna that can be worked out. Elements on a metal boom are as much longer as the boom
/// asks for. Throws rm::Error where the design has errors.
CutList cutList(const model::Design& design, const Allowances& allowances = {});
/// The same of a design that is worked out already.
CutList cutList(const model::Design& design, const model::Expansion& expansion, const Allowances& allowances);

}  // namespace rm::build
