// The cases of a wide study: which there are, what antenna each is, and what is read of it.
#pragma once

#include <map>
#include <stop_token>
#include <string>
#include <vector>

#include "core/wide/columns.h"
#include "core/wide/plan.h"

namespace rm::wide {

/// Cases of a study, at most.
inline constexpr std::size_t kMostCases = 100'000'000;

/// A value of something that differs.
struct Step {
    std::string text;    ///< as it goes into the design
    double value = 0.0;  ///< in the unit of its column; of a soil or a band its place in the list, from 0
    bool named = false;  ///< a soil or a band: its text is what the result says
};

/// One thing that differs, with all its values.
struct Over {
    OverText text;
    std::string title;  ///< of its column: "leg_m"
    std::vector<Step> steps;
};

/// A case as it was worked out.
struct Row {
    std::size_t number = 0;  ///< from 0
    std::vector<double>
        values;           ///< of the figures, then of the dimensions that were tuned; not a number: none
    std::string problem;  ///< why there are none; empty where there are
};

class Cases {
  public:
    /// Throws rm::Error naming what cannot be read, is not there, or is too much.
    explicit Cases(Given given);

    const Given& given() const { return given_; }
    std::size_t count() const { return count_; }
    const std::vector<Over>& over() const { return over_; }
    const std::vector<Column>& columns() const { return columns_; }
    /// Titles of the values of a row.
    const std::vector<std::string>& titles() const { return titles_; }
    /// "build" or "start" where cases are repeated; empty where not.
    std::string repeated() const;
    /// Which step of each `over` a case is of, and at last which repetition.
    std::vector<std::size_t> stepsOf(std::size_t number) const;
    /// Cases that are handed out at a time.
    std::size_t piece() const;

    /// The antenna of a case; of tuning, where it starts.
    model::Design designOf(std::size_t number) const;
    /// The antenna of a row: with what was tuned.
    model::Design designOf(const Row& row) const;
    /// Works a case out on this thread alone: the same to the last bit on every processor of the same kind.
    /// What cannot be worked out says so in its row. Throws rm::Stopped.
    Row workOut(std::size_t number, const std::stop_token& stop = {}) const;

  private:
    ReadAt readAt(std::size_t number, const model::Design& design) const;
    /// The working band, or the first that the design is for.
    std::optional<model::Band> usualBand(const model::Design& design) const;
    std::vector<double> tuned(std::size_t number, model::Design& design, const std::stop_token& stop) const;

    Given given_;
    std::vector<Over> over_;
    std::vector<Column> columns_;
    std::vector<std::string> moved_;  ///< dimensions that are tuned
    std::vector<std::string> titles_;
    std::size_t count_ = 1;
};

}  // namespace rm::wide
