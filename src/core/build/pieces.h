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
    double feedM = 0.05;    ///< where wire is joined to a feed, a load, a trap or other wires
    double overlapM = 0.1;  ///< of a tube inside the next thicker one
    double wallM = 0.0015;  ///< of tubes
    double gapM = 0.0;      ///< between the halves of a rod or tube that is fed in between
    /// Only wire is folded: what is thicker than this is rod or tube.
    double thickestWireM = 0.004;
    /// Rods are solid up to this, what is thicker is tube.
    double thickestRodM = 0.006;

    bool solid(double diameterM) const { return diameterM <= thickestRodM || diameterM <= 2.0 * wallM; }
    /// Cross-section of the metal of a rod or tube, m^2.
    double sectionM2(double diameterM) const;
};

/// Equal pieces of one part.
struct Piece {
    std::string part;       ///< as a person calls it: "Yagi, reflector"
    std::string origin;     ///< the part of the design
    std::string element;    ///< of an element row: "reflector"
    std::string conductor;  ///< "copper 2 mm", as the part says
    int count = 1;
    double modelledM = 0.0;  ///< length of each as modelled, along its bends
    double cutM = 0.0;       ///< of each, to cut
    std::string added;       ///< what makes the difference; empty: nothing
    bool wire = true;        ///< thin enough to be folded and to come off a reel; otherwise rod or tube
    double diameterM = 0.0;
    double overlapM = 0.0;   ///< rod or tube: how much of it is inside of thicker ones
    double insideOfM = 0.0;  ///< the diameter of the tube that it goes into; 0: none
    double massKg = 0.0;     ///< of each, as cut, without a coat
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
