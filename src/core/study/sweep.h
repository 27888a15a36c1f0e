// Impedance against frequency, with progress and cancelling.
#pragma once

#include <functional>
#include <stop_token>
#include <vector>

#include "core/model/expand.h"
#include "core/study/figures.h"

namespace rm::study {

struct SweepPoint {
    double frequencyHz = 0.0;
    std::vector<Complex> impedanceOhm;  ///< per feed
    double swr = 1.0;                   ///< of the first feed
};

struct Sweep {
    std::vector<SweepPoint> points;
    double referenceOhm = 50.0;
    bool complete = false;  ///< false: stopped before the end

    /// Largest and smallest SWR over the points, 1 where there are none.
    double worstSwr() const;
    double bestSwr() const;
    /// Frequency of the smallest SWR in Hz.
    double bestFrequencyHz() const;
    /// Width in Hz of the stretch round the smallest SWR where the SWR stays at or below `limit`, between the
    /// ends of the sweep; zero where it never gets there.
    double bandwidthHz(double limit) const;
};

/// Called now and then with the share that is done, 0 to 1, from any thread.
using Progress = std::function<void(double)>;

/// Solves `points` equally spaced frequencies from low to high (both included) on one mesh, cut for the
/// highest. Stops early when asked and returns what it has. Throws rm::Error for a design with errors or an
/// empty range.
Sweep sweep(const model::Expansion& design, double lowHz, double highHz, int points,
            std::stop_token stop = {}, const Progress& progress = {});

}  // namespace rm::study
