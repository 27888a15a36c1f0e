// The kernels between a point in air and one in the soil, by interpolation in the space of distance, height
// and depth.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <vector>

#include "core/em/ground/box_tree.h"
#include "core/em/ground/ground_table.h"

namespace rm::em {

/// A Chebyshev series in distance and height, at one depth.
struct DepthSeries {
    Interval rho;
    Interval height;
    Lanes term[kSeriesTerms][kSeriesTerms];

    void at(double rhoM, double heightM, Lanes& kernels) const;
};

/// Distance along the ground, height in air and depth in the soil, m.
struct AcrossPoint {
    double rhoM = 0.0;
    double heightM = 0.0;
    double depthM = 0.0;
};

class AcrossTable {
  public:
    /// Nothing is computed yet. `tolerance` bounds the last terms of the series as fractions of the kernels
    /// close to the source.
    explicit AcrossTable(const HalfSpace& halfSpace, double tolerance = GroundTable::kTolerance);
    ~AcrossTable();

    const HalfSpace& halfSpace() const { return halfSpace_; }

    /// The four kernels at distance rho, height in air and depth in the soil (m, not all below 1e-5), times
    /// R exp(j k R) with the straight distance R and the wavenumber of air. Safe from any number of threads.
    /// Throws rm::Error where the kernels change too fast to be tabulated within seconds.
    void at(double rhoM, double heightM, double depthM, Lanes& kernels) const;

    /// Builds the boxes that these points fall into, on all processors.
    void prepare(const std::vector<AcrossPoint>& points) const;

    /// Names the box that serves at this point.
    const void* boxKey(double rhoM, double heightM, double depthM) const;
    /// The series of that box at this depth.
    void slice(double rhoM, double heightM, double depthM, DepthSeries& series) const;

    /// Series in rho that `derivatives` has made: points at one height over level wires at one depth need
    /// few, and read them many times. Of one table and one thread.
    class Lines {
      public:
        Lines();
        ~Lines();
        Lines(const Lines&) = delete;
        Lines& operator=(const Lines&) = delete;

      private:
        friend class AcrossTable;
        struct Line;
        std::unique_ptr<Line[]> lines_;  ///< none before the first is asked for
    };

    /// Lanes of the value, of its derivatives with respect to rho, height and depth (per m), and of rho rho,
    /// rho height, rho depth, height depth (per m^2), for tests and near fields.
    void derivatives(double rhoM, double heightM, double depthM, Lines& lines,
                     std::array<GroundLanes, 8>& out) const;

    /// Number of series built so far, and the memory that they take.
    std::size_t builtSeries() const { return tree_.series(); }
    std::size_t bytes() const;

  private:
    struct Series;
    using Tree = BoxTree<3, Series>;
    void build(Tree::Box& box) const;
    static void fill(const Tree::Box& box, double heightM, double depthM, Lines::Line& line);

    HalfSpace halfSpace_;
    double tolerance_;
    double scalarSize_;
    mutable std::atomic<int> boxes_{0};
    Tree tree_;
};

/// The tables of a ground at a frequency: all that wires in air and in the soil need.
struct GroundTables {
    std::shared_ptr<const GroundTable> air;
    std::shared_ptr<const GroundTable> soil;
    std::shared_ptr<const AcrossTable> across;

    const HalfSpace& halfSpace() const { return air->halfSpace(); }
};

/// The latest ones are kept, so that asking again costs nothing: up to 160, and no more than the last where
/// they take over 100 MB together.
std::shared_ptr<const GroundTables> groundTables(const model::Ground& ground, double frequencyHz,
                                                 double tolerance = GroundTable::kTolerance);

}  // namespace rm::em
