// What real ground adds to the interaction of two spans in air.
#pragma once

#include "core/em/ground/ground_table.h"
#include "core/em/pair_cache.h"
#include "core/em/pair_moments.h"

namespace rm::em {

/// Legendre moments of the ground kernels over a pair of spans, in 1/m: the kernel of the charges, the kernel
/// of the currents (horizontal and vertical parts weighed with the directions), and the kernel k W between
/// current and charge, needed where one of the spans is not horizontal.
struct GroundMoments {
    PairMoments scalar;
    PairMoments vector;
    PairMoments mixed;
};

/// Fills `moments` for two spans above ground. Where the image is far from both, the kernels are integrated
/// by a product rule. Where it is near, the ground is first replaced by an image whose strength is right at
/// the point of closest approach, taken from `images` with the rules of close wires; what remains is smaller
/// and smoother.
void groundMoments(const GroundTable& table, const Span& a, const Span& b, PairCache& images,
                   GroundMoments& moments, double accuracy = 1e-4);

/// Remembers ground moments by the placement of the spans and their heights, as PairCache does for free
/// space.
class GroundPairCache {
  public:
    GroundPairCache(std::shared_ptr<const GroundTable> table, std::size_t pairs);

    /// The moments of the pair; valid until the next call.
    const GroundMoments& moments(const Span& a, const Span& b);

  private:
    using Key = std::array<std::int64_t, 13>;
    struct Entry {
        Key key;
        GroundMoments moments;
    };

    std::shared_ptr<const GroundTable> table_;
    PairCache images_;
    double quantum_;
    std::size_t mask_;
    std::vector<std::uint8_t> used_;
    std::unique_ptr<Entry[]> entries_;
};

}  // namespace rm::em
