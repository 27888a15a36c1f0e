// The ground kernels by interpolation in the plane of distance and height sum.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <vector>

#include "core/em/ground/box_tree.h"
#include "core/em/ground/half_space.h"
#include "core/em/lanes.h"

namespace rm::em {

/// Values of the kernels over ground times R exp(j k R), as pairs of real and imaginary part in the order of
/// GroundKernel.
inline constexpr int kGroundLanes = 2 * static_cast<int>(kGroundKernels);
inline constexpr int kScalarLane = 2 * static_cast<int>(GroundKernel::Scalar);
using GroundLanes = std::array<double, kGroundLanes>;
static_assert(kGroundLanes == kLanes);

/// Distance along the ground and height sum, m.
struct TablePoint {
    double rhoM = 0.0;
    double zetaM = 0.0;
};

class GroundTable {
  public:
    static constexpr double kTolerance = 1e-4;

    /// What the surface adds between two points in air, or between two in the soil. Nothing is computed yet.
    /// `tolerance` bounds the last terms of the series; the error is several times less.
    explicit GroundTable(const HalfSpace& halfSpace, double tolerance = kTolerance,
                         Region region = Region::Air);
    ~GroundTable();

    const HalfSpace& halfSpace() const { return halfSpace_; }
    Region region() const { return region_; }

    /// The four kernels at distance rho and height sum zeta (m, not both below 1e-5), times R exp(j k R).
    /// Interpolation error below kTolerance, against values of order one. Safe from any number of threads.
    /// Throws rm::Error where the kernels change too fast to be tabulated within seconds, and rm::Stopped
    /// where the StopScope of the thread asks for it; what was not finished is begun anew the next time.
    void at(double rhoM, double zetaM, Lanes& kernels) const;

    /// The series of one piece of the table at one height sum.
    struct LevelSeries {
        static constexpr std::size_t kNodes = kSeriesTerms;
        double middleM = 0.0;
        double halfM = 1.0;
        std::array<Lanes, kNodes> term;

        void at(double rhoM, Lanes& kernels) const {
            double inRho[kSeriesTerms];
            chebyshevRow((rhoM - middleM) / halfM, inRho);
            Lanes even = {};
            Lanes odd = {};
            for (std::size_t a = 0; a < kNodes; a += 2) {
                even += inRho[a] * term[a];
                odd += inRho[a + 1] * term[a + 1];
            }
            kernels = even + odd;
        }
    };
    /// The series that serves at this point, for other distances on the same piece.
    LevelSeries level(double rhoM, double zetaM) const;
    /// Names the piece that serves at this point.
    const void* pieceKey(double rhoM, double zetaM) const;

    /// A number that no other table has.
    std::uint64_t serial() const { return serial_; }

    /// The same with the derivatives with respect to rho and to zeta, for tests and near fields: lanes of
    /// the value, of its first derivatives (per m) and its second ones rho rho, rho zeta, zeta zeta (per
    /// m^2).
    void derivatives(double rhoM, double zetaM, std::array<GroundLanes, 6>& out) const;

    /// Builds the pieces that these points fall into, on all processors.
    void prepare(const std::vector<TablePoint>& points) const;

    /// Number of series built so far, and the memory that they take.
    std::size_t builtSeries() const { return tree_.series(); }
    std::size_t bytes() const;

  private:
    struct Series;
    using Tree = BoxTree<2, Series>;
    void build(Tree::Box& box) const;

    HalfSpace halfSpace_;
    Region region_;
    double tolerance_;
    double scalarSize_;
    std::uint64_t serial_;
    mutable std::atomic<int> boxes_{0};
    Tree tree_;
};

/// Whether a box cut so often spans more of the soil along this side than any series of its length follows:
/// it is cut without a look.
bool spansTooMuchSoil(const HalfSpace& halfSpace, const Interval& side, int cuts);

/// What a table says that would take minutes to build, `distanceM` from the source.
Error changesTooFast(double distanceM);

/// A number that no table had before.
std::uint64_t nextTableSerial();

}  // namespace rm::em
