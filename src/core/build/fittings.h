// What belongs to an antenna beside its wires: lines cut to length, coils wound, capacitors chosen.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/build/coax_trap.h"
#include "core/build/winding.h"
#include "core/model/expand.h"

namespace rm::build {

/// A piece of line.
struct LineCut {
    std::string name;
    std::string kind;  ///< "coax 50 thin"
    std::string use;   ///< "cable", "stub, shorted", "quarter wave", "between two points", "to Feed (upper)"
    double lengthM = 0.0;
    double degrees = 0.0;  ///< electrical, at the design frequency
};

struct CoilRow {
    std::string name;
    Winding winding;
};

struct CapacitorRow {
    std::string name;
    double picofarad = 0.0;
    double standardPf = 0.0;  ///< the nearest value of the E24 series
};

/// A trap as it can be wound of cable instead of coil and capacitor.
struct CoaxTrapRow {
    std::string name;
    CoaxTrap trap;
};

/// A transformer by its turns.
struct TransformerRow {
    std::string name;
    std::string ratio;  ///< of impedances
    int antennaTurns = 1;
    int radioTurns = 1;
    double ratioMade = 1.0;  ///< what these turns make
};

/// A choke of the feed path.
struct ChokeRow {
    std::string name;
    std::string choking;  ///< ohm against the current on the outside of the cable, as typed; empty: not said
    double lossDb = 0.0;
};

/// Arms that hold a loop open, from its middle to its corners.
struct SpreaderRow {
    std::string part;
    int count = 0;
    double lengthM = 0.0;
};

struct Fittings {
    std::vector<SpreaderRow> spreaders;
    std::vector<LineCut> lines;
    std::vector<CoilRow> coils;
    std::vector<CapacitorRow> capacitors;
    std::vector<CoaxTrapRow> traps;
    std::vector<TransformerRow> transformers;
    std::vector<ChokeRow> chokes;
};

Fittings fittingsOf(const model::Design& design, const model::Expansion& expansion);

}  // namespace rm::build
