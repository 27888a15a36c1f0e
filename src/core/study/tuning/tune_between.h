// What a search has found, looked at between the frequencies that it reads.
#pragma once

#include "core/study/tuning/tune_search.h"

namespace rm::study {

/// Adds frequencies to a search where its best does worse between them. Not while anything climbs.
class Between {
  public:
    /// `dense`: the goals at frequencies close together. `start`: the design as it was.
    Between(Search& search, Prober& prober, Goals dense, const Search::Found& start)
        : search_(search), prober_(prober), dense_(std::move(dense)), start_(start), lookedAt_(start) {}

    const Goals& dense() const { return dense_; }

    /// The best near `best` at more frequencies, where it does worse between those that are read; the start
    /// or what was looked at last, where that is better there. Where the time is over what it was found to be
    /// is looked at all the same: what was found last is not preferred for what was not read of it. Does
    /// nothing for a search that was stopped.
    Search::Found look(Search::Found best);

    struct Read {
        Search::Found found;
        Trial exact;  ///< at the frequencies of `dense`
    };
    Read read(const Search::Found& found) const;
    /// What was looked at last or the start, unless `found` is better.
    Read orLookedAt(Read found) const;

  private:
    /// Adds the frequencies where a goal does worse than at all those that are read, and is missed or has no
    /// limit to meet; false where there are none.
    bool refine(const Search::Found& best);

    Search& search_;
    Prober& prober_;
    Goals dense_;
    Search::Found start_;
    Search::Found lookedAt_;
};

}  // namespace rm::study
