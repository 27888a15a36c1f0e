// Small antennas that several tests solve.
#pragma once

#include <memory>

#include "core/circuit/port_circuit.h"
#include "core/em/far_field.h"
#include "core/em/solver.h"
#include "core/model/expand.h"

namespace rm::test {

inline model::PlainWire wire(const Vec3& from, const Vec3& to, double radiusM, const char* part = "Wire") {
    model::PlainWire w;
    w.startM = from;
    w.endM = to;
    w.radiusM = radiusM;
    w.part = part;
    return w;
}

inline void addFeed(model::WireModel& m, std::size_t wireIndex, double at, Complex voltage = 1.0) {
    m.feeds.push_back({{wireIndex, at}, voltage, "Feed"});
}

/// A straight wire along y, fed at its middle.
inline model::WireModel dipole(double lengthM, double radiusM, const Vec3& centre = Vec3::Zero()) {
    model::WireModel m;
    const Vec3 half(0.0, 0.5 * lengthM, 0.0);
    m.wires.push_back(wire(centre - half, centre + half, radiusM, "Dipole"));
    addFeed(m, 0, 0.5);
    return m;
}

/// As if a design had been worked out to it.
inline model::Expansion wrapped(const model::WireModel& m, double designFrequencyHz = 14.1e6) {
    model::Expansion e;
    e.model = m;
    e.designFrequencyHz = designFrequencyHz;
    return e;
}

struct Solved {
    std::shared_ptr<const em::Mesh> mesh;
    em::PortSolution solution;
    circuit::Reading reading;
    Complex z() const { return reading.feedImpedance.front(); }
    double gain(double elevation, double azimuth) const {
        return em::gainDbi(
            em::farField(*mesh, reading.localCurrent, reading.frequencyHz, {{elevation, azimuth}}).front(),
            reading.inputPowerW);
    }
    double average() const {
        return em::averageGain(*mesh, reading.localCurrent, reading.frequencyHz, reading.inputPowerW);
    }
    /// (radiated + heat)/input - 1
    double powerBalance() const { return average() + reading.lostPowerW() / reading.inputPowerW - 1.0; }
};

inline Solved solve(const model::WireModel& m, double frequencyHz, const em::MeshOptions& options = {}) {
    Solved s;
    s.mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, frequencyHz, options));
    s.solution = em::solvePorts(s.mesh, frequencyHz);
    s.reading = circuit::closePorts(m, s.solution);
    return s;
}

/// Five elements for 50 MHz.
inline model::WireModel yagi() {
    model::WireModel m;
    const double position[] = {0.0, 1.05, 1.75, 3.1, 4.7};
    const double half[] = {1.48, 1.415, 1.35, 1.33, 1.29};
    for (int i = 0; i < 5; ++i)
        m.wires.push_back(wire({position[i], -half[i], 0.0}, {position[i], half[i], 0.0}, 0.006, "Element"));
    addFeed(m, 1, 0.5);
    return m;
}

inline model::Ground averageGround() {
    return {model::GroundKind::Real, 13.0, 0.005};
}

/// The same antenna raised by `heightM` over average ground.
inline model::WireModel overGround(model::WireModel m, double heightM) {
    m.ground = averageGround();
    for (auto& w : m.wires) {
        w.startM.z() += heightM;
        w.endM.z() += heightM;
    }
    return m;
}

/// A quarter wave for 7.1 MHz with n radials of 10 m at 0.1 m over average ground.
inline model::WireModel verticalWithRadials(int n, double heightM = 0.1) {
    model::WireModel m;
    m.ground = averageGround();
    const Vec3 base(0.0, 0.0, heightM);
    m.wires.push_back(wire(base, base + 10.3 * Vec3::UnitZ(), 0.001, "Vertical"));
    for (int i = 0; i < n; ++i) {
        const double phi = 2.0 * kPi * i / n;
        m.wires.push_back(
            wire(base, base + 10.0 * Vec3(std::cos(phi), std::sin(phi), 0.0), 0.001, "Radials"));
    }
    addFeed(m, 0, 0.0);
    return m;
}

inline model::WireModel foldedDipole() {
    model::WireModel m;
    const double h = 1.4048;
    const double d = 0.08;
    const Vec3 p[] = {{0, -h, 0}, {0, h, 0}, {d, h, 0}, {d, -h, 0}};
    for (int i = 0; i < 4; ++i) m.wires.push_back(wire(p[i], p[(i + 1) % 4], 0.003, "Folded dipole"));
    addFeed(m, 0, 0.5);
    return m;
}

/// A regular loop in the horizontal plane.
inline model::WireModel loop(int sides, double radiusM, double wireRadiusM) {
    model::WireModel m;
    for (int i = 0; i < sides; ++i) {
        const double a = 2.0 * kPi * i / sides;
        const double b = 2.0 * kPi * (i + 1) / sides;
        m.wires.push_back(wire({radiusM * std::cos(a), radiusM * std::sin(a), 0.0},
                               {radiusM * std::cos(b), radiusM * std::sin(b), 0.0}, wireRadiusM, "Loop"));
    }
    addFeed(m, 0, 0.5);
    return m;
}

}  // namespace rm::test
