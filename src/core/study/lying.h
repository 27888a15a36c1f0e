// Wires that lie on the ground are worked out a hair above it (model/on_ground.h): what it would make if they
// were trodden in, worked out, not guessed.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/study/figures.h"

namespace rm::study {

/// One part whose wires lie on the ground, and the antenna with these pressed as far into the ground as they
/// are above it now (or raised, where they lie a hair below).
struct LyingDifference {
    std::string part;
    double heightM = 0.0;      ///< where they were taken to be; below zero in the soil
    Complex ohm;               ///< of the antenna as it is
    Complex otherOhm;          ///< with the wires on the other side of the surface
    double otherGainDb = 0.0;  ///< by how much the strongest lobe changes

    std::string sentence() const;
};

/// Nothing where nothing lies on real ground. One field solution for each part that does. Throws rm::Stopped
/// where it is asked to stop.
std::vector<LyingDifference> lyingDifferences(const model::Expansion& design, const Analysis& analysis,
                                              FieldStore* fields = nullptr, const std::stop_token& stop = {});

}  // namespace rm::study
