// What to order: quantities with something to spare, from the other tables of a build sheet.
#pragma once

#include <string>
#include <vector>

#include "core/quantity/format.h"

namespace rm::build {

struct BuildSheet;

struct OrderRow {
    std::string what;      ///< "copper 2 mm"
    std::string quantity;  ///< "32 m", "3 x 6 m", "4"
    std::string why;       ///< "29.40 m of it, and a tenth to spare"
};

/// Wire by the metre or the foot, tubes by stock lengths, insulators, rope, lines, coils, capacitors, pegs.
std::vector<OrderRow> orderFor(const BuildSheet& sheet,
                               quantity::LengthStyle style = quantity::LengthStyle::Metric);

}  // namespace rm::build
