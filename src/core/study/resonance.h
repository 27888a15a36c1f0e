// Where an antenna is resonant, and scaling it to be resonant where it is wanted.
#pragma once

#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::study {

struct Resonance {
    double frequencyHz = 0.0;
    Complex impedanceOhm;  ///< at the first feed; the reactance is zero to a few milliohm
};

/// The frequency nearest to `nearHz` where the reactance of the first feed is zero, within a factor of two
/// either way; nothing where there is none or the search was stopped. Throws rm::Error for a design with
/// errors.
std::optional<Resonance> findResonance(const model::Expansion& design, double nearHz,
                                       std::stop_token stop = {});

struct Scaled {
    model::Design design;  ///< with the new values of the chosen dimensions
    double factor = 1.0;   ///< applied to every chosen dimension
    Resonance before;      ///< the one that was moved, where it was
    Resonance after;       ///< at the target
};

/// Multiplies the chosen dimensions (by name) so that the antenna is resonant at `targetHz`. The first guess
/// is the ratio of the frequencies: from the resonance within a tenth of the target or, where none is that
/// near, from the one at the design frequency; then the factor is corrected by solving again until resonance
/// is there, because the height and everything else that was not chosen did not scale. Throws rm::Error where
/// there is nothing to scale, no resonance near, or a chosen dimension is a formula.
Scaled scaleToFrequency(const model::Design& design, const std::vector<std::string>& dimensions,
                        double targetHz, std::stop_token stop = {});

/// Names of the dimensions that may be chosen: lengths that are plain numbers.
std::vector<std::string> scalableDimensions(const model::Design& design);

}  // namespace rm::study
