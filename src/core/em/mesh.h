// Cuts a wire model into spans with polynomial currents, joins the spans at nodes, and lays the gaps of feeds
// and loads. The mesh is the whole discretisation; it does not depend on what is connected to the ports.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "core/em/conductor.h"
#include "core/model/wire_model.h"

namespace rm::em {

/// Where a span lies on its wire; the functions on it follow (em/span_basis.h).
enum class SpanKind : std::uint8_t { Inner, OpenStart, OpenEnd };

/// A straight piece of wire that carries one polynomial of the current.
struct Span {
    Vec3 centreM = Vec3::Zero();
    Vec3 direction = Vec3::UnitZ();  ///< unit vector; positive current flows along it
    double lengthM = 0.0;
    double radiusM = 0.0;
    int order = 1;  ///< degree of the current polynomial
    SpanKind kind = SpanKind::Inner;
    std::size_t wire = 0;        ///< index into WireModel::wires
    std::size_t firstLocal = 0;  ///< index of its first local function among those of all spans
    double startOnWireM = 0.0;   ///< distance of its start from the start of the wire
    int startNode = 0;
    int endNode = 0;
    bool inSoil = false;  ///< below the surface of real ground

    double halfM() const { return 0.5 * lengthM; }
    Vec3 startM() const { return centreM - halfM() * direction; }
    Vec3 endM() const { return centreM + halfM() * direction; }
    /// The mirror image of the span in the plane z = 0.
    Span mirrored() const;
};

/// A local function of a span with a sign.
struct LocalTerm {
    std::size_t local = 0;  ///< among the local functions of all spans
    double sign = 1.0;
};

/// A basis function: local functions of one span (inner) or of two spans that meet (continuity at a node), or
/// one end alone where it stands on perfect ground.
struct BasisFunction {
    LocalTerm first;
    LocalTerm second;  ///< sign 0 where there is only one
};

/// One stretch of a gap: the field is uniform along the span and takes this share of the port voltage.
struct GapPiece {
    std::size_t span = 0;
    double share = 1.0;  ///< signed: positive where the span points along the port current
};

struct Port {
    std::vector<GapPiece> gap;
    double gapLengthM = 0.0;
    std::string name;
};

struct MeshOptions {
    double maxSpanWavelengths = 0.52;
    int fixedOrder = 0;  ///< 0: order 3 to 6 by electrical length; otherwise this order everywhere
    int moreOrder = 0;   ///< added to the order by length
    /// Length of the uniform field of a feed in wire radii. A point feed in a mesh of segments 16 radii long
    /// acts like a uniform field over 3 radii (docs/theory.md), so this is that feed without the accident of
    /// a mesh.
    double gapRadii = 3.0;
    bool endFunctions = true;    ///< false: inner spans at open ends instead of the end function
    double plainEndRadii = 2.0;  ///< length of the last of those in wire radii
    double growth = 80.0;        ///< largest ratio of neighbouring spans on the way out from an end
    /// Length of the first span beside a place where another wire ends, bends, steps or crosses, in distances
    /// to it; 0: meshes that do not see their neighbours.
    double neighbourDistances = 10.0;
    double neighbourGrowth = 20.0;  ///< as growth, on the way out from there
    double bendRadii = 0.0;         ///< most for the first span at bends and joints in radii; 0: any
    double gapGrowth = 80.0;        ///< as growth, on the way out from a gap
    int gapOrder = 6;               ///< least order of the span beside a gap
};

/// Levels of fineness. 0 is the mesh that a dragging hand gets. 1 has half as many unknowns again, at bends
/// and joints and on the way out from gaps. 2 has three times as many and resolves the charge everywhere down
/// to about the radius, below which thin-wire theory has nothing to say; 0 and 1 are checked by it. 3 is
/// another one of that kind, to check 2 by.
inline constexpr int kFineMesh = 2;
inline constexpr int kFinest = 3;
MeshOptions meshOptions(int fineness);

struct Mesh {
    std::vector<Span> spans;
    std::vector<BasisFunction> functions;
    std::vector<Port> ports;  ///< as WireModel::places counts them
    std::size_t localCount = 0;
    std::size_t feedCount = 0;
    model::Ground ground;
    std::vector<WireMaterial> wireMaterial;  ///< per wire

    /// The box round all spans.
    model::Bounds bounds() const;
};

/// Cuts the model for the given frequency. Ends that coincide are joined, and an end that lies on another
/// wire is joined to it there. Throws rm::Error where a port is on nothing; geometry is judged by the model
/// checks.
Mesh makeMesh(const model::WireModel& model, double frequencyHz, const MeshOptions& options);
/// The same as fine as the model asks for.
Mesh makeMesh(const model::WireModel& model, double frequencyHz);

/// The weights of port `port` in the local functions of all spans: its voltage acts on the current
/// coefficients with these, and the port current is their sum with the coefficients.
std::vector<LocalTerm> portWeights(const Mesh& mesh, std::size_t port);

}  // namespace rm::em
