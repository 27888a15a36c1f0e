// The ground kernels by interpolation: squares in the plane of distance and height sum, graded towards the
// point where both vanish, each with a Chebyshev series; built where they are first asked for.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <mutex>
#include <stop_token>
#include <vector>

#include "core/em/ground/chebyshev.h"
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
        static constexpr int kNodes = 8;
        double middleM = 0.0;
        double halfM = 1.0;
        std::array<Lanes, kNodes> term;

        void at(double rhoM, Lanes& kernels) const;
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
    std::size_t builtSeries() const { return series_; }
    std::size_t bytes() const;

  private:
    struct Piece;
    struct Root;
    static constexpr int kOctaves = 40;
    static constexpr int kFirstOctave = -20;  ///< of metres: 1 micrometre to 500 km
    static constexpr int kShapes = 3;

    /// Where a point belongs: to one of the three squares of an octave.
    struct RootKey {
        int shape = 0;
        int octave = 0;
        auto operator<=>(const RootKey&) const = default;
    };
    static RootKey rootOf(double rhoM, double zetaM);

    const Piece& pieceAt(double rhoM, double zetaM) const;
    const Piece& rootPiece(RootKey key) const;
    void build(Piece& piece, int depth, std::atomic<int>& pieces, const std::stop_token& stop) const;

    HalfSpace halfSpace_;
    Region region_;
    double tolerance_;
    double scalarSize_;
    std::uint64_t serial_;
    std::unique_ptr<Root[]> roots_;
    mutable std::atomic<std::size_t> series_{0};
};

/// What a table says that would take minutes to build, `distanceM` from the source.
Error changesTooFast(double distanceM);

/// A number that no table had before.
std::uint64_t nextTableSerial();

}  // namespace rm::em
