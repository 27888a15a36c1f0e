// Lines and blocks of the feed path: from typed texts to what the circuit works with.
#pragma once

#include "core/model/design.h"
#include "core/model/field_values.h"

namespace rm::model {

LineKind lineOf(FieldValues& values, const LineText& text, const std::string& name);

/// A block of the feed path. A quarter-wave section without a frequency of its own is cut for the design
/// frequency in Hz.
Block blockOf(FieldValues& values, const FeedBlock& block, double designFrequencyHz);

/// The lumped circuit of a load.
LumpedCircuit circuitOf(FieldValues& values, const Load& load);

}  // namespace rm::model
