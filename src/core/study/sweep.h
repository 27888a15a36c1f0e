// Impedance against frequency, with progress and cancelling.
#pragma once

#include <functional>
#include <optional>
#include <stop_token>
#include <vector>

#include "core/model/expand.h"
#include "core/study/figures.h"

namespace rm::study {

struct SweepPoint {
    double frequencyHz = 0.0;
    std::vector<Complex> impedanceOhm;  ///< per feed; 0 at an idle one
    Complex antennaOhm;                 ///< where the feed path begins (circuit::Drive)
    Complex radioOhm;                   ///< the same through the feed path
    double swr = 1.0;                   ///< at the radio
    double harnessLossDb = 0.0;         ///< between the common point of a harness and the feeds
    em::MatrixXc feedAdmittance = {};   ///< siemens, between the feeds, where there are several
};

struct Sweep {
    std::vector<SweepPoint> points;   ///< what was asked for
    std::vector<SweepPoint> refined;  ///< these and what lies between them; empty where they say it all
    double referenceOhm = 50.0;
    bool complete = false;  ///< false: stopped before the end
    int solutions = 0;      ///< field solutions that it rests on

    /// What is drawn, and what every figure below is read from.
    const std::vector<SweepPoint>& curve() const { return refined.empty() ? points : refined; }
    /// Largest and smallest SWR over the curve, 1 where there is none.
    double worstSwr() const;
    double bestSwr() const;
    /// Frequency of the smallest SWR in Hz.
    double bestFrequencyHz() const;
    /// Width in Hz of the stretch round the smallest SWR where the SWR stays at or below `limit`, between the
    /// ends of the sweep; zero where it never gets there.
    double bandwidthHz(double limit) const;
    /// That stretch; nothing where the SWR never gets there.
    struct Stretch {
        double lowHz = 0.0;
        double highHz = 0.0;
    };
    std::optional<Stretch> stretch(double limit) const;
    /// Where the reactance of the antenna goes through zero.
    std::vector<double> resonancesHz() const;
    /// The point at any frequency between the ends, by interpolation of the impedances. Throws rm::Error
    /// where there are no points.
    SweepPoint at(double frequencyHz) const;
};

/// Called now and then with the share that is done, 0 to 1, from any thread.
using Progress = std::function<void(double)>;

/// `points` equally spaced frequencies from low to high (both included) on one mesh, cut for the highest. A
/// few are solved; where there are many, the admittances between the ports follow from a rational model
/// through solutions at adaptively chosen frequencies, refined until the reflection coefficient of every feed
/// has settled to 3e-4 over the range. Stops early when asked and returns what it has solved. Solutions that
/// `fields` has are taken from there, new ones are kept there. Throws rm::Error for a design with errors or
/// an empty range.
Sweep sweep(const model::Expansion& design, double lowHz, double highHz, int points,
            std::stop_token stop = {}, const Progress& progress = {}, FieldStore* fields = nullptr);

}  // namespace rm::study
