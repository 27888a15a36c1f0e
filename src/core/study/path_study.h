// The whole story of a feed path: every joint and the walk between them, where the power goes on each band,
// and what would match it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/study/match.h"

namespace rm::study {

/// A feed path at one frequency.
struct PathReport {
    double frequencyHz = 0.0;
    double referenceOhm = 50.0;
    std::vector<circuit::Joint> joints;  ///< from the antenna to the radio
    std::vector<std::vector<Complex>>
        arcs;  ///< per block: the impedance on its way through (circuit::walkBlock)

    /// Watts that each block turns to heat while the radio puts `powerW` into the path.
    std::vector<double> lostW(double powerW) const;
    /// Watts that arrive at the antenna.
    double arrivingW(double powerW) const;
};

PathReport reportPath(const model::Expansion& design, Complex feedOhm, double frequencyHz);

/// What the designer asks of the match: where, to what, with which parts.
struct MatchWish {
    std::size_t joint = 0;
    MatchRequest request;  ///< its frequency is set by the study
};

struct PathStudy {
    PathReport now;                                ///< at the working frequency
    std::vector<std::optional<PathReport>> bands;  ///< in the middle of each band of the project, once swept
    ImpedanceCurve radio;                          ///< over the working band, at the radio
    std::size_t joint = 0;                         ///< that the options are for
    double targetOhm = 50.0;
    std::vector<MatchOption> options;
    std::string problem;              ///< why there are no options
    std::vector<RatioOption> ratios;  ///< over all bands of the design
};

/// `bands` are sweeps of the bands of the project in order, null where a band is not meant or not swept yet.
/// The ratios are left out while none is there.
PathStudy studyPath(const model::Expansion& design, Complex feedOhm, double frequencyHz, const Sweep& working,
                    const std::vector<const Sweep*>& bands, const MatchWish& wish);

}  // namespace rm::study
