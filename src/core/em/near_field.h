// The fields of the span currents at points near by: in free space, over ground, and in the soil.
#pragma once

#include <array>
#include <memory>
#include <stop_token>
#include <vector>

#include "core/em/ground/across_table.h"
#include "core/em/mesh.h"

namespace rm::em {

/// Phasors of the field at a point: peak values where the currents are peak values.
struct PointField {
    Eigen::Vector3cd electricVm = Eigen::Vector3cd::Zero();  ///< V/m
    Eigen::Vector3cd magneticAm = Eigen::Vector3cd::Zero();  ///< A/m

    /// Mean flow of power, W/m2: half of the real part of E x H*.
    /// (The library's product of complex vectors is conjugated, which its real part does not show.)
    Vec3 powerFlow() const { return 0.5 * electricVm.cross(magneticAm.conjugate()).real(); }
};

/// Points in equal steps on a plane: `corner` + column * `right` + row * `up`, the columns running fastest.
struct PointPlane {
    Vec3 cornerM = Vec3::Zero();
    Vec3 rightM = Vec3::UnitX();  ///< from a column to the next
    Vec3 upM = Vec3::UnitZ();     ///< from a row to the next
    int columns = 1;
    int rows = 1;

    std::size_t count() const { return static_cast<std::size_t>(columns) * static_cast<std::size_t>(rows); }
    Vec3 at(double column, double row) const { return cornerM + column * rightM + row * upM; }
};

/// The field of the currents `local` (A per local function) of a mesh. With the kernels A, B, W and K of
/// docs/theory.md, "Near field":
///   E = -j w mu0/(4 pi) F + 1/(4 pi j w eps0) grad int I' K ds,   H = curl F/(4 pi),
///   F = int I [A u_t - u_z grad_t W + z (u_z (B - s W_a - t W_b) + u_t . grad_t W)] ds,
/// s and t the signs of the sides of the point and of the current, a and b their distances from the surface.
/// The current flows on the axis of the wire; within its radius of the axis the field falls off towards it.
/// Over perfect ground there is no field below. Accuracy: 1e-4 of the field in free space; over real ground
/// that of the derivatives of the engine's tables, 1e-3.
class NearField {
  public:
    NearField(std::shared_ptr<const Mesh> mesh, const Eigen::VectorXcd& local, double frequencyHz);
    ~NearField();
    NearField(const NearField&) = delete;
    NearField& operator=(const NearField&) = delete;

    PointField at(const Vec3& pointM) const;
    /// On all processors. Throws rm::Stopped where it is asked to stop, rm::Error where the ground cannot be
    /// tabulated.
    std::vector<PointField> at(const std::vector<Vec3>& pointsM, const std::stop_token& stop = {}) const;
    /// The same for a whole plane: in each piece of it what wires and their images make that are far for its
    /// size is interpolated from 64 points, with an error below 2e-3 of the field at each.
    std::vector<PointField> on(const PointPlane& plane, const std::stop_token& stop = {}) const;

    double frequencyHz() const { return frequencyHz_; }
    const Mesh& mesh() const { return *mesh_; }

  private:
    struct Nodes;
    struct Scratch;
    struct Rule;
    class Pieces;
    using Spans = std::vector<std::size_t>;  ///< which of the mesh

    void gather(const Spans& spans, const Vec3& point, bool fromSoil, Nodes& nodes) const;
    void gatherPart(std::size_t span, const Vec3& point, double from, double to, Nodes& nodes) const;
    void addDirect(const Nodes& nodes, const Vec3& point, bool inSoil, PointField& field) const;
    void addGround(Scratch& scratch, const Vec3& point, bool fromSoil, PointField& field) const;
    /// The field has two parts: that of the wires on the point's own side of the surface as if there were
    /// none (with their images over perfect ground), and what real ground makes of all of them.
    enum class Share : std::uint8_t { Direct, Ground };
    std::vector<Share> shares() const;
    void addShare(Share share, const Spans& spans, const Vec3& point, Scratch& scratch,
                  PointField& field) const;
    /// Distance from what a share of the field of a span is singular at when it is continued from the point's
    /// side of the surface: the wire, or its image in the ground. Infinite where the span has no such share.
    double clearanceM(Share share, const Span& span, const Vec3& point) const;

    std::shared_ptr<const Mesh> mesh_;
    double frequencyHz_;
    double k_;
    std::vector<std::array<Complex, kLanes>> current_;  ///< Legendre series of each span, A
    std::vector<std::array<Complex, kLanes>> charge_;   ///< of its derivative by t
    std::vector<Rule> rules_;                           ///< of each span: nodes for points that are far
    std::shared_ptr<const GroundTables> tables_;        ///< over real ground
    Spans every_;
    bool anyInSoil_ = false;
    bool anyInAir_ = false;
};

}  // namespace rm::em
