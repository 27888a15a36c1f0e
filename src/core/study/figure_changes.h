// What becomes of every figure where one antenna takes the place of another: what got worse beside what got
// better.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::study {

struct FigureChange {
    std::string name;  ///< "worst SWR on 20 m", "front-to-back"
    std::string unit;  ///< "dBi", "dB", "%"; empty: none
    double before = 0.0;
    double after = 0.0;
    bool better = true;  ///< otherwise worse

    /// "front-to-back 24.1 → 18.3 dB".
    std::string sentence() const;
};

/// The figures of the ledger that differ by what can be seen, the worst changes first: the SWR on every band
/// of the design, and at its design frequency gain, gain at the watch angles towards the strongest lobe,
/// front-to-back, front-to-rear, side lobe and what goes to the sky. Throws rm::Error where one of them
/// cannot be solved, and rm::Stopped where it is asked to stop.
std::vector<FigureChange> figureChanges(const model::Design& before, const model::Design& after,
                                        const std::vector<model::Band>& bands, const model::Angles& angles,
                                        const std::stop_token& stop = {});

}  // namespace rm::study
