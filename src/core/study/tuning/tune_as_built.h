// Tuning for nine of ten builds: margins on the goals, from what errors of building do to them.
#pragma once

#include "core/study/tolerance.h"
#include "core/study/tuning/tune_search.h"

namespace rm::study {

/// What errors do to every miss of a design, to second order: spread (standard deviation) and shift of the
/// mean.
struct MissSpread {
    std::vector<double> spread;
    std::vector<double> shift;
};
MissSpread missSpread(const Prober& prober, const model::Design& design, const BuildErrors& errors,
                      const std::stop_token& stop);

/// From the best without regard to errors to one whose goals hold for nine of ten builds, or for as many as
/// were found to. `bands` are those of the project.
Search::Found tuneAsBuilt(Search& search, Prober& prober, const model::Design& design,
                          const std::vector<model::Band>& bands, const TuneOptions& options,
                          const Search::Found& plain, AsBuilt& report);

}  // namespace rm::study
