// What may be different about a built antenna: each cause with what it does to the model.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::build {

enum class Cause {
    Length,       ///< every length that scales, times 1 + value
    Height,       ///< the whole antenna raised by value, m
    Soil,         ///< conductivity times exp(value), permittivity (above one) times exp(value/2)
    Capacitance,  ///< across the feed, pF
    Loss,         ///< in series with the feed, ohm
    Line,         ///< more cable between analyser and antenna than said, m of 50 ohm
};

struct Found {
    Cause cause = Cause::Length;
    double value = 0.0;
    double sigma = 0.0;
    std::string words;  ///< "everything acts 2.1 % longer than drawn (± 0.2)"
};

inline constexpr std::size_t kCauses = 6;

inline constexpr std::size_t indexOf(Cause cause) {
    return static_cast<std::size_t>(cause);
}

/// A value of each cause.
using Causes = std::array<double, kCauses>;

/// How large a cause usually is, which is the width of its ridge, and a step for differences.
struct Usual {
    Cause cause;
    double size;
    double step;
};
const Usual& usual(Cause cause);

/// The antenna with these causes at work, as far as they change its field. `lengths` are the dimensions that
/// scale.
model::Design withCauses(const model::Design& design, const std::vector<std::string>& lengths,
                         const Causes& causes);

/// What they do to the impedance (ohm) of the antenna: capacitance across its feed, loss in series.
Complex atTerminals(Complex antennaOhm, const Causes& causes, double frequencyHz);

/// Through the piece of line that nobody spoke of, ohm.
Complex throughLine(Complex ohm, const Causes& causes, double frequencyHz);

/// "everything acts 2.1 % longer than drawn (± 0.2)"
std::string wordsOf(const Found& found);

}  // namespace rm::build
