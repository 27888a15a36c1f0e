#include "core/study/tuning/tune_as_built.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/stopped.h"

namespace rm::study {

namespace {

/// Nine of ten of a normal distribution lie below its mean and so many standard deviations.
constexpr double kNineOfTen = 1.2816;
/// Several goals have to hold in the same build: the margins grow until they do.
constexpr double kGrowth = 1.25;
constexpr int kMarginRounds = 5;
constexpr int kBuilds = 100;
constexpr int kWanted = 90;

model::Design builtOf(const Search& search, const Search::Found& found, const Prober& prober,
                      const model::Design& design) {
    const auto values = search.stateOf(found).values;
    std::map<std::string, double> built;
    for (const auto& axis : prober.axes()) built[axis.name] = axis.built(values.at(axis.name));
    return withValues(design, built, true);
}

}  // namespace

MissSpread missSpread(const Prober& prober, const model::Design& design, const BuildErrors& errors,
                      const std::stop_token& stop) {
    const auto middle = prober.missesOf(design);
    const std::size_t count = errorCount(design);
    struct Sides {
        std::vector<double> less;
        std::vector<double> more;
    };
    std::vector<Sides> all(count);
    const auto right = builtWith(design, errors, std::vector<double>(count, 0.0));
    tbb::parallel_for(std::size_t{0}, count, [&](std::size_t e) {
        unlessStopped(stop, [&] {
            try {
                for (const double side : {-1.0, 1.0}) {
                    std::vector<double> deviates(count, 0.0);
                    deviates[e] = side;
                    const auto built = builtWith(design, errors, deviates);
                    if (built == right) return;
                    (side < 0.0 ? all[e].less : all[e].more) = prober.missesOf(built);
                }
            } catch (const Error&) {
                // An error that cannot be worked out spoils what it spoils, whatever the margin.
            }
        });
    });
    endWhere(stop);
    MissSpread out;
    for (std::size_t i = 0; i < middle.size(); ++i) {
        double square = 0.0;
        double shift = 0.0;
        for (const auto& sides : all) {
            if (sides.less.size() != middle.size() || sides.more.size() != middle.size()) continue;
            const double slope = 0.5 * (sides.more[i] - sides.less[i]);
            square += slope * slope;
            shift += 0.5 * (sides.more[i] + sides.less[i]) - middle[i];
        }
        out.spread.push_back(std::sqrt(square));
        out.shift.push_back(shift);
    }
    return out;
}

Search::Found tuneAsBuilt(Search& search, Prober& prober, const model::Design& design,
                          const std::vector<model::Band>& bands, const TuneOptions& options,
                          const Search::Found& plain, AsBuilt& report) {
    const BuildErrors errors = readErrors(design.tune.errors);
    const auto meeting = [&](const Search::Found& found) {
        return buildsMeeting(builtOf(search, search.round(found), prober, design), bands, errors, kBuilds,
                             options.seed, options.stop);
    };
    report.builds = kBuilds;
    const Search::Found roundedPlain = search.round(plain);
    const model::Design plainDesign = builtOf(search, roundedPlain, prober, design);
    report.plain = readGoals(plainDesign, bands, 21, options.stop);
    report.plainMeeting = report.meeting =
        buildsMeeting(plainDesign, bands, errors, kBuilds, options.seed, options.stop);
    Search::Found best = plain;
    Search::Found now = plain;
    double width = kNineOfTen;
    std::vector<double> bestMargins;
    for (int round = 0; round < kMarginRounds && report.meeting < kWanted && !search.over(); ++round) {
        const MissSpread spread = missSpread(prober, prober.at(now.x), errors, options.stop);
        std::vector<double> margins(prober.goals().layout().size());
        for (std::size_t i = 0; i < margins.size(); ++i)
            margins[i] = width * spread.spread[i] + std::max(0.0, spread.shift[i]);
        prober.setMargins(margins);
        now = search.climb(now.x);
        const int meets = meeting(now);
        if (meets > report.meeting) {
            report.meeting = meets;
            best = now;
            bestMargins = margins;
        }
        width *= kGrowth;
    }
    prober.setMargins(bestMargins);
    return best.trial.good ? best : plain;
}

}  // namespace rm::study
