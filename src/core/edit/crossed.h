// A row of elements joined by one line along the boom that crosses over between them: a log-periodic row.
#pragma once

#include "core/model/design.h"

namespace rm::edit {

/// Lines from each element to the next, crossed, of this impedance as typed, as long as the elements are
/// apart; none where two are joined already. Throws rm::Error where the part is no row of at least two
/// elements.
std::vector<model::PhasingLine> crossedLines(const model::Design& design, const model::Part& part,
                                             const std::string& ohm);

/// The same in the design on the bench, in one step: a dimension for the impedance, the lines, and the feed
/// of the row (a new one where it has none) at its shortest element.
[[nodiscard]] model::Project crossElements(model::Project project, model::Id part);

}  // namespace rm::edit
