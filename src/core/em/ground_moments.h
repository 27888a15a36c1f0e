// What real ground adds to the interaction of two spans in air, and the whole of it where one or both are in
// the soil.
#pragma once

#include "core/em/ground/across_table.h"
#include "core/em/ground/ground_table.h"
#include "core/em/lanes.h"
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

/// The kernels at one height sum: the series of the table in height summed up, for the few pieces and heights
/// that come up again and again between level wires.
class LevelRows {
  public:
    /// The four kernels as GroundTable::at gives them.
    void at(const GroundTable& table, double rhoM, double zetaM, Lanes& kernels);
    /// The same across the surface, where few depths come up.
    void at(const AcrossTable& table, double rhoM, double heightM, double depthM, Lanes& kernels);

  private:
    struct Slice {
        const void* box = nullptr;
        double depthM = -1.0;
        DepthSeries series;
    };
    struct Row {
        const void* piece = nullptr;
        double zetaM = -1.0;
        GroundTable::LevelSeries series;
    };
    std::array<Row, 16> rows_;
    std::size_t next_ = 0;
    std::vector<Slice> slices_;
    std::size_t nextSlice_ = 0;
};

/// Fills `moments` for two spans. Where the image is far from both, the kernels are integrated by a product
/// rule. Where it is near, the ground is first replaced by an image whose strength is right at the point of
/// closest approach, taken from `images` with the rules of close wires; what remains is smaller and smoother.
/// Across the surface the image of a span is the span itself. In the soil the direct interaction is added.
void groundMoments(const GroundTables& tables, const Span& a, const Span& b, PairCache& images,
                   LevelRows& level, GroundMoments& moments, double accuracy = 1e-4);

/// Remembers ground moments by the table, the placement of the spans and their heights, as PairCache does for
/// free space.
class GroundPairCache {
  public:
    explicit GroundPairCache(std::size_t pairs);

    /// The moments of the pair; valid until the next call. `images` is where near images are looked up.
    const GroundMoments& moments(const std::shared_ptr<const GroundTables>& tables, const Span& a,
                                 const Span& b, PairCache& images);

    void forget() {
        std::fill(used_.begin(), used_.end(), std::uint8_t{0});
        tables_.reset();
        level_ = {};
    }

  private:
    using Key = std::array<std::int64_t, 16>;
    struct Entry {
        Key key;
        GroundMoments moments;
    };

    std::size_t mask_;
    std::vector<std::uint8_t> used_;
    std::unique_ptr<Entry[]> entries_;
    std::shared_ptr<const GroundTables> tables_;  ///< the last ones, which the level rows belong to
    LevelRows level_;
    GroundMoments turned_;
};

}  // namespace rm::em
