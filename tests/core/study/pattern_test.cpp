// The whole pattern on a grid, its files, currents along parts, and parts that nobody feeds.
#include <catch2/catch.hpp>
#include <sstream>

#include "antennas.h"
#include "core/export/pattern_files.h"
#include "core/project/project_file.h"
#include "core/study/currents.h"
#include "core/study/lobe_grid.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("the grid holds the gains of the cuts, and its mean over the sphere is the power") {
    const double f = 50.1e6;
    const auto e = wrapped(yagi(), f);
    const auto a = study::analyse(e, f);
    const auto grid = study::lobeGrid(*a.mesh, a.reading, 2.0);
    CHECK(grid.rows == 91);
    CHECK(grid.columns == 180);
    CHECK(grid.at(45, 0) == Approx(a.azimuth.at(0.0)).margin(1e-9));
    double sum = 0.0;
    double weight = 0.0;
    for (int r = 0; r < grid.rows; ++r)
        for (int c = 0; c < grid.columns; ++c) {
            const double w = std::cos(grid.elevationDeg(r) * kDegree);
            sum += w * std::pow(10.0, 0.1 * grid.at(r, c));
            weight += w;
        }
    CHECK(sum / weight == Approx(1.0).epsilon(1e-3));
    // Horizontal and vertical parts make up the whole, so do the two circular ones.
    const auto part = [&](study::Component component) {
        return std::pow(10.0, 0.1 * study::lobeGrid(*a.mesh, a.reading, 10.0, component).at(12, 5));
    };
    const double whole = part(study::Component::Total);
    CHECK(part(study::Component::Horizontal) + part(study::Component::Vertical) == Approx(whole));
    CHECK(part(study::Component::RightCircular) + part(study::Component::LeftCircular) == Approx(whole));
}

TEST_CASE("crossed dipoles a quarter of a turn apart are right circular ahead and left circular behind") {
    const double f = 50e6;
    auto m = dipole(2.85, 0.001);
    m.wires.push_back(wire({0.02, 0, -1.425}, {0.02, 0, 1.425}, 0.001));
    addFeed(m, 1, 0.5, Complex(0.0, 1.0));
    study::AnalysisOptions options;
    options.bearingAzimuthDeg = 0.0;
    options.component = study::Component::RightCircular;
    const auto right = study::analyse(wrapped(m, f), f, options);
    options.component = study::Component::LeftCircular;
    const auto left = study::analyse(wrapped(m, f), f, options);
    const double ahead = right.elevation.at(0.0) - left.elevation.at(0.0);
    const double behind = right.elevation.at(180.0) - left.elevation.at(180.0);
    CHECK(std::abs(ahead) > 20.0);
    CHECK(ahead * behind < 0.0);
    // Along +x the field turns from y to -z, anticlockwise for somebody who looks after the wave: left-hand.
    CHECK(ahead < 0.0);
}

TEST_CASE("patterns are written with compass bearings, and the mesh is closed round") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    const auto e = model::expand(project.designs.at(6));
    const auto a = study::analyse(e, 70.2e6);
    const auto grid = study::lobeGrid(*a.mesh, a.reading, 10.0);
    REQUIRE(grid.rows == 10);
    std::istringstream csv(io::sphereCsv(grid, e.headingDeg));
    std::string line;
    std::getline(csv, line);
    CHECK(line == "elevation_deg,bearing_deg,gain_dBi");
    int count = 0;
    double best = -99.0;
    std::string bestLine;
    while (std::getline(csv, line)) {
        ++count;
        const double gain = std::stod(line.substr(line.rfind(',') + 1));
        if (gain > best) bestLine = line;
        best = std::max(best, gain);
    }
    CHECK(count == grid.rows * grid.columns);
    CHECK(bestLine.find(",120.00,") != std::string::npos);  // the front of the demo's Yagi
    CHECK(io::cutsCsv(a, e.headingDeg).find("elevation,90.00,") != std::string::npos);
    std::istringstream obj(io::lobeObj(e, grid, 3.0));
    int vertices = 0;
    int faces = 0;
    int wires = 0;
    while (std::getline(obj, line)) {
        vertices += line.rfind("v ", 0) == 0;
        faces += line.rfind("f ", 0) == 0;
        wires += line.rfind("l ", 0) == 0;
    }
    CHECK(wires == 8);
    CHECK(vertices == 16 + grid.rows * grid.columns);
    CHECK(faces == (grid.rows - 1) * grid.columns);
}

TEST_CASE("the current along a part: a sine on a half wave, largest in the middle, none at the ends") {
    const double f = 14.1e6;
    const auto e = wrapped(dipole(0.48 * wavelengthM(f), 1e-4), f);
    const auto a = study::analyse(e, f);
    const auto points = study::currentAlong(e, a, "Dipole");
    REQUIRE(points.size() > 20);
    double largest = 0.0;
    double where = 0.0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (i > 0) CHECK(points[i].alongM >= points[i - 1].alongM - 1e-9);
        if (std::abs(points[i].ampere) > largest) where = points[i].alongM;
        largest = std::max(largest, std::abs(points[i].ampere));
    }
    const double length = 0.48 * wavelengthM(f);
    CHECK(points.back().alongM == Approx(length));
    CHECK(where == Approx(0.5 * length).margin(0.03 * length));
    CHECK(std::abs(points.front().ampere) < 0.02 * largest);
    for (const auto& p : points) {
        const double sine = std::sin(wavenumber(f) * std::min(p.alongM, length - p.alongM)) /
                            std::sin(0.5 * wavenumber(f) * length);
        CHECK(std::abs(std::abs(p.ampere) / largest - sine) < 0.05);
    }
    CHECK(study::currentAlong(e, a, "Nothing").empty());
}

TEST_CASE("a mast beside a vertical is named with what it carries and costs; a director brings gain") {
    const double f = 7.1e6;
    model::WireModel m;
    m.ground.kind = model::GroundKind::Perfect;
    m.wires.push_back(wire({0, 0, 0}, {0, 0, 10.1}, 0.002, "Vertical"));
    m.wires.push_back(wire({6, 0, 0}, {6, 0, 10.4}, 0.1, "Mast"));
    m.wires.push_back(wire({0, 80, 3}, {0.5, 80, 3}, 0.001, "Twig"));
    addFeed(m, 0, 0.0);
    auto e = wrapped(m, f);
    const auto a = study::analyse(e, f);
    const auto found = study::bystanders(e, a, 5);
    REQUIRE(found.size() == 1);
    CHECK(found[0].part == "Mast");
    CHECK(found[0].share > 0.3);
    // The same by hand.
    m.wires.erase(m.wires.begin() + 1);
    const auto alone = solve(m, f);
    const auto& d = a.figures.peak.direction;
    CHECK(found[0].costDb ==
          Approx(alone.gain(d.elevationDeg, d.azimuthDeg) - a.figures.peak.gainDbi).margin(0.01));
    CHECK(found[0].sentence().find("Mast carries") == 0);
    const auto y = wrapped(yagi(), 50.1e6);
    auto named = y;
    for (std::size_t i = 0; i < named.model.wires.size(); ++i)
        named.model.wires[i].part = "E" + std::to_string(i);
    const auto elements = study::bystanders(named, study::analyse(named, 50.1e6), 5);
    REQUIRE(elements.size() == 4);
    for (const auto& element : elements) CHECK(element.costDb < 0.0);
    CHECK(elements[0].sentence().find("brings") != std::string::npos);
}
