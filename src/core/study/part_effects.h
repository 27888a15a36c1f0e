// What each part does to an antenna: the same figures with it switched off.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"

namespace rm::study {

/// A change of gain below this is none, dB.
inline constexpr double kNoDb = 0.05;

/// The antenna without some parts, against the whole.
struct PartEffect {
    std::vector<std::string> without;  ///< the parts that are off
    double share = 0.0;                ///< of the largest current anywhere: the largest on these parts
    Figures figures;                   ///< without them
    double worstSwr = 1.0;             ///< over the band, without them
    std::string problem;               ///< why there are no figures; empty where there are
    std::string name() const;
};

struct PartEffects {
    Figures whole;
    double worstSwr = 1.0;
    model::Band band;
    std::vector<PartEffect> rows;  ///< each part alone, then all of them together
    bool complete = false;

    /// What the row does, in words: "It costs 1.2 dB towards the strongest lobe and moves the SWR in the band
    /// from 1.4 to 1.9."
    std::string sentence(const PartEffect& row) const;
};

/// The parts in use without which something is still fed: masts, cables, gutters, the other antenna.
std::vector<std::string> sparePartsOf(const model::Design& design);

/// `parts` each alone and, where they are several, together. Throws rm::Error for a design with errors.
PartEffects partEffects(const model::Design& design, const std::vector<std::string>& parts,
                        const model::Band& band, double frequencyHz, std::stop_token stop = {},
                        const Progress& progress = {});

}  // namespace rm::study
