// What may move in tuning: the dimensions with their limits and steps, and what must not be exceeded.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::study {

/// A dimension that moves, as numbers in m, degrees or plain; between 0 and 1 for the search.
struct Axis {
    std::string name;
    model::DimensionKind kind = model::DimensionKind::Length;
    double low = 0.0;
    double high = 1.0;
    double step = 1e-3;           ///< that can be built
    double now = 0.0;             ///< where the search begins
    std::vector<double> choices;  ///< only these values, in order; empty: any between low and high

    bool discrete() const { return !choices.empty(); }
    double at(double scaled) const;
    double scaled(double value) const;
    /// The nearest value that can be built, within the limits.
    double built(double value) const;
};

/// The enabled movers of a design. `resume` says where to begin instead of the design's own values. Throws
/// rm::Error naming the dimension that cannot move, or where none may.
std::vector<Axis> axesOf(const model::Design& design, const std::map<std::string, double>& resume = {});

/// A number as the text of a dimension: "3.21 m".
std::string dimensionText(model::DimensionKind kind, double value);

/// The design with dimensions set to these values; written in the units they are typed in, to the precision
/// of a tape, where `tidy`.
model::Design withValues(const model::Design& design, const std::map<std::string, double>& values,
                         bool tidy = false);

/// A limit as a number in metres.
struct PlainLimit {
    model::LimitKind kind = model::LimitKind::BoomLength;
    double limitM = 0.0;
    /// How far it is exceeded, metres; zero or less: kept.
    double overM(const model::Expansion& design) const;
};

/// Throws rm::Error naming the limit that cannot be read.
std::vector<PlainLimit> limitsOf(const model::Design& design);

/// What a limit is about, of a design as it is: length of the longest element, of the boom, of all wire,
/// highest and lowest point, least distance of wires that do not touch; metres.
double builtM(const model::Expansion& design, model::LimitKind kind);

}  // namespace rm::study
