// What a designer reads off an antenna at one frequency: impedance, SWR, gain, angles, efficiency, and the
// cuts of its pattern. All of it is computed from one field solution.
#pragma once

#include <memory>
#include <optional>
#include <stop_token>
#include <vector>

#include "core/circuit/port_circuit.h"
#include "core/circuit/reflection.h"
#include "core/em/far_field.h"
#include "core/model/expand.h"
#include "core/study/field_store.h"
#include "core/study/peak.h"
#include "core/study/radio.h"

namespace rm::study {

using circuit::reflection;
using circuit::returnLossDb;
using circuit::swr;

/// Gain along a cut. In an elevation cut `angleDeg` runs from the horizon at `bearing` (0) over the zenith
/// (90) to the horizon behind (180), and on below (to 360) in free space; in an azimuth cut it is the
/// azimuth.
struct Cut {
    std::vector<double> angleDeg;
    std::vector<double> gainDbi;
    double fixedAngleDeg = 0.0;  ///< azimuth of an elevation cut, elevation of an azimuth cut

    /// Gain at any angle, by interpolation between the samples.
    double at(double degrees) const;
};

struct Figures {
    double frequencyHz = 0.0;
    std::vector<Complex> impedanceOhm;  ///< per feed; 0 at an idle one
    Complex antennaOhm;                 ///< where the feed path begins: the first driven feed, or the harness
    std::vector<circuit::Joint> joints;  ///< of the feed path, from there to the radio
    double swr = 1.0;                    ///< at the radio, which without a feed path is the antenna
    double returnLossDb = 0.0;
    Peak peak;                    ///< takeoff angle and gain of the strongest lobe
    double frontToBackDb = 0.0;   ///< peak against the opposite bearing at the same elevation
    double frontToRearDb = 0.0;   ///< peak against the strongest bearing of the rear half, same elevation
    double directivityDbi = 0.0;  ///< peak over the mean of all directions; the RDF of a receiving antenna
    double harnessLossDb = 0.0;   ///< between the common point of a harness and the feeds
    double beamwidthDeg =
        0.0;  ///< between the half-power points in azimuth at the takeoff angle; 360 if none
    double efficiency =
        1.0;                ///< what leaves the antenna, to the sky or into the ground, over the input power
    double skyShare = 1.0;  ///< what goes to the sky over the input power
    double groundShare = 0.0;      ///< what real ground turns to heat over the input power
    double reflectionShare = 0.0;  ///< of that, what the reflection takes from the sky wave (em::SkyPower)

    /// Of the input power, what heats the soil round the wires.
    double soilShare() const { return groundShare - reflectionShare; }
    std::size_t unknowns = 0;
};

/// A solved antenna at one frequency. Immutable; shared between threads.
struct Analysis {
    std::shared_ptr<const em::Mesh> mesh;
    circuit::Reading reading;
    Figures figures;
    Cut elevation;
    Cut azimuth;
    double seconds = 0.0;  ///< wall time of the solution and the figures
};

/// Elevation of the azimuth cut where the strongest lobe is steeper than this.
inline constexpr double kSteepestAzimuthCutDeg = 45.0;

/// Part of the field that the cuts show. Vertical is along theta, horizontal along phi; circular by IEEE 149:
/// right-hand turns clockwise seen along the ray.
enum class Component { Total, Horizontal, Vertical, RightCircular, LeftCircular };

struct AnalysisOptions {
    std::optional<double> bearingAzimuthDeg;    ///< of the elevation cut; the peak's where absent
    std::optional<double> azimuthElevationDeg;  ///< of the azimuth cut; the peak's, at most 45, where absent
    double stepDeg = 1.0;
    Component component = Component::Total;  ///< of the two cuts; the figures are always of the whole field
    FieldStore* fields = nullptr;            ///< where field solutions are kept; none where null
    double meshHz =
        0.0;  ///< frequency that the mesh is cut for, at least the one of the analysis; 0: that one
    std::stop_token stop = {};  ///< asks for rm::Stopped
};

/// Solves an expanded design at one frequency. Throws rm::Error where the design has errors: a model with an
/// error-level finding never gets numbers.
Analysis analyse(const model::Expansion& design, double frequencyHz, const AnalysisOptions& options = {});

/// Impedance where the feed path begins only, on a given mesh: the inner step of searches.
Complex antennaImpedance(const model::WireModel& model, const std::shared_ptr<const em::Mesh>& mesh,
                         double frequencyHz, const std::stop_token& stop = {});

/// What currents, voltages and fields of an analysis, which are peak values, are times with the radio at full
/// power.
double atFullPower(const Analysis& analysis, double radioW);
/// The same for what a meter reads: rms.
double rmsAtFullPower(const Analysis& analysis, double radioW);

/// Throws rm::Error with the first error of the design, if there is one.
void requireUsable(const model::Expansion& design);

/// Cuts of a solved antenna.
Cut elevationCut(const em::Mesh& mesh, const circuit::Reading& reading, double azimuthDeg, double stepDeg,
                 Component component = Component::Total);
Cut azimuthCut(const em::Mesh& mesh, const circuit::Reading& reading, double elevationDeg, double stepDeg,
               Component component = Component::Total);

/// The part of a field that a component means, with the other part zero.
em::FarField partOf(const em::FarField& field, Component component);

}  // namespace rm::study
