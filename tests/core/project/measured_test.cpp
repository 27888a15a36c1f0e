// Measurements: every way an analyser writes a table, every way to be wrong, and moving the plane.
#include <catch2/catch.hpp>
#include <fstream>

#include "core/project/measured_file.h"
#include "core/project/project_file.h"
#include "core/study/measured_curve.h"

using namespace rm;

namespace {

void holds100(const std::string& text) {
    INFO(text);
    const auto data = io::parseMeasuredCsv(text, "file.csv");
    REQUIRE(data.points.size() == 2);
    CHECK(data.points[0].frequencyHz == Approx(7.0e6));
    CHECK(data.points[1].frequencyHz == Approx(7.2e6));
    REQUIRE(data.points[0].impedanceOhm);
    CHECK(std::abs(*data.points[0].impedanceOhm - Complex(100.0, 0.0)) < 1e-3);
    CHECK(std::abs(*data.points[1].impedanceOhm - Complex(0.0, -50.0)) < 1e-3);
    CHECK(data.points[0].swr == Approx(2.0).epsilon(1e-4));
}

std::string refusedTable(const std::string& text) {
    try {
        io::parseMeasuredCsv(text, "file.csv");
    } catch (const Error& e) {
        return e.what();
    }
    return "accepted";
}

}  // namespace

TEST_CASE("the same measurement in every kind of table") {
    holds100("MHz,R,X\n7.0,100,0\n7.2,0,-50\n");
    holds100("7.0 100 0\n7.2 0 -50\n");
    holds100("7,0 100,0 0,0\n7,2 0,0 -50,0\n");
    holds100("# made up\nFrequency (Hz);Rs;Xs;Notes\n7.000.000,0;100,0;0;a\n7.200.000,0;0;-50,0;b\n");
    holds100("Freq(kHz)\tResistance\tReactance\n7000\t100\t0\n7200\t0\t-50\n");
    holds100("\"Frequency [Hz]\",\"SWR\",\"|Z|\",\"Phase(Z)\"\n7000000,2,100,0\n7200000,99,50,-90\n");
    holds100("f MHz,Return loss dB,Phase deg\n7,9.5424251,0\n7.2,0,-90\n");
    holds100("freq,s11 dB,s11 phase\n7000000,-9.5424251,0\n7200000,0,-90\n");
    holds100("Frequency,S11 real,S11 imag\n7000,0.33333333,0\n7200,0,-1\n");
    holds100("A line about the instrument\nFrequency MHz, R ohm, X ohm\n7.2,0,-50\n\n7.0,100,0\n");
}

TEST_CASE("an analyser that knows the SWR only") {
    const auto data = io::parseMeasuredCsv("MHz;SWR\n7,05;1,52\n7,1;1,2\n", "file.csv");
    REQUIRE(data.points.size() == 2);
    CHECK(data.points[0].frequencyHz == Approx(7.05e6));
    CHECK(data.points[0].swr == Approx(1.52));
    CHECK_FALSE(data.points[0].impedanceOhm);
    CHECK(io::parseMeasuredCsv("MHz,RL\n7,9.5424251\n", "f").points[0].swr == Approx(2.0));
}

TEST_CASE("what is malformed is said with its line") {
    CHECK(refusedTable("MHz,R,X\n7.0,100,0\n7.2,abc,1\n") == "file.csv, line 3: \"abc\" is not a number.");
    CHECK(refusedTable("MHz,R,X\n7.0,100\n").find("line 2: 2 columns where 3 are expected") !=
          std::string::npos);
    CHECK(refusedTable("MHz,R,X\n0,100,0\n").find("line 2: the frequency") != std::string::npos);
    CHECK(refusedTable("MHz,SWR\n7,0.5\n").find("line 2: an SWR of 0.5 is below 1") != std::string::npos);
    CHECK(refusedTable("MHz,temperature\n7,20\n").find("line 1: beside the frequency it needs") !=
          std::string::npos);
    CHECK(refusedTable("1,2,3,4\n").find("line 1: 4 columns without titles") != std::string::npos);
    CHECK(refusedTable("").find("no line of numbers") != std::string::npos);
    CHECK(refusedTable("MHz,R,X\n").find("no measured points") != std::string::npos);
    CHECK_THROWS_WITH(io::readMeasured("/nowhere/file.s1p"), Catch::Contains("cannot be opened"));
}

TEST_CASE("the plane of a measurement moves through the feed path and through a lead") {
    auto design = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json").designs.at(2);
    design.measured.clear();
    const auto plain = model::expand(design);
    const auto sweep = study::sweep(plain, 14.0e6, 14.35e6, 21);
    // Measured at the radio through a test lead of 3 m: what the analyser reads.
    const model::Cable lead{model::findLine("coax 75")->kind, 3.0};
    model::Measured m;
    m.name = "Made up";
    for (const auto& p : sweep.points)
        m.data.points.push_back(
            {p.frequencyHz, circuit::twoPort(lead, p.frequencyHz).impedanceInto(p.radioOhm), 1.0});
    m.hasLead = true;
    m.lead.kind = model::BlockKind::Cable;
    m.lead.line = "coax 75";
    m.lead.length = "3 m";
    design.measured.push_back(m);
    auto e = model::expand(design);
    REQUIRE(e.findings.empty());
    const auto compare = [&](study::Plane plane) {
        const auto points = study::measuredAt(design, e, 0, plane);
        REQUIRE(points.size() == 21);
        double worst = 0.0;
        for (const auto& d : study::differences(points, sweep, plane, {14.0e6, 14.1e6, 14.35e6, 15e6}))
            worst = std::max(worst, d.reflection.value());
        CHECK(study::differences(points, sweep, plane, {14.0e6, 14.1e6, 14.35e6, 15e6}).size() == 3);
        return worst;
    };
    CHECK(compare(study::Plane::Radio) < 1e-6);
    CHECK(compare(study::Plane::Antenna) < 1e-6);
    // Said to be taken at the antenna, the same figures mean something else.
    design.measured[0].atAntenna = true;
    e = model::expand(design);
    CHECK(compare(study::Plane::Antenna) > 0.1);
    // An SWR alone stays where it was taken.
    design.measured[0].hasLead = false;
    for (auto& p : design.measured[0].data.points) p.impedanceOhm.reset();
    e = model::expand(design);
    CHECK(study::measuredAt(design, e, 0, study::Plane::Antenna).size() == 21);
    CHECK(study::measuredAt(design, e, 0, study::Plane::Radio).empty());
    // Kept in the project file.
    design.measured[0].data.points[0].impedanceOhm = Complex(12.5, -3.25);
    model::Project project;
    project.designs.push_back(design);
    const auto again = io::fromJson(io::toJson(project)).designs[0].measured.at(0);
    REQUIRE(again.data.points.size() == 21);
    CHECK(again.data.points[0].impedanceOhm == Complex(12.5, -3.25));
    CHECK(again.data.points[1] == design.measured[0].data.points[1]);
    CHECK(again.atAntenna);
}

TEST_CASE("a sweep is read between its points") {
    study::Sweep s;
    s.points.push_back({1e6, {Complex(40, -20)}, Complex(40, -20), Complex(40, -20), 1.0});
    s.points.push_back({2e6, {Complex(60, 20)}, Complex(60, 20), Complex(60, 20), 1.0});
    CHECK(s.at(1.25e6).impedanceOhm[0] == Complex(45, -10));
    CHECK(s.at(9e6).impedanceOhm[0] == Complex(60, 20));
    REQUIRE(s.resonancesHz().size() == 1);
    CHECK(s.resonancesHz()[0] == Approx(1.5e6));
    CHECK_THROWS_AS(study::Sweep{}.at(1e6), Error);
}
