// The build sheet of a design: its cut list and what comes out of which stock, ropes and pegs, lines, coils
// and capacitors, and what to order for all of it.
#pragma once

#include "core/build/boom_plan.h"
#include "core/build/fittings.h"
#include "core/build/order.h"
#include "core/build/rigging.h"
#include "core/build/stock.h"
#include "core/model/finding.h"

namespace rm::build {

/// Rods, tubes or wire of one conductor on the lengths that they are sold in.
struct StockLayout {
    std::string conductor;
    double stockM = 0.0;
    bool reel = false;
    std::vector<double> lengthsM;    ///< what is cut
    std::vector<std::size_t> piece;  ///< of the cut list, one for each length
    StockPlan plan;
};

struct BuildSheet {
    CutList list;
    Allowances allowances;
    double stockM = 0.0;
    std::vector<StockLayout> stock;  ///< one for each conductor
    std::vector<BoomPlan> booms;     ///< one for each element row
    Rigging rigging;
    Fittings fittings;
    std::vector<model::Finding> findings;  ///< what cannot be cut so
};

/// By the allowances and stock lengths of the design. Throws rm::Error where the design has errors, or where
/// one of those is no length.
BuildSheet buildSheet(const model::Design& design);

}  // namespace rm::build
