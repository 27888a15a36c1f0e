// What random errors of building do to an antenna.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/study/sweep.h"
#include "core/study/tuning/goal_values.h"

namespace rm::study {

/// Random errors of building: standard deviations; zero leaves a thing as it is.
struct BuildErrors {
    double lengthM = 0.002;       ///< on every length that is named
    double angleDeg = 0.5;        ///< on every angle that is named
    double diameterShare = 0.02;  ///< of every conductor
    double heightM = 0.1;         ///< of the site; of what rests on the ground none, whatever it says
    double groundShare = 0.3;  ///< of the conductivity of real ground, the permittivity by its root with it
    std::vector<std::string> only;  ///< dimensions that err; empty: all
};

using ErrorTexts = model::BuildErrorTexts;
/// Throws rm::Error naming the error that cannot be read.
BuildErrors readErrors(const ErrorTexts& texts);

/// How many things of a design may be built wrong: its dimensions, its conductors, its height and its soil.
std::size_t errorCount(const model::Design& design);

/// The design with errors, each a deviate of the normal distribution: `errorCount` of them.
model::Design builtWith(const model::Design& design, const BuildErrors& errors,
                        const std::vector<double>& deviates);

/// How many of so many builds meet every goal with a limit. The same seed draws the same errors.
int buildsMeeting(const model::Design& design, const std::vector<model::Band>& bands,
                  const BuildErrors& errors, int builds, unsigned seed, const std::stop_token& stop = {});

/// Many builds of a design.
struct Tolerance {
    std::vector<double> hz;
    std::vector<double> lowSwr;     ///< 5 % of the builds are below, per frequency
    std::vector<double> middleSwr;  ///< the median
    std::vector<double> highSwr;    ///< 5 % are above
    std::vector<double> drawnSwr;   ///< of the design without errors
    double mostOfNine = 0.0;        ///< nine builds of ten stay below this SWR over the whole range
    int builds = 0;
    bool restsOnGround = false;  ///< its height does not err
    int failed = 0;              ///< builds that cannot be worked out; they meet no goal
    /// Goals in words, and how many of the builds meet each.
    std::vector<std::pair<std::string, int>> each;
    int meeting = 0;  ///< builds that meet every goal with a limit; -1 where the design has no goals
};

/// `builds` antennas with normally distributed errors; the same seed draws the same errors. Stops early when
/// asked and returns what it has.
Tolerance studyTolerance(const model::Design& design, const std::vector<model::Band>& bands, double lowHz,
                         double highHz, int builds, const BuildErrors& errors, unsigned seed = 1,
                         std::stop_token stop = {}, const Progress& progress = {});

}  // namespace rm::study
