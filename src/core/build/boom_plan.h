// A boom as a workpiece: where its elements go, where it is joined, and where it balances.
#pragma once

#include <string>
#include <vector>

#include "core/build/pieces.h"
#include "core/build/stock.h"

namespace rm::build {

/// Where an element goes through its boom or sits on it.
struct Hole {
    std::string element;
    double atM = 0.0;    ///< from the first one
    double fromM = 0.0;  ///< from the one before
};

struct BoomPlan {
    std::string part;
    int count = 1;            ///< of them: one for each copy of the row
    std::vector<Hole> holes;  ///< from one end to the other
    double lengthM = 0.0;     ///< from the first hole to the last
    double endM = 0.0;        ///< of the boom beyond each of them
    /// What the boom is made of: "round 30 mm", "square 25 mm"; empty: elements without a boom.
    std::string tube;
    std::vector<double> tubesM;   ///< lengths of the tubes that it is joined from
    std::vector<double> jointsM;  ///< where, from the first hole
    double balanceM = 0.0;        ///< from the first hole
    double massKg = 0.0;          ///< of one, elements and boom; of insulating booms the elements alone
    double elementsKg = 0.0;
    double tubeM() const { return lengthM + 2.0 * endM; }
};

/// How a boom is cut.
struct BoomCut {
    double endM = 0.05;
    double wallM = 0.0015;
    double stockM = 6.0;
};

/// One plan for each element row of a design, with the masses of its cut list. Joints keep clear of holes
/// where the stock length leaves a choice.
std::vector<BoomPlan> boomPlans(const model::Design& design, const model::Expansion& expansion,
                                const CutList& list, const BoomCut& cut);

}  // namespace rm::build
