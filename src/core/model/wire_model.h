// What is left of a design once formulas, parts and copies are worked out: plain wires, feeds and loads in
// metres. It is the input of the field engine, and every item remembers the part it came from.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/common.h"
#include "core/model/feed_blocks.h"

namespace rm::model {

enum class GroundKind { FreeSpace, Perfect, Real };

/// The half-space z < 0. The constants matter for real ground only.
struct Ground {
    GroundKind kind = GroundKind::FreeSpace;
    double relativePermittivity = 1.0;  ///< below the relaxation, where there is one
    double conductivitySm = 0.0;
    double relaxationHz = 0.0;  ///< of water; 0: none (model/soils.h)
};

/// A straight round wire. No conductivity means a perfect conductor.
struct PlainWire {
    Vec3 startM = Vec3::Zero();
    Vec3 endM = Vec3::Zero();
    double radiusM = 0.001;
    std::optional<double> conductivitySm;
    double coatM = 0.0;  ///< thickness of the insulation; 0: bare
    double coatPermittivity = 1.0;
    std::string part;    ///< as a person calls it: "Yagi (upper), reflector"
    std::string unit;    ///< the part or the copy that it belongs to: "Yagi (upper)"; empty: `part`
    std::string source;  ///< the part of the design: "Yagi"; empty: `part`
    /// Runs on from the wire before it in a curve: between them is no corner that anybody would name.
    bool runsOn = false;

    const std::string& group() const { return unit.empty() ? part : unit; }
    const std::string& origin() const { return source.empty() ? part : source; }
    double lengthM() const { return (endM - startM).norm(); }
};

/// The box round points.
struct Bounds {
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);

    void include(const Vec3& point) {
        low = low.cwiseMin(point);
        high = high.cwiseMax(point);
    }
    void include(const PlainWire& wire) {
        include(wire.startM);
        include(wire.endM);
    }
    bool empty() const { return low.x() > high.x(); }
    Vec3 centre() const { return 0.5 * (low + high); }
    double diagonal() const { return empty() ? 0.0 : (high - low).norm(); }
};

/// A place on a wire: `at` is the fraction of its length from its start. 0 and 1 are in series between that
/// end and whatever joins there.
struct WirePlace {
    std::size_t wire = 0;
    double at = 0.5;
};

/// A feed: a voltage source in series with the wire at `place`, or an idle place for one.
struct PlainFeed {
    WirePlace place;
    Complex voltage{1.0, 0.0};
    std::string name;
    bool driven = true;
    double delayM = 0.0;                 ///< electrical length by which the voltage comes later
    std::optional<double> idleOhm = {};  ///< across a feed that is not driven; nothing: open
    /// Ends of other wires in the same joint that are on the feed's side, with that of its own wire.
    std::vector<WirePlace> together = {};
    /// Ends on the other side where the voltage stands half on either side of what is left of the joint: a
    /// voltage balun.
    std::vector<WirePlace> against = {};
};

/// A cable from a feed to the common point of a harness.
struct PlainArm {
    LineKind line;
    double lengthM = 0.0;
    double delayM = 0.0;  ///< more electrical length, without loss
    bool crossed = false;
};

enum class LoadKind { Series, Parallel };

/// An impedance in ohm at a frequency in Hz.
struct ImpedancePoint {
    double frequencyHz = 0.0;
    Complex ohm;

    bool operator==(const ImpedancePoint&) const = default;
};

/// Turns of wire or cable on a ferrite ring. Its permeability falls off as 1 + (mu - 1)/(1 + j f/fr).
struct FerriteRing {
    double turns = 1.0;
    double outerM = 0.0;
    double innerM = 0.0;
    double heightM = 0.0;
    double permeability = 1.0;  ///< initial, relative
    double relaxationHz = 0.0;
};

/// Frequency at which a nickel-zinc ferrite of this initial permeability falls off: (mu - 1) f = 2/3 gamma/(2
/// pi) mu0 Ms, with a saturation of 0.3 T 5.6 GHz. Source: J. L. Snoek, Dispersion and absorption in magnetic
/// ferrites at frequencies above one Mc/s, Physica 14 (1948).
double snoekRelaxationHz(double permeability);

/// Lumped resistance (ohm), inductance (H) and capacitance (F), in series with each other or side by side.
/// Absent elements are left out.
struct LumpedCircuit {
    LoadKind kind = LoadKind::Series;
    std::optional<double> resistanceOhm;
    std::optional<double> inductanceH;
    std::optional<double> capacitanceF;
    std::optional<double> coilQ = {};  ///< loss of the inductance: w L/Q in series with it at every frequency
    std::optional<FerriteRing> ring = {};  ///< in the place of the inductance
    /// Where it is not empty, its impedance instead of all others: ascending in frequency.
    std::vector<ImpedancePoint> table = {};
};

struct PlainLoad {
    WirePlace place;
    LumpedCircuit circuit;
    std::string name;
    std::optional<double> ratedW = {};
};

/// A gap across which nothing but lines end.
struct PlainTap {
    WirePlace place;
    std::string name;
};

/// A transmission line between two ports, counted as WireModel::places does. Of each gap the side nearer to
/// the start of its wire is joined to the like side of the other, or to the unlike one where crossed.
struct PlainLine {
    std::size_t fromPort = 0;
    std::size_t toPort = 0;
    LineKind line;
    double lengthM = 0.0;
    bool crossed = false;
    std::string name;
};

struct WireModel {
    Ground ground;
    int fineness = 0;  ///< of the mesh that it is cut into (em::meshOptions)
    std::vector<PlainWire> wires;
    std::vector<PlainFeed> feeds;
    std::vector<PlainLoad> loads;
    std::vector<PlainTap> taps;
    std::vector<PlainLine> lines;
    std::vector<PlainArm> harness;  ///< one per feed, of which the idle ones are not connected; empty: none

    WireModel();
    WireModel(const WireModel&);
    WireModel(WireModel&&) noexcept;
    WireModel& operator=(const WireModel&);
    WireModel& operator=(WireModel&&) noexcept;
    ~WireModel();

    /// The box round all wires.
    Bounds bounds() const;

    /// A point where a wire only goes on in a curve: no end and no corner of it.
    bool runsThrough(const Vec3& point) const;

    /// A port of the antenna and what stands there.
    struct PortPlace {
        WirePlace place;
        std::string name;
        std::vector<WirePlace> together = {};
        std::vector<WirePlace> against = {};
    };
    /// All ports in order: the feeds, the loads, the taps.
    std::vector<PortPlace> places() const;
};

}  // namespace rm::model
