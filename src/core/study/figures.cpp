#include "core/study/figures.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>

#include "core/em/field_rings.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// Width in degrees over which the cut stays within 3 dB of its value at `centre`, walking both ways.
double halfPowerWidth(const Cut& cut, double centre) {
    const double limit = cut.at(centre) - 10.0 * std::log10(2.0);
    const auto walk = [&](double sign) {
        constexpr double step = 0.5;
        for (double offset = step; offset <= 180.0; offset += step) {
            const double now = cut.at(centre + sign * offset);
            if (now >= limit) continue;
            const double before = cut.at(centre + sign * (offset - step));
            return offset - step + step * (before - limit) / (before - now);
        }
        return 180.0;
    };
    return walk(1.0) + walk(-1.0);
}

/// Largest gain of a ring more than a right angle away from `front`.
double strongestBehind(const Cut& ring, double front) {
    double most = -999.0;
    for (std::size_t i = 0; i < ring.angleDeg.size(); ++i)
        if (std::cos((ring.angleDeg[i] - front) * kDegree) <= 1e-9) most = std::max(most, ring.gainDbi[i]);
    return most;
}

Cut cutOf(const std::vector<em::FarField>& fields, std::vector<double> angles, double fixed,
          const circuit::Reading& reading, Component component) {
    Cut cut;
    cut.angleDeg = std::move(angles);
    cut.fixedAngleDeg = fixed;
    for (const auto& field : fields)
        cut.gainDbi.push_back(em::gainDbi(partOf(field, component), reading.inputPowerW));
    return cut;
}

}  // namespace

double Cut::at(double degrees) const {
    if (angleDeg.empty() || !std::isfinite(degrees)) return -999.0;
    const double first = angleDeg.front();
    const double last = angleDeg.back();
    const bool full = last - first > 350.0;
    double a = degrees;
    if (full)
        a = first + std::fmod(std::fmod(degrees - first, 360.0) + 360.0, 360.0);
    else if (a < first || a > last)
        return -999.0;
    const double step = (last - first) / static_cast<double>(angleDeg.size() - 1);
    const double position = std::min((a - first) / step, static_cast<double>(angleDeg.size() - 1));
    const auto i = static_cast<std::size_t>(position);
    if (i + 1 >= gainDbi.size()) return gainDbi.back();
    const double t = position - static_cast<double>(i);
    return (1.0 - t) * gainDbi[i] + t * gainDbi[i + 1];
}

em::FarField partOf(const em::FarField& field, Component component) {
    // A circular wave has as much along theta as along phi.
    const auto circular = [&](double sense) {
        const Complex part = 0.5 * (field.theta + Complex(0.0, sense) * field.phi);
        return em::FarField{part, Complex(0.0, -sense) * part};
    };
    switch (component) {
        case Component::Horizontal:
            return {0.0, field.phi};
        case Component::Vertical:
            return {field.theta, 0.0};
        case Component::RightCircular:
            return circular(1.0);
        case Component::LeftCircular:
            return circular(-1.0);
        default:
            return field;
    }
}

Cut elevationCut(const em::Mesh& mesh, const circuit::Reading& reading, double azimuthDeg, double stepDeg,
                 Component component) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const int count = static_cast<int>(std::lround((overGround ? 180.0 : 360.0) / stepDeg));
    std::vector<double> angles;
    std::vector<em::Direction> directions;
    for (int i = 0; i <= count; ++i) {
        const double angle = i * stepDeg;
        angles.push_back(angle);
        if (angle <= 90.0)
            directions.push_back({angle, azimuthDeg});
        else if (angle <= 270.0)
            directions.push_back({180.0 - angle, azimuthDeg + 180.0});
        else
            directions.push_back({angle - 360.0, azimuthDeg});
    }
    return cutOf(em::farField(mesh, reading.localCurrent, reading.frequencyHz, directions), std::move(angles),
                 azimuthDeg, reading, component);
}

Cut azimuthCut(const em::Mesh& mesh, const circuit::Reading& reading, double elevationDeg, double stepDeg,
               Component component) {
    const int count = static_cast<int>(std::lround(360.0 / stepDeg));
    std::vector<double> angles;
    for (int i = 0; i <= count; ++i) angles.push_back(i * stepDeg);
    // A step that does not divide the circle makes no ring.
    std::vector<em::FarField> fields;
    if (std::abs(count * stepDeg - 360.0) < 1e-9) {
        fields = em::fieldRings(mesh, reading.localCurrent, reading.frequencyHz, {{elevationDeg, count}});
        fields.push_back(fields.front());
    } else {
        std::vector<em::Direction> directions;
        for (const double angle : angles) directions.push_back({elevationDeg, angle});
        fields = em::farField(mesh, reading.localCurrent, reading.frequencyHz, directions);
    }
    return cutOf(fields, std::move(angles), elevationDeg, reading, component);
}

void requireUsable(const model::Expansion& design) {
    for (const auto& finding : design.findings)
        if (finding.severity == model::Severity::Error) throw Error(finding.sentence + " " + finding.mend);
    if (design.model.wires.empty()) throw Error(say("There is nothing to solve: add a part."));
    if (design.model.feeds.empty()) throw Error(say("Nothing drives this antenna: add a feed."));
}

double atFullPower(const Analysis& analysis, double radioW) {
    return std::sqrt(arrivingW(analysis.figures.joints, radioW) / analysis.reading.inputPowerW);
}

double rmsAtFullPower(const Analysis& analysis, double radioW) {
    return std::sqrt(0.5) * atFullPower(analysis, radioW);
}

Complex antennaImpedance(const model::WireModel& model, const std::shared_ptr<const em::Mesh>& mesh,
                         double frequencyHz, const std::stop_token& stop) {
    circuit::FeedNetwork network;
    return circuit::driveFeeds(model, em::solvePorts(mesh, frequencyHz, stop).admittance, frequencyHz,
                               network)
        .antennaOhm;
}

Analysis analyse(const model::Expansion& design, double frequencyHz, const AnalysisOptions& options) {
    requireUsable(design);
    const auto begin = std::chrono::steady_clock::now();
    Analysis a;
    FieldStore own;
    FieldStore& fields = options.fields != nullptr ? *options.fields : own;
    a.mesh = fields.mesh(design.model, std::max(frequencyHz, options.meshHz));
    const auto kept = fields.solve(a.mesh, frequencyHz, options.stop);
    const em::PortSolution& solution = *kept;
    a.reading = circuit::closePorts(design.model, solution);
    Figures& f = a.figures;
    f.frequencyHz = frequencyHz;
    f.impedanceOhm = a.reading.feedImpedance;
    f.antennaOhm = a.reading.antennaOhm;
    f.harnessLossDb = 10.0 * std::log10(1.0 + a.reading.harnessPowerW / a.reading.inputPowerW);
    f.joints = feedPathJoints(design, f.antennaOhm, frequencyHz, f.harnessLossDb);
    f.swr = swr(f.joints.back().impedanceOhm, design.referenceOhm);
    f.returnLossDb = returnLossDb(f.joints.back().impedanceOhm, design.referenceOhm);
    f.unknowns = solution.unknowns;
    if (!(a.reading.inputPowerW > 0.0))
        throw Error(say(
            "The feeds together take no power from the transmitter: check the amplitudes and phases of the "
            "feeds."));
    f.efficiency = 1.0 - a.reading.lostPowerW() / a.reading.inputPowerW;
    f.skyShare = f.efficiency;
    em::SkyRings rings;
    if (design.model.ground.kind == model::GroundKind::Real) {
        const auto sky = em::skyPower(*a.mesh, a.reading.localCurrent, frequencyHz, a.reading.inputPowerW,
                                      options.stop, &rings);
        f.skyShare = sky.radiated;
        f.groundShare = std::max(0.0, f.efficiency - f.skyShare);
        f.reflectionShare = std::min(f.groundShare, sky.lostInReflection);
    }
    f.peak = findPeak(*a.mesh, a.reading, &rings);
    const double bearing = options.bearingAzimuthDeg.value_or(f.peak.direction.azimuthDeg);
    a.elevation = elevationCut(*a.mesh, a.reading, bearing, options.stepDeg, options.component);
    // A ring round a lobe that goes straight up says nothing: it is cut lower.
    const double standard = std::min(f.peak.direction.elevationDeg, kSteepestAzimuthCutDeg);
    const double elevation = options.azimuthElevationDeg.value_or(standard);
    a.azimuth = azimuthCut(*a.mesh, a.reading, elevation, options.stepDeg, options.component);
    const Cut peakRing = elevation == f.peak.direction.elevationDeg && options.component == Component::Total
                             ? a.azimuth
                             : azimuthCut(*a.mesh, a.reading, f.peak.direction.elevationDeg, 2.0);
    f.frontToBackDb = f.peak.gainDbi - peakRing.at(f.peak.direction.azimuthDeg + 180.0);
    f.frontToRearDb = f.peak.gainDbi - strongestBehind(peakRing, f.peak.direction.azimuthDeg);
    f.directivityDbi = f.peak.gainDbi - 10.0 * std::log10(std::max(1e-12, f.skyShare));
    f.beamwidthDeg = halfPowerWidth(peakRing, f.peak.direction.azimuthDeg);
    a.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    return a;
}

}  // namespace rm::study
