// An antenna as somebody built it, which is never quite as it was drawn, on a made-up analyser.
#pragma once

#include <random>

#include "core/build/causes.h"
#include "core/model/expand.h"

namespace rm::build {

/// What nobody told the model.
struct HiddenTruth {
    Causes causes{};
    double noise = 0.0;  ///< of the reflection coefficient, standard deviation
    unsigned seed = 1;
    bool atRadio = true;  ///< at the end of the feed path; otherwise at the antenna itself
};

class SimulatedAnalyser {
  public:
    /// Throws rm::Error where the design with these causes cannot be worked out.
    SimulatedAnalyser(const model::Design& design, const HiddenTruth& truth);

    /// Ohm. Throws rm::Error as the engine does.
    Complex measure(double frequencyHz);

  private:
    HiddenTruth truth_;
    model::Expansion built_;
    std::mt19937 random_;
};

}  // namespace rm::build
