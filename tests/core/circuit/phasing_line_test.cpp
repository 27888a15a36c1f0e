// Lines between points of an antenna, closed on the port matrix, and the store that never solves twice.
#include <catch2/catch.hpp>
#include <set>

#include "antennas.h"
#include "core/project/project_file.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"

using namespace rm;
using namespace rm::test;

namespace {

constexpr double kHz = 14.1e6;

/// Two half-wave dipoles 5 m apart, the first one fed, with a tap in the middle of the second and a lossless
/// line of so many wavelengths between them.
model::WireModel pair(double wavelengths, bool crossed, double ohm = 75.0, double lossDb = 0.0) {
    auto m = dipole(10.2, 0.001);
    m.wires.push_back(wire({5, -5.1, 0}, {5, 5.1, 0}, 0.001));
    m.taps.push_back({{1, 0.5}, "Tap"});
    model::PlainLine line;
    line.fromPort = 0;
    line.toPort = 1;
    line.line = {ohm, 0.8, lossDb, 0.0};
    line.lengthM = wavelengths * 0.8 * wavelengthM(kHz);
    line.crossed = crossed;
    m.lines.push_back(line);
    return m;
}

/// The same dipoles, both fed.
Solved driven(Complex second) {
    auto m = dipole(10.2, 0.001);
    m.wires.push_back(wire({5, -5.1, 0}, {5, 5.1, 0}, 0.001));
    addFeed(m, 1, 0.5, second);
    return solve(m, kHz);
}

}  // namespace

TEST_CASE("a line of half a wavelength turns the voltage round, a crossed one hands it on") {
    for (const bool crossed : {false, true}) {
        const Solved line = solve(pair(0.5, crossed), kHz);
        const Solved feeds = driven(crossed ? 1.0 : -1.0);
        for (const double azimuth : {0.0, 40.0, 180.0})
            CHECK(line.gain(20.0, azimuth) == Approx(feeds.gain(20.0, azimuth)).margin(1e-6));
        // Both currents come out of the one feed.
        const Complex sum = 1.0 / feeds.reading.feedImpedance[0] + 1.0 / feeds.reading.feedImpedance[1];
        CHECK(std::abs(line.z() - 1.0 / sum) < 1e-6 * std::abs(line.z()));
        CHECK(std::abs(line.reading.linePowerW) < 1e-9 * line.reading.inputPowerW);
    }
}

TEST_CASE("a line of a quarter wavelength forces the current of its far end, whatever is there") {
    for (const double ohm : {50.0, 300.0}) {
        const Solved s = solve(pair(0.25, false, ohm), kHz);
        const auto state = circuit::reduceToFeeds(pair(0.25, false, ohm), s.solution.admittance, kHz);
        Complex current = 0.0;
        for (const Eigen::Index port : {0, 1})
            current += s.solution.admittance(1, port) * state.voltage(port, 0);
        CHECK(std::abs(current) == Approx(1.0 / ohm).epsilon(1e-9));
        CHECK(std::abs(current + state.lineCurrent(1, 0)) < 1e-12);
    }
}

TEST_CASE("power goes to the sky, the wires and the lines, and nowhere else") {
    for (const double wavelengths : {0.1, 0.37, 0.5, 1.0, 12.0}) {
        const Solved s = solve(pair(wavelengths, false, 75.0, 3.0), kHz);
        CHECK(s.reading.linePowerW > 0.0);
        CHECK(std::abs(s.powerBalance()) < 2e-4);
    }
}

TEST_CASE("lines are found in a design, share the gap of a feed, and say what is wrong with them") {
    model::Design d;
    d.designFrequency = "14.1 MHz";
    for (const char* name : {"Front", "Back"}) {
        model::Part part;
        part.name = name;
        const std::string x = part.name == "Front" ? "0 m" : "5 m";
        part.shape = model::StraightWire{{x, "-5.1 m", "0 m"}, {x, "5.1 m", "0 m"}};
        d.parts.push_back(part);
    }
    d.feeds.push_back({});
    d.feeds[0].part = "Front";
    model::PhasingLine line;
    line.fromPart = "Front";
    line.toPart = "Back";
    line.line = model::kCustomLine;
    line.lineOhm = "75";
    line.velocityFactor = "0.8";
    line.length = "0.5*0.8*lambda";
    line.crossed = true;
    d.lines.push_back(line);
    const auto e = model::expand(d);
    REQUIRE(e.usable());
    CHECK(e.model.taps.size() == 1);
    CHECK(e.model.places().size() == 2);
    // Written, read and solved again.
    model::Project project;
    project.designs.push_back(d);
    const auto again = io::fromJson(io::toJson(project)).designs[0];
    CHECK(again.lines[0].crossed);
    CHECK(again.lines[0].lineOhm == "75");
    const auto a = study::analyse(model::expand(again), kHz);
    const Complex sum =
        1.0 / driven(1.0).reading.feedImpedance[0] + 1.0 / driven(1.0).reading.feedImpedance[1];
    CHECK(std::abs(a.figures.impedanceOhm[0] - 1.0 / sum) < 1.0);  // copper here, none there
    const auto sentence = [](model::Design design) {
        const auto findings = model::expand(design).findings;
        return findings.empty() ? std::string() : findings.front().sentence;
    };
    d.lines[0].toPart = "Front";
    CHECK(sentence(d).find("both ends at the same place") != std::string::npos);
    d.lines[0].toPart = "Side";
    CHECK(sentence(d).find("Line is on \"Side\", which is not there") != std::string::npos);
    d.lines[0].toPart = "Back";
    d.lines[0].length = "0 m";
    CHECK(sentence(d).find("the length has to be above zero") != std::string::npos);
    d.lines[0].enabled = false;
    CHECK(model::expand(d).model.taps.empty());
}

TEST_CASE("a trap is given by frequency and reactance, or by coil and capacitor") {
    model::Design d;
    d.designFrequency = "7.1 MHz";
    model::Part part;
    part.name = "Wire";
    d.parts.push_back(part);
    d.feeds.push_back({});
    d.feeds[0].part = "Wire";
    model::Load trap;
    trap.part = "Wire";
    trap.place = {model::PlaceKind::Percent, "25"};
    trap.form = model::LoadForm::Trap;
    trap.trapFrequency = "7.1 MHz";
    trap.trapReactance = "200";
    trap.coilQ = "250";
    d.loads.push_back(trap);
    const auto& circuit = model::expand(d).model.loads.at(0).circuit;
    // At resonance a coil with loss beside its capacitor is X times Q.
    CHECK(std::abs(circuit::lumpedImpedance(circuit, 7.1e6)) == Approx(200.0 * 250.0).epsilon(1e-4));
    CHECK(*circuit.inductanceH == Approx(200.0 / (2.0 * kPi * 7.1e6)));
    d.loads[0].trapReactance = "-3";
    CHECK(model::expand(d).findings.at(0).sentence.find("trap needs a frequency and a reactance") !=
          std::string::npos);
}

TEST_CASE("changing what is connected never repeats a field solution") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    auto design = project.designs.at(2);
    REQUIRE(design.feedPath.size() == 3);
    model::Load coil;
    coil.part = design.parts[0].name;
    coil.place = {model::PlaceKind::Percent, "40"};
    coil.inductance = "3";
    design.loads.push_back(coil);
    study::FieldStore fields;
    const auto work = [&](const model::Design& d) {
        const auto e = model::expand(d);
        study::AnalysisOptions options;
        options.fields = &fields;
        const auto a = study::analyse(e, 14.15e6, options);
        const auto s = study::sweep(e, 14.0e6, 14.35e6, 41, {}, {}, &fields);
        CHECK(s.complete);
        return std::pair(a.figures.impedanceOhm[0], s.points[20].radioOhm);
    };
    const auto first = work(design);
    const int solved = fields.solutions();
    CHECK(solved >= 6);
    CHECK(work(design) == first);
    CHECK(fields.solutions() == solved);
    auto changed = design;
    changed.feedPath[0].compensation = "140";
    changed.feedPath[1].length = "31 m";
    const auto second = work(changed);
    CHECK(second.first == first.first);
    CHECK(second.second != first.second);
    CHECK(fields.solutions() == solved);
    // A load changes the current, but not the field of the ports; a new frequency may be asked for, never an
    // old one again.
    changed.loads.back().inductance = "4";
    changed.loads.back().coilQ = "200";
    CHECK(work(changed).first != first.first);
    const auto mesh = fields.mesh(model::expand(design).model, 14.35e6);
    const auto asked = fields.solvedHz(mesh);
    CHECK(std::set<double>(asked.begin(), asked.end()).size() == asked.size());
    CHECK(fields.solutions() == static_cast<int>(asked.size()) + 1);
    CHECK(fields.solutions() <= solved + 2);
    // A wire that moved is another antenna.
    changed.dimensions[0].text = "10.1 m";
    work(changed);
    CHECK(fields.solutions() >= 2 * solved - 2);
}
