// Tuning: moves dimensions until the goals are met over the whole band, under limits.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/tuning/read_goals.h"
#include "core/study/tuning/tune_control.h"

namespace rm::study {

/// The best antenna so far.
struct TuneState {
    std::map<std::string, double> values;  ///< of the dimensions that may move: m, degrees or plain
    std::vector<GoalState> goals;
    double objective = 0.0;  ///< largest miss of the goals with limits, scaled; zero or less: all met. Where
                             ///< bands are counted: those missed, and a part of one for how far
    long evaluations = 0;    ///< antennas read at one frequency, so far
    long solutions = 0;      ///< field solutions that this took
    double seconds = 0.0;
};

struct TuneOptions {
    unsigned seed = 1;
    double maxSeconds = 60.0;
    long maxEvaluations = 400000;
    int starts = 4;  ///< local searches, the first from the design as it is
    int samples =
        5;  ///< frequencies per range at first, of a narrow one fewer; more where the worst turns out to be
    std::map<std::string, double> resume;  ///< dimensions to begin with instead of those of the design
    std::function<void(const TuneState&)> progress;  ///< from any thread, at every improvement
    std::stop_token stop;
    std::shared_ptr<TuneControl> control = {};  ///< to pause and to watch; nothing: neither
};

/// What tuning for nine of ten builds has brought and cost.
struct AsBuilt {
    int builds = 0;
    int meeting = 0;       ///< of the builds of the proposal, those that meet every goal
    int plainMeeting = 0;  ///< of those of the antenna tuned without regard to errors
    bool nineOfTen() const { return 10 * meeting >= 9 * builds; }
    std::vector<GoalState> plain;  ///< the goals of that antenna, on steps that can be built
};

struct TuneResult {
    TuneState before;
    TuneState best;
    std::map<std::string, double> builtValues;  ///< the best values, rounded to steps that can be built
    model::Design proposal;                     ///< the design with these
    std::vector<GoalState> exact;               ///< the goals of the best, densely sampled
    std::vector<GoalState> rounded;             ///< the goals of the proposal, likewise
    std::optional<AsBuilt> asBuilt;             ///< where the plan asks for it
    bool stopped = false;
};

/// Minimax over frequency in epigraph form, stage by stage, with gradients from em::portDerivatives,
/// by sequential quadratic programming, which learns the curvature (D. Kraft, ACM Trans. Math. Software 20,
/// 1994; NLopt), in boxes where something is held (after J. Hald and K. Madsen, Math. Programming 20, 1981),
/// from the design, from the best of a spread of random points, and from places near the best until they
/// bring nothing. Goals that count bands take a slack per band, whose sum is minimised with
/// weights that give up what is farthest (E. Candes, M. Wakin and S. Boyd, J. Fourier Anal. Appl. 14, 2008).
/// Where goals are to hold for nine of ten builds, every miss gets a margin from its first-order spread under
/// the errors, and the margins grow until a run of builds agrees. Values from a list are tried one by one.
/// What moves circuits alone takes no field solution. The same seed gives the same result as long as neither
/// time nor stop end it. Throws rm::Error where the plan cannot be read or the design cannot be solved.
TuneResult tune(const model::Design& design, const std::vector<model::Band>& bands,
                const TuneOptions& options = {});

/// A trial of the tuner: values of the scaled dimensions (0 to 1) and the derivatives of all misses by them,
/// for tests: rows are misses, columns dimensions.
struct TuneGradient {
    std::vector<double> misses;
    Eigen::MatrixXd exact;
};
TuneGradient tuneGradient(const model::Design& design, const std::vector<model::Band>& bands,
                          const std::vector<double>& scaled);

}  // namespace rm::study
