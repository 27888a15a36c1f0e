// Figures, sweeps, resonance, scaling, hops, circuits.
#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

#include "antennas.h"
#include "core/project/project_file.h"
#include "core/project/reference_cases.h"
#include "core/study/figures.h"
#include "core/study/hop.h"
#include "core/study/rational.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"

using namespace rm;
using namespace rm::test;

namespace {

const model::Project& demo() {
    static const model::Project project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    return project;
}

const model::Design& design(const std::string& name) {
    for (const auto& d : demo().designs)
        if (d.name == name) return d;
    throw Error("no design " + name);
}

}  // namespace

TEST_CASE("SWR and return loss of known impedances") {
    CHECK(study::swr(100.0, 50.0) == Approx(2.0));
    CHECK(study::swr(25.0, 50.0) == Approx(2.0));
    CHECK(study::swr(50.0, 50.0) == Approx(1.0));
    CHECK(study::swr(Complex(0.0, 10.0), 50.0) > 1e9);
    CHECK(study::returnLossDb(100.0, 50.0) == Approx(9.5424).epsilon(1e-4));
}

TEST_CASE("figures of a half-wave dipole in free space") {
    const auto a = study::analyse(wrapped(dipole(0.4807 * wavelengthM(14.1e6), 0.001)), 14.1e6);
    CHECK(a.figures.impedanceOhm[0].real() == Approx(70.0).margin(3.0));
    CHECK(std::abs(a.figures.impedanceOhm[0].imag()) < 20.0);
    CHECK(a.figures.peak.gainDbi == Approx(2.14).margin(0.03));
    CHECK(a.figures.efficiency == Approx(1.0));
    CHECK(a.figures.frontToBackDb == Approx(0.0).margin(1e-3));
    // Half-power width of a half-wave dipole is 78 degrees (Balanis).
    CHECK(a.figures.beamwidthDeg == Approx(78.0).margin(1.0));
    CHECK(a.azimuth.at(90.0) < -60.0);
    CHECK(a.azimuth.at(370.0) == Approx(a.azimuth.at(10.0)));
    CHECK(a.elevation.angleDeg.back() == 360.0);
}

TEST_CASE("over perfect ground the cut is half a plane, and height sets the takeoff angle") {
    // A horizontal wire h above perfect ground has its lowest lobe at sin(el) = lambda/(4 h).
    const double lambda = wavelengthM(14.1e6);
    for (const double h : {0.75, 1.0, 1.5}) {
        auto m = dipole(0.48 * lambda, 0.001, {0, 0, h * lambda});
        m.ground.kind = model::GroundKind::Perfect;
        const auto a = study::analyse(wrapped(m), 14.1e6);
        CHECK(a.elevation.angleDeg.back() == 180.0);
        const double expected = std::asin(0.25 / h) / kDegree;
        const double lower = a.elevation.at(expected);
        CHECK(lower > a.elevation.at(expected - 6.0));
        CHECK(lower > a.elevation.at(expected + 6.0));
        CHECK(a.figures.peak.direction.elevationDeg == Approx(expected).margin(1.0));
    }
}

TEST_CASE("the peak is the largest gain anywhere") {
    const auto a = study::analyse(model::expand(design("Yagi, 70 MHz")), 70.2e6);
    std::vector<em::Direction> fine;
    for (double el = 0; el <= 90; el += 0.5)
        for (double az = 0; az < 360; az += 3) fine.push_back({el, az});
    double best = -999;
    for (const auto& f : em::farField(*a.mesh, a.reading.localCurrent, 70.2e6, fine))
        best = std::max(best, em::gainDbi(f, a.reading.inputPowerW));
    CHECK(a.figures.peak.gainDbi >= best - 1e-6);
    CHECK(a.figures.peak.gainDbi < best + 0.05);
    CHECK(a.figures.peak.direction.azimuthDeg == Approx(0.0).margin(0.1));
}

TEST_CASE("efficiency is what the conductors leave") {
    for (const auto ground : {model::GroundKind::Perfect, model::GroundKind::Real}) {
        auto yagi = design("Yagi, 70 MHz");
        yagi.site.ground = ground;
        const auto a = study::analyse(model::expand(yagi), 70.2e6);
        const auto& f = a.figures;
        const double average =
            em::averageGain(*a.mesh, a.reading.localCurrent, 70.2e6, a.reading.inputPowerW);
        CHECK(f.efficiency < 0.999);
        CHECK(f.skyShare == Approx(average).margin(5e-4));
        CHECK(f.skyShare + f.groundShare == Approx(f.efficiency).margin(5e-4));
        CHECK((f.groundShare > 0.05) == (ground == model::GroundKind::Real));
    }
}

TEST_CASE("a sweep agrees with single solutions and can be stopped") {
    const auto e = model::expand(design("Inverted V, 60 m"));
    const auto s = study::sweep(e, 5.2e6, 5.5e6, 31);
    REQUIRE(s.complete);
    REQUIRE(s.points.size() == 31);
    CHECK(s.points[0].frequencyHz == 5.2e6);
    CHECK(s.points[30].frequencyHz == Approx(5.5e6));
    const auto single = study::analyse(e, s.points[10].frequencyHz);
    CHECK(std::abs(single.figures.impedanceOhm[0] - s.points[10].impedanceOhm[0]) < 0.05);
    CHECK(s.bestSwr() <= s.worstSwr());
    CHECK(s.bandwidthHz(2.0) > s.bandwidthHz(1.5));
    CHECK(s.bandwidthHz(1.0) == 0.0);

    std::stop_source stop;
    std::atomic<int> calls{0};
    const auto part = study::sweep(e, 5.2e6, 5.5e6, 5000, stop.get_token(), [&](double share) {
        CHECK(share <= 1.0);
        if (++calls == 3) stop.request_stop();
    });
    CHECK_FALSE(part.complete);
    CHECK(part.points.size() < 1000);
    CHECK_THROWS_AS(study::sweep(e, 5e6, 4e6, 10), Error);
    CHECK_THROWS_AS(study::sweep(e, 0, 4e6, 10), Error);
}

TEST_CASE("a rational model finds a rational function from few samples") {
    // Two poles near the axis and a constant, seen in two components.
    const auto f = [](double x) {
        Eigen::VectorXcd v(2);
        v << 1.0 / (x - Complex(0.3, 0.02)) + 2.0,
            3.0 / (x + Complex(0.5, -0.1)) - 0.5 / (x - Complex(0.3, 0.02));
        return v;
    };
    std::vector<double> x;
    std::vector<Eigen::VectorXcd> samples;
    for (int i = 0; i < 9; ++i) {
        x.push_back(-std::cos(kPi * i / 8.0));
        samples.push_back(f(x.back()));
    }
    const study::RationalModel model(x, samples);
    for (double t = -1.0; t <= 1.0; t += 0.01) CHECK((model.at(t) - f(t)).norm() < 1e-8 * f(t).norm());
    CHECK(model.at(x[3]) == samples[3]);
}

TEST_CASE("sweeps of hundreds of points take a few solutions and agree with direct ones to 1e-3") {
    struct Case {
        std::string name;
        model::Expansion expansion;
        double lowHz;
        double highHz;
        int mostSolutions;
    };
    std::vector<Case> cases;
    for (const auto& d : demo().designs) {
        const auto e = model::expand(d);
        cases.push_back({d.name, e, 0.96 * e.designFrequencyHz, 1.04 * e.designFrequencyHz, 20});
        cases.push_back(
            {d.name + ", an octave", e, 0.7 * e.designFrequencyHz, 1.4 * e.designFrequencyHz, 40});
    }
    for (const auto& c : io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/wires.json"))
        if (c.name == "free_trap_7.1" || c.name == "free_small_loop") {
            auto e = wrapped(c.model);
            cases.push_back({c.name, e, 0.95 * c.frequencyHz, 1.05 * c.frequencyHz, 14});
        }
    for (const auto& c : cases) {
        INFO(c.name);
        const auto s = study::sweep(c.expansion, c.lowHz, c.highHz, 401);
        REQUIRE(s.complete);
        REQUIRE(s.points.size() == 401);
        CHECK(s.solutions <= c.mostSolutions);
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(c.expansion.model, c.highHz));
        double worst = 0.0;
        for (std::size_t i = 0; i < s.points.size(); i += 8) {
            const auto direct =
                circuit::closePorts(c.expansion.model, em::solvePorts(mesh, s.points[i].frequencyHz))
                    .feedImpedance;
            for (std::size_t f = 0; f < direct.size(); ++f)
                worst = std::max(worst, std::abs(study::reflection(direct[f], c.expansion.referenceOhm) -
                                                 study::reflection(s.points[i].impedanceOhm[f],
                                                                   c.expansion.referenceOhm)));
        }
        UNSCOPED_INFO(s.solutions << " solutions, worst " << worst);
        CHECK(worst < 1e-3);
    }
}

TEST_CASE("nobody is refused for many points") {
    const auto e = model::expand(demo().designs.at(0));
    const auto few = study::sweep(e, 5.2e6, 5.5e6, 301);
    const auto many = study::sweep(e, 5.2e6, 5.5e6, 300001);
    REQUIRE(many.complete);
    REQUIRE(many.points.size() == 300001);
    CHECK(many.solutions < 30);
    for (std::size_t i = 0; i <= 300; i += 50)
        CHECK(std::abs(study::reflection(few.points[i].radioOhm, 50.0) -
                       study::reflection(many.points[i * 1000].radioOhm, 50.0)) < 1e-3);
}

TEST_CASE("bandwidth is measured between the crossings") {
    study::Sweep s;
    for (int i = 0; i <= 10; ++i)
        s.points.push_back({1e6 + i * 1e5, {50.0}, 50.0, 50.0, 1.0 + 0.5 * std::abs(i - 5)});
    CHECK(s.bandwidthHz(2.0) == Approx(4e5));
    CHECK(s.bandwidthHz(1.75) == Approx(3e5));
    CHECK(s.bandwidthHz(10.0) == Approx(1e6));
    CHECK(s.bestFrequencyHz() == Approx(1.5e6));
    CHECK(study::Sweep{}.bandwidthHz(2.0) == 0.0);
}

TEST_CASE("resonance is where the reactance is zero, the nearest one") {
    const auto e = wrapped(dipole(10.2, 0.001));
    const auto r = study::findResonance(e, 13e6);
    REQUIRE(r.has_value());
    CHECK(std::abs(r->impedanceOhm.imag()) < 0.01);
    CHECK(r->frequencyHz == Approx(14.2e6).epsilon(0.02));
    CHECK(r->impedanceOhm.real() == Approx(72).margin(3));
    // A short wire has none near.
    CHECK_FALSE(study::findResonance(wrapped(dipole(1.0, 0.001)), 14e6).has_value());
    // Asked to stop, it stops.
    std::stop_source stop;
    stop.request_stop();
    CHECK_FALSE(study::findResonance(e, 13e6, stop.get_token()).has_value());
}

TEST_CASE("scaling brings resonance to the wanted frequency although the height stays") {
    const auto& original = design("Inverted V, 60 m");
    const double target = 5.45e6;
    const auto scaled = study::scaleToFrequency(original, {"leg"}, target);
    CHECK(scaled.after.frequencyHz == Approx(target).epsilon(5e-5));
    CHECK(scaled.factor < 1.0);
    for (std::size_t i = 0; i < original.dimensions.size(); ++i)
        if (original.dimensions[i].name != "leg")
            CHECK(scaled.design.dimensions[i].text == original.dimensions[i].text);
    // The plain ratio of the frequencies would have missed it.
    auto naive = original;
    naive.dimensions[1].text = std::to_string(13.45 * scaled.before.frequencyHz / target) + " m";
    const auto missed = study::findResonance(model::expand(naive), target);
    CHECK(std::abs(missed->frequencyHz - target) > 5.0 * std::abs(scaled.after.frequencyHz - target));
}

TEST_CASE("scaling keeps the unit that was typed and explains what it cannot do") {
    auto d = design("Inverted V, 60 m");
    d.dimensions[1].text = "44' 2\"";
    const auto scaled = study::scaleToFrequency(d, {"leg"}, 5.45e6);
    CHECK(scaled.design.dimensions[1].text.find('\'') != std::string::npos);
    using Catch::Contains;
    CHECK_THROWS_WITH(study::scaleToFrequency(d, {}, 5e6), Contains("nothing to scale"));
    CHECK_THROWS_WITH(study::scaleToFrequency(d, {"spread"}, 5e6), Contains("spread cannot be scaled"));
    d.dimensions[1].text = "1 m";
    CHECK_THROWS_WITH(study::scaleToFrequency(d, {"leg"}, 5.4e6),
                      Contains("No resonance within a factor of two"));
}

TEST_CASE("an antenna for another band takes the resonance that it is used at, not one that lies nearer") {
    // Between half a wave and a whole one lies a resonance of thousands of ohms.
    model::Design d;
    d.designFrequency = "14.1 MHz";
    model::Dimension half;
    half.name = "half";
    half.text = "5.06 m";
    d.dimensions.push_back(half);
    model::Part wire;
    wire.name = "Wire";
    wire.shape = model::StraightWire{{"0 m", "-half", "10 m"}, {"0 m", "half", "10 m"}};
    d.parts.push_back(wire);
    model::Feed feed;
    feed.part = "Wire";
    d.feeds.push_back(feed);
    const auto scaled = study::scaleToFrequency(d, {"half"}, 21.2e6);
    CHECK(scaled.before.frequencyHz == Approx(14.1e6).epsilon(0.03));
    CHECK(scaled.factor == Approx(14.1 / 21.2).epsilon(0.03));
    CHECK(scaled.after.impedanceOhm.real() < 120.0);
}

TEST_CASE("one hop follows its geometry") {
    CHECK(study::hopDistanceKm(90.0, 300.0) == Approx(0.0).margin(1e-6));
    // A ray along the horizon: cos(angle) = R/(R + h).
    CHECK(study::hopDistanceKm(0.0, 300.0) == Approx(2 * 6371 * std::acos(6371.0 / 6671.0)));
    for (const double el : {2.0, 10.0, 30.0, 60.0})
        for (const double h : {110.0, 250.0, 350.0})
            CHECK(study::hopElevationDeg(study::hopDistanceKm(el, h), h) == Approx(el));
    CHECK(study::hopElevationDeg(9000.0, 300.0) == -1.0);
    // Reference values worked out along two routes.
    std::ifstream in(RM_SOURCE_DIR "/tests/reference/sky_hop.json");
    const auto root = nlohmann::json::parse(in);
    int compared = 0;
    for (const auto& c : root.at("cases")) {
        const double el = c.at("elevation_deg");
        const double h = c.at("virtual_height_m").get<double>() / 1e3;
        CHECK(study::hopDistanceKm(el, h) ==
              Approx(c.at("ground_distance_m").get<double>() / 1e3).epsilon(1e-9).margin(1e-6));
        ++compared;
    }
    CHECK(compared > 50);
}

TEST_CASE("lumped circuits by their laws") {
    using model::LoadKind;
    const double f = 7.1e6;
    const double w = 2 * kPi * f;
    CHECK(std::abs(circuit::lumpedImpedance({LoadKind::Series, 10.0, 1e-6, 100e-12}, f) -
                   Complex(10.0, w * 1e-6 - 1 / (w * 100e-12))) < 1e-9);
    const Complex trap = circuit::lumpedImpedance({LoadKind::Parallel, 20000.0, 4.9e-6, 26e-12}, f);
    CHECK(std::abs(1.0 / trap - (1 / 20000.0 + 1.0 / Complex(0, w * 4.9e-6) + Complex(0, w * 26e-12))) <
          1e-12);
    CHECK(circuit::lumpedImpedance({LoadKind::Series, {}, {}, {}}, f) == Complex(0.0));
    CHECK(std::isinf(circuit::lumpedImpedance({LoadKind::Parallel, {}, {}, {}}, f).real()));
}

TEST_CASE("loads change the circuit and not the field solution") {
    auto m = dipole(10.0, 0.001);
    m.loads.push_back({{0, 0.25}, {model::LoadKind::Series, 0.0, {}, {}}, "Load"});
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, 14.1e6));
    const auto solution = em::solvePorts(mesh, 14.1e6);
    const Complex shorted = circuit::closePorts(m, solution).feedImpedance[0];
    // No resistance: as if there were no load at all.
    CHECK(std::abs(shorted - solve(dipole(10.0, 0.001), 14.1e6).z()) < 0.3);
    // An open circuit: as if the wire were cut there.
    m.loads[0].circuit = {model::LoadKind::Parallel, {}, {}, {}};
    auto reading = circuit::closePorts(m, solution);
    CHECK(std::abs(reading.feedImpedance[0] - shorted) > 50.0);
    CHECK(reading.loadPowerW == 0.0);
    // A resistor takes its share, and the books balance.
    m.loads[0].circuit = {model::LoadKind::Series, 300.0, {}, {}};
    reading = circuit::closePorts(m, solution);
    CHECK(reading.loadPowerW > 0.2 * reading.inputPowerW);
    CHECK(em::averageGain(*mesh, reading.localCurrent, 14.1e6, reading.inputPowerW) +
              reading.loadPowerW / reading.inputPowerW ==
          Approx(1.0).margin(1e-4));
}

TEST_CASE("where several feeds share the work, each sees its own impedance") {
    // Two equal dipoles driven alike see Z11 + Z12, driven against each other Z11 - Z12.
    const double f = 14.1e6;
    auto m = dipole(10.0, 0.001);
    m.wires.push_back(wire({5, -5, 0}, {5, 5, 0}, 0.001));
    addFeed(m, 1, 0.5, 1.0);
    const auto s = solve(m, f);
    const auto z = s.solution.admittance.inverse().eval();
    CHECK(std::abs(s.reading.feedImpedance[0] - (z(0, 0) + z(0, 1))) < 1e-6);
    CHECK(std::abs(s.reading.feedImpedance[1] - s.reading.feedImpedance[0]) < 1e-6);
    m.feeds[1].voltage = -1.0;
    const auto against = circuit::closePorts(m, s.solution);
    CHECK(std::abs(against.feedImpedance[0] - (z(0, 0) - z(0, 1))) < 1e-6);
}
