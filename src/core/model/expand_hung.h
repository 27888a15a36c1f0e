// Supports and what hangs from them worked out: the way of a rope, the curve of its sag, and where on it the
// wire is.
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/model/field_values.h"

namespace rm::model {

/// A support, its front and left as in the design and its height above the ground: what stands on the site is
/// not lifted by the height of the site.
struct PlainSupport {
    std::string name;
    SupportKind kind = SupportKind::Mast;
    Vec3 topM = Vec3::Zero();
    Vec3 otherM = Vec3::Zero();  ///< top of the other end of a roof edge or wall; otherwise `topM`

    double heightM() const { return topM.z(); }
    /// The point `alongM` from its first end, at a height.
    Vec3 at(double alongM, double heightM) const;
};

/// A place in the coordinates of a design whose front points to `headingDeg`.
Vec3 fromCompass(double eastM, double northM, double upM, double headingDeg);
/// East, north and up of a point of the design.
Vec3 toCompass(const Vec3& pointM, double headingDeg);

/// Problems are named after the support.
std::vector<PlainSupport> readSupports(FieldValues& values, const std::vector<Support>& supports,
                                       double headingDeg);

/// One span of a hung wire, between two of its points.
struct HungSpan {
    std::string from;  ///< the supports
    std::string to;
    double chordM = 0.0;
    double sagM = 0.0;      ///< of its middle below the chord, across it
    double pullN = 0.0;     ///< in its middle; 0: unknown, where it hangs taut
    double slopeDeg = 0.0;  ///< of the rope at `from`, above the horizon towards `to`
};

/// How a hung wire came out, in the coordinates of PlainSupport.
struct HungSizes {
    std::string part;
    std::vector<Vec3> tiedM;       ///< its points
    std::vector<Vec3> ropeStartM;  ///< from the first support to the wire; fewer than two points: none
    std::vector<Vec3> ropeEndM;    ///< from the wire to the last support
    std::vector<Vec3> wireM;
    std::vector<bool> corner;  ///< for each point of `wireM`: a support holds it there
    double ropeStartLengthM = 0.0;
    double ropeEndLengthM = 0.0;
    double wireLengthM = 0.0;
    double kgPerM = 0.0;
    std::vector<HungSpan> spans;
};

/// The way of a hung wire and what it leaves of it for ropes. `kgPerM` is the weight of the wire; its ropes
/// count as heavy. Nothing in `wireM` where there are problems.
///
/// The curve is the parabola of a uniform load, across the chord: depth w c l/(8 T) for weight w per length,
/// chord c, its level part l and pull T. Source: H. M. Irvine, Cable Structures (MIT Press, 1981), chapter 2.
/// It is meant for the shallow sag of an antenna, where it and the catenary are one (docs/theory.md).
HungSizes hang(FieldValues& values, const std::string& part, const HungWire& wire, double kgPerM,
               const std::vector<PlainSupport>& supports);

}  // namespace rm::model
