// The wires of a model broken at everything that happens on them, and joined at nodes: what is cut into
// spans.
#pragma once

#include <limits>
#include <vector>

#include "core/em/mesh.h"
#include "core/em/mesh_limits.h"

namespace rm::em {

/// An end of a stretch of wire before cutting: a gap of a port there, or nothing special.
struct EndGap {
    std::size_t port = 0;
    double lengthM = 0.0;
    double share = 0.0;  ///< signed with respect to the direction of the wire
};

/// A stretch of wire between two break points, to be cut into spans.
struct Stretch {
    std::size_t wire = 0;
    double fromM = 0.0;
    double toM = 0.0;
    std::vector<EndGap> startGaps;
    std::vector<EndGap> endGaps;
    int startNode = -1;
    int endNode = -1;
    double startSizeM = std::numeric_limits<double>::max();  ///< most for the first span, for its neighbours
    double endSizeM = std::numeric_limits<double>::max();
    bool inSoil = false;

    double lengthM() const { return toM - fromM; }
};

/// One of the two ends of a stretch.
struct StretchEnd {
    std::size_t stretch = 0;
    bool atEnd = false;

    bool operator==(const StretchEnd&) const = default;
};

/// All stretches of a model.
struct Stretches {
    std::vector<Stretch> all;
    std::vector<Port> ports;                      ///< as WireModel::places counts them; which spans: not yet
    std::vector<std::vector<StretchEnd>> endsAt;  ///< of each node
    std::vector<bool> grounded;                   ///< of each node: it stands on perfect ground

    const std::vector<StretchEnd>& endsOf(int node) const { return endsAt[static_cast<std::size_t>(node)]; }
    bool isGrounded(int node) const { return grounded[static_cast<std::size_t>(node)]; }
    /// A wire ends there and nothing goes on.
    bool isOpen(int node) const { return endsOf(node).size() == 1 && !isGrounded(node); }
};

Vec3 pointOn(const model::PlainWire& wire, double distanceM);

/// The radius that the kernels see: with a coat, more than that of the metal.
double kernelRadiusM(const model::PlainWire& wire);

/// Breaks every wire at joints, ports, the surface of the ground and beside what is near, joins the ends that
/// coincide, and lays the gaps of the ports there. Throws rm::Error where a port is on nothing.
Stretches layStretches(const model::WireModel& model, const Wavelengths& wavelengths,
                       const MeshOptions& options);

}  // namespace rm::em
