// Interactions depend only on how two spans lie to each other: equal pairs are computed once.
#pragma once

#include <algorithm>
#include <cstdint>
#include <memory>
#include <vector>

#include "core/em/pair_moments.h"

namespace rm::em {

/// How a pair of spans is brought into its canonical form: first or second span run through backwards, and
/// the two exchanged.
struct PairTurn {
    double signA = 1.0;
    double signB = 1.0;
    bool exchanged = false;

    bool plain() const { return signA > 0.0 && signB > 0.0 && !exchanged; }
};

/// The span run through in the given sense, 1 or -1.
Span turned(const Span& span, double sign);

/// The moments of (a, b) from those of the canonical pair.
void turnMoments(const PairMoments& from, const PairTurn& turn, const Span& a, const Span& b,
                 PairMoments& to);

/// How a pair is the same seen from its other span: not at all, run through backwards, or as it is.
struct PairSymmetry {
    bool backwards = false;
    bool forwards = false;
};
/// What the rules of integration leave of a difference between the two views is evened out, so that equal
/// pairs are equal whichever span is asked first.
void evenOut(PairMoments& moments, const PairSymmetry& symmetry);

/// Remembers moments by the wavenumber and the relative placement of their spans: the lengths, radii and
/// orders, the distance of the centres, and the cosines between the directions and the line that joins them.
/// A placement mirrored, turned, shifted, run through backwards or with the spans exchanged is the same.
/// Elements of equal length, the two halves of an element and the members of a stack so share their work, and
/// so do the solutions of a model before and after one of its dimensions has changed. Not for use by two
/// threads at once.
class PairCache {
  public:
    /// Room for about as many pairs as asked for; memory stays below 10 MB whatever it is.
    explicit PairCache(std::size_t pairs);

    /// The moments of the pair at wavenumber k; valid until the next call.
    const PairMoments& moments(const Span& a, const Span& b, Wavenumber k);

    std::size_t computed() const { return computed_; }

    void forget() { std::fill(used_.begin(), used_.end(), std::uint8_t{0}); }

  private:
    using Key = std::array<std::int64_t, 10>;
    struct Entry {
        Key key;
        PairMoments moments;
    };

    std::size_t mask_;
    std::vector<std::uint8_t> used_;
    std::unique_ptr<Entry[]> entries_;  ///< left as allocated until used
    PairMoments turned_;
    std::size_t computed_ = 0;
};

/// Placements that differ by less than this many radians of phase count as equal.
inline constexpr double kPlacementQuantum = 1e-13;
/// Rounding may leave equal ones so many quanta apart.
inline constexpr std::int64_t kSameQuanta = 2;

inline std::int64_t roundedWhole(double x) {
    return static_cast<std::int64_t>(x + (x < 0.0 ? -0.5 : 0.5));
}

template <typename Key>
std::uint64_t hashOf(const Key& key) {
    std::uint64_t hash = 1469598103934665603ULL;
    for (const std::int64_t part : key) {
        hash = (hash ^ static_cast<std::uint64_t>(part)) * 0x9E3779B97F4A7C15ULL;
        hash ^= hash >> 29;
    }
    return hash;
}

}  // namespace rm::em
