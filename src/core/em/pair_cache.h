// Interactions depend only on how two spans lie to each other: equal pairs are computed once.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "core/em/pair_moments.h"

namespace rm::em {

/// Remembers moments by the relative placement of their spans: the lengths, radii and orders, the distance of
/// the centres, and the cosines between the directions and the line that joins them. A placement mirrored,
/// turned, shifted or run through backwards is the same. Elements of equal length, the two halves of an
/// element and the members of a stack so share their work. Not for use by two threads at once.
class PairCache {
  public:
    /// `pairs` is about how many pairs will be asked for; memory stays below 10 MB whatever it is.
    PairCache(double k, std::size_t pairs);

    /// The moments of the pair; valid until the next call.
    const PairMoments& moments(const Span& a, const Span& b);

    std::size_t computed() const { return computed_; }

  private:
    using Key = std::array<std::int64_t, 9>;
    struct Entry {
        Key key;
        PairMoments moments;
    };

    double k_;
    double quantum_;
    std::size_t mask_;
    std::vector<std::uint8_t> used_;
    std::unique_ptr<Entry[]> entries_;  ///< left as allocated until used
    PairMoments turned_;
    std::size_t computed_ = 0;
};

}  // namespace rm::em
