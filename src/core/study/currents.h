// Currents along the parts of an antenna, and what the parts that nobody feeds do to the pattern.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/study/figures.h"

namespace rm::study {

/// The current at a point of a part: how far along it, and in amperes, positive away from its start.
struct CurrentPoint {
    double alongM = 0.0;
    Complex ampere;
};

/// The current at t of a span (-1 to 1), A, from the coefficients of all local functions.
Complex currentOn(const em::Span& span, const Eigen::VectorXcd& local, double t);

/// Current along a part from its start to its end, wire after wire. Empty where the part has no wires.
std::vector<CurrentPoint> currentAlong(const model::Expansion& design, const Analysis& analysis,
                                       const std::string& part);

/// A part that carries current without being fed or joined to anything that is.
struct Bystander {
    std::string part;
    double share = 0.0;  ///< its largest current over the largest of all
    double costDb =
        0.0;  ///< gain without it less gain with it, towards the strongest lobe; below zero: it helps
    double elevationDeg = 0.0;  ///< of that lobe
    /// "Lattice mast carries 18 % of the largest current and costs 1.2 dB towards 40° elevation."
    std::string sentence() const;
};

/// Parts that carry at least this share of the largest current are named.
inline constexpr double kLeastShare = 0.03;

/// Bystanders, the largest current first, at most `most`; each costs one solution without it. `analysis`
/// belongs to the expanded design. Stops early when asked.
std::vector<Bystander> bystanders(const model::Expansion& design, const Analysis& analysis, std::size_t most,
                                  FieldStore* fields = nullptr, std::stop_token stop = {});

}  // namespace rm::study
