// Trade-offs: what an antenna can do against one number that is asked of it, everything else tuned at each
// step.
#pragma once

#include <functional>
#include <map>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/tuning/goal_values.h"

namespace rm::study {

/// The number that is swept: the limit of a goal, in its unit, or what a build limit allows, in m.
struct TradeAxis {
    bool ofLimit = false;
    std::size_t index = 0;  ///< of the design's goals or limits
    double from = 0.0;
    double to = 0.0;
    int points = 9;
};

/// What could be swept in a design: enabled goals with a limit, and enabled build limits that can be read.
struct TradeChoice {
    bool ofLimit = false;
    std::size_t index = 0;
    std::string words;  ///< "boom at most", "front-to-rear at least"
    std::string unit;   ///< "m", "dB"; empty for an SWR
    double now = 0.0;
};
std::vector<TradeChoice> tradeChoices(const model::Design& design);

/// The best antenna that was found for one value.
struct TradePoint {
    double value = 0.0;
    bool solved = false;
    std::map<std::string, double> values;  ///< dimensions on steps that can be built
    model::Design design;                  ///< with these, and with what was asked of it here
    std::vector<GoalState> goals;          ///< densely sampled
    double miss = 0.0;  ///< largest miss of a goal or limit, in units worth minding; at most zero: all met

    /// Missed by a hundredth of what is worth minding, nobody sees it: rounding to steps often ends there.
    bool met() const { return solved && miss <= 0.01; }
};

struct TradeOff {
    TradeAxis axis;
    std::vector<TradePoint> points;  ///< by rising value
    double nowValue = 0.0;           ///< what is asked of the design as it is
    std::vector<GoalState> now;      ///< and how it does
    bool stopped = false;            ///< before its end: some points may be missing, or not the best
};

struct TradeOptions {
    unsigned seed = 1;
    double maxSeconds = 60.0;
    int starts = 3;  ///< of the two points that are found first
    std::stop_token stop;
    std::function<void(double)> progress;  ///< 0 to 1, from any thread
    std::function<void(const TradeOff&)>
        improved;  ///< from any thread, one at a time: points as they come in
};

/// Tunes the ends from the design as it is, then what lies between, each from both neighbours'
/// answers, and at last every point from its neighbours once more, as long as that helps: a curve has no
/// dents that a neighbour's antenna could fill. Throws rm::Error where the design cannot be tuned, or the
/// axis is none of it.
TradeOff studyTrade(const model::Design& design, const std::vector<model::Band>& bands, const TradeAxis& axis,
                    const TradeOptions& options = {});

/// The design with another number asked of it.
model::Design withAsked(const model::Design& design, const TradeAxis& axis, double value);

}  // namespace rm::study
