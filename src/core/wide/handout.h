// Who works on which cases, and what can be written already: the one place that knows, without threads,
// files or messages of its own.
#pragma once

#include <cstddef>
#include <map>
#include <string>
#include <vector>

#include "core/wide/result_file.h"

namespace rm::wide {

/// Not safe to use from several threads at once.
class Handout {
  public:
    /// Cases of `range`, in pieces of so many.
    Handout(Range range, std::size_t piece)
        : range_(range), piece_(piece), next_(range.first), ready_(range.first) {}

    /// All cases before this one are written.
    void written(std::size_t before) { next_ = ready_ = before; }

    /// The next cases to work on; none where all have been given away.
    std::vector<std::size_t> next();
    /// A case is worked out, now or in an earlier run. One that is there already is dropped.
    void take(std::size_t number, std::string line);
    /// The lines, each with its end, that follow what was returned before; empty where the next one is
    /// missing.
    std::string ready();

    std::size_t done() const { return ready_ - range_.first + waiting_.size(); }
    std::size_t count() const { return range_.count(); }
    /// Everything was returned by `ready`.
    bool finished() const { return ready_ == range_.end; }

  private:
    Range range_;
    std::size_t piece_;
    std::size_t next_;                            ///< first case that nobody has
    std::size_t ready_;                           ///< first case that is not written
    std::map<std::size_t, std::string> waiting_;  ///< lines that come later than one that is missing
};

}  // namespace rm::wide
