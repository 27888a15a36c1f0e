// Goals against an antenna: how far each is from met, in its own unit, and the same as plain numbers for
// tuning.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/model/expand.h"
#include "core/study/tuning/goal_reading.h"

namespace rm::study {

/// A goal as it stands.
struct GoalState {
    std::size_t goal = 0;  ///< of the design's goals
    std::string sentence;  ///< "SWR at the radio at most 1.5 from 50 to 50.5 MHz"
    std::string where;     ///< the band, or the range
    std::string unit;
    double worst = 0.0;  ///< value where it is worst
    double atHz = 0.0;
    double miss = 0.0;     ///< by how much the limit is missed there, in the unit; zero or less: met
    bool most = false;     ///< as much as possible: there is no limit to miss
    bool counted = false;  ///< one of several bands, as many of which as possible are to be met
    bool met() const { return most || miss <= 0.0; }
};

/// Whether all goals are met; of those that count bands, at least one band.
bool allMet(const std::vector<GoalState>& states);

/// All ways of driving an antenna that goals ask for, at one frequency.
struct GoalSample {
    double frequencyHz = 0.0;
    std::vector<GoalReading> drives;  ///< the drive set in use, then those of Goals::driveSets
};

/// The goals of a design, worked out: ranges in Hz, limits as numbers.
class Goals {
  public:
    /// `bands` are those of the project. Each range is sampled at `samples` frequencies, its ends included,
    /// or where it is narrow and that is given at `narrowSamples`. Throws rm::Error naming the goal that
    /// cannot be read, or where there is none.
    Goals(const model::Design& design, const std::vector<model::Band>& bands, int samples,
          std::optional<int> narrowSamples = {});

    /// One stretch of frequencies on one mesh.
    struct Range {
        double lowHz = 0.0;
        double highHz = 0.0;
        std::vector<double> hz;
    };
    const std::vector<Range>& ranges() const { return ranges_; }
    /// Adds a frequency to a range.
    void sampleToo(std::size_t range, double hz);
    /// Drive sets beside the one in use that goals hold for, as indices of the design's.
    const std::vector<int>& driveSets() const { return driveSets_; }

    /// The design in every way of driving it that is asked for, the one in use first. `design` is the one
    /// that these goals are of, with other dimensions if wished.
    std::vector<model::Expansion> expand(const model::Design& design) const;

    /// Reads a sample off a port solution of what `expand` gave; in the directions of `held`, or where the
    /// pattern says.
    GoalSample read(const std::vector<model::Expansion>& drives, const em::PortSolution& solution,
                    const GoalSample* held = nullptr) const;

    /// Samples by range and frequency.
    using Samples = std::vector<std::vector<GoalSample>>;

    /// One number per goal and frequency: at most zero where the goal is met there, scaled so that one is a
    /// miss worth minding, times the importance.
    std::vector<double> misses(const Samples& samples) const;

    /// What each of the misses belongs to, in the same order.
    struct Belongs {
        std::size_t group = 0;  ///< one goal on one band
        int stage = 0;          ///< what is to be as high as possible comes after all else of its stage
        bool most = false;
        bool counted = false;
        std::size_t range = 0;
        double hz = 0.0;  ///< where it is read
    };
    const std::vector<Belongs>& layout() const { return layout_; }
    int lastStage() const;

    std::vector<GoalState> states(const Samples& samples) const;

  private:
    struct Plain {
        model::GoalKind kind;
        std::size_t range = 0;
        std::size_t drive = 0;  ///< index in GoalSample::drives
        double limit = 0.0;
        double upper = 0.0;
        Complex wantedOhm = 50.0;
        std::optional<std::size_t> ask;  ///< index of its PatternAsk
        double scale = 1.0;              ///< a miss worth minding, in the unit of `over`
        bool most = false;
        bool counted = false;
        double weight = 1.0;
        int stage = 0;
        std::size_t goal = 0;
        std::string sentence;
        std::string where;
    };
    /// Frequencies of the samples of a goal, and what was read there.
    using Read = std::vector<GoalSample>;
    /// A goal with its numbers, but for where it holds.
    Plain plainOf(const model::Goal& goal, const model::Design& design);
    std::size_t rangeOf(double lowHz, double highHz, int samples);
    std::size_t driveOf(const model::Design& design, const std::string& name);
    /// How many numbers `over` gives at one frequency.
    static std::size_t numbersAt(const Plain& goal, std::size_t frequency);
    /// Values of a goal at one frequency that have to be at most zero, in its own unit.
    std::vector<double> over(const Plain& goal, const Read& range, std::size_t at) const;
    double valueOf(const Plain& goal, const Read& range, std::size_t at) const;
    void layOut();

    std::vector<Plain> goals_;
    std::vector<Range> ranges_;
    std::vector<Belongs> layout_;
    std::vector<int> driveSets_;
    GoalAsks asks_;
};

}  // namespace rm::study
