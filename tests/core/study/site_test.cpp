// The site: soils, insulation, radials, and the studies of height and ground.
#include <catch2/catch.hpp>
#include <cmath>
#include <mutex>

#include "antennas.h"
#include "core/model/soils.h"
#include "core/project/project_file.h"
#include "core/study/resonance.h"
#include "core/study/site_study.h"

using namespace rm;
using namespace rm::test;
using model::Design;
using model::GroundKind;

namespace {

/// A dipole for 14.15 MHz at the height of the site.
Design dipoleDesign(const std::string& height = "10 m") {
    Design d;
    d.name = "Dipole";
    model::Part part;
    part.name = "Wire";
    part.shape = model::StraightWire{{"0 m", "-5.05 m", "0 m"}, {"0 m", "5.05 m", "0 m"}};
    d.parts.push_back(part);
    model::Feed feed;
    feed.part = "Wire";
    d.feeds.push_back(feed);
    d.site.ground = GroundKind::Real;
    d.site.height = height;
    return d;
}

bool says(const std::vector<model::Finding>& findings, const std::string& words) {
    for (const auto& f : findings)
        if ((f.sentence + " " + f.mend).find(words) != std::string::npos) return true;
    return false;
}

}  // namespace

TEST_CASE("soils: known constants, and water that relaxes") {
    for (const auto& soil : model::soils()) {
        INFO(soil.id);
        CHECK(model::findSoil(soil.id) == &soil);
        CHECK_FALSE(soil.source.empty());
        const Complex low = model::permittivityAt(model::groundOf(soil), 1.8e6);
        CHECK(low.real() == Approx(soil.relativePermittivity).epsilon(0.001));
        CHECK(low.imag() == Approx(-soil.conductivitySm / (2.0 * kPi * 1.8e6 * kEps0)).epsilon(0.2));
    }
    CHECK(model::findSoil("cheese") == nullptr);
    // Relaxation of water: at 450 MHz it adds eps'' = (eps_s - eps_inf) f/fr to the loss of the conductivity.
    const auto fresh = model::groundOf(*model::findSoil("fresh water"));
    const double loss = -model::permittivityAt(fresh, 450e6).imag();
    const double conduction = 0.003 / (2.0 * kPi * 450e6 * kEps0);
    CHECK(loss - conduction == Approx(80.0 * (1.0 - 0.0671) * 450e6 / 17.0e9).epsilon(0.01));
}

TEST_CASE("the site's ground reaches the engine, and wrong constants are named") {
    auto d = dipoleDesign();
    d.site.soil = "wet loam";
    CHECK(expand(d).model.ground.relativePermittivity == 30.0);
    d.site.soil = model::kCustomSoil;
    d.site.permittivity = "20";
    d.site.conductivity = "0.02";
    const auto e = expand(d);
    CHECK(e.model.ground.relativePermittivity == 20.0);
    CHECK(e.model.ground.conductivitySm == 0.02);
    d.site.permittivity = "0.5";
    CHECK(says(expand(d).findings, "permittivity of the ground"));
    d.site.permittivity = "20";
    d.site.conductivity = "-1";
    CHECK(says(expand(d).findings, "conductivity of the ground"));
    d.site.soil = "cheese";
    CHECK(says(expand(d).findings, "\"cheese\" is not a known kind of ground"));
}

TEST_CASE("the site and the insulation survive the file") {
    model::Project project;
    auto d = dipoleDesign();
    d.site.soil = model::kCustomSoil;
    d.site.permittivity = "21";
    d.site.conductivity = "0.03";
    d.parts[0].conductor.coat = "0.8 mm";
    d.parts[0].conductor.coatPermittivity = "3.2";
    project.designs.push_back(d);
    const auto back = io::fromJson(io::toJson(project));
    const auto& site = back.designs[0].site;
    CHECK(site.ground == GroundKind::Real);
    CHECK(site.soil == model::kCustomSoil);
    CHECK(site.permittivity == "21");
    CHECK(site.conductivity == "0.03");
    CHECK(back.designs[0].parts[0].conductor.coat == "0.8 mm");
    CHECK(back.designs[0].parts[0].conductor.coatPermittivity == "3.2");
}

TEST_CASE("wires that lie on real ground or in it are worked out, and where they were taken to be is said") {
    const auto lying = expand(dipoleDesign("2 mm"));
    CHECK(says(lying.findings, "lies on the ground: it is worked out 2.5 mm above it"));
    CHECK(lying.model.wires.front().startM.z() == Approx(0.0025));
    CHECK(says(expand(dipoleDesign("0 m")).findings, "lies on the ground"));
    // Nearly everything goes into the soil, more of it the closer the wire is.
    double share = 0.0;
    for (const char* height : {"5 cm", "0 m", "-20 cm"}) {
        const auto figures = study::analyse(expand(dipoleDesign(height)), 14.15e6).figures;
        INFO(height << " " << figures.groundShare);
        CHECK(figures.groundShare > std::max(share, 0.8));
        CHECK(figures.groundShare < 1.0);
        share = figures.groundShare;
    }
}

TEST_CASE("close to the ground the default mesh agrees with a fine one") {
    em::MeshOptions fine;
    fine.fixedOrder = 6;
    fine.maxSpanWavelengths = 0.05;
    fine.growth = 5.0;
    for (const double radius : {0.001, 0.01})
        for (const double heights : {2.5, 8.0, 30.0, 100.0}) {
            const double h = heights * radius;
            model::WireModel upright;
            upright.wires.push_back(wire({0, 0, h}, {0, 0, h + 20}, radius));
            addFeed(upright, 0, 0.5);
            model::WireModel slope;
            slope.wires.push_back(wire({0, 0, h}, {0, 17, h + 10}, radius));
            addFeed(slope, 0, 0.3);
            for (auto m : {overGround(dipole(20, radius), h), upright, slope, verticalWithRadials(4, h)}) {
                m.ground = averageGround();
                const Complex expected = solve(m, 7.1e6, fine).z();
                INFO("radius " << radius << " height " << heights << " radii, " << m.wires.size()
                               << " wires");
                CHECK(std::abs(solve(m, 7.1e6).z() - expected) < 0.0025 * std::abs(expected));
            }
        }
}

TEST_CASE("a PVC coat makes a wire a few percent longer electrically") {
    auto d = dipoleDesign("20 m");
    d.site.ground = GroundKind::FreeSpace;
    d.parts[0].conductor.diameter = "1.6 mm";
    const auto bare = study::findResonance(expand(d), 14e6);
    d.parts[0].conductor.coat = "0.8 mm";
    d.parts[0].conductor.coatPermittivity = "3";
    const auto coated = study::findResonance(expand(d), 14e6);
    REQUIRE((bare && coated));
    const double ratio = coated->frequencyHz / bare->frequencyHz;
    CHECK(ratio < 0.98);
    CHECK(ratio > 0.95);
    // Thin, it does next to nothing; of air, nothing.
    d.parts[0].conductor.coatPermittivity = "1";
    CHECK(study::findResonance(expand(d), 14e6)->frequencyHz == Approx(bare->frequencyHz).epsilon(1e-9));
    d.parts[0].conductor.coatPermittivity = "40";
    CHECK(says(expand(d).findings, "permittivity of the insulation"));
    // The line constants of the coat: L' C' of the coated wire against the bare one with the same outer
    // distance.
    const double a = 0.8e-3;
    const double equivalent = em::coatedRadiusM(a, 0.8e-3, 3.0);
    CHECK(equivalent > a);
    CHECK(equivalent < 2.0 * a);
    CHECK(em::coatInductancePerM(a, 0.8e-3, 3.0) == Approx(kMu0 / (2.0 * kPi) * std::log(equivalent / a)));
}

TEST_CASE("more radials close to the ground: more gain, less resistance") {
    double lastGain = -100.0;
    double lastResistance = 1e9;
    for (const int n : {4, 8, 16, 32, 64}) {
        const auto s = solve(verticalWithRadials(n, 0.05), 7.1e6);
        INFO(n << " radials: " << s.z() << ", " << s.gain(20.0, 0.0) << " dBi");
        CHECK(s.gain(20.0, 0.0) > lastGain);
        CHECK(s.z().real() < lastResistance);
        lastGain = s.gain(20.0, 0.0);
        lastResistance = s.z().real();
    }
}

TEST_CASE("height study: from near the ground to two wavelengths, the same as one by one") {
    const auto d = dipoleDesign();
    std::mutex telling;
    double share = 0.0;
    const auto study = study::studyHeights(d, 14.15e6, {}, 24, {}, [&](double s) {
        const std::scoped_lock lock(telling);
        share = std::max(share, s);
    });
    REQUIRE(study.complete);
    REQUIRE(study.points.size() == 24);
    CHECK(share == Approx(1.0));
    CHECK(study.nowFeedHeightM == Approx(10.0));
    const double lambda = wavelengthM(14.15e6);
    CHECK(study.points.front().feedHeightM == Approx(0.01 * lambda));
    CHECK(study.points.back().feedHeightM == Approx(2.0 * lambda));
    for (std::size_t i = 1; i < study.points.size(); ++i)
        CHECK(study.points[i].feedHeightM > study.points[i - 1].feedHeightM);
    const auto& p = study.points[15];
    auto one = d;
    one.site.height = std::to_string(p.siteHeightM) + " m";
    const auto a = study::analyse(expand(one), 14.15e6);
    CHECK(std::abs(p.impedanceOhm - a.figures.impedanceOhm.front()) < 1e-3);
    CHECK(p.peak.gainDbi == Approx(a.figures.peak.gainDbi).margin(0.01));
    CHECK(p.groundShare == Approx(a.figures.groundShare).margin(1e-3));
    CHECK(p.watchGainDbi[3] ==
          Approx(em::gainDbi(em::farField(*a.mesh, a.reading.localCurrent, 14.15e6, {{30.0, 0.0}}).front(),
                             a.reading.inputPowerW))
              .margin(1e-3));
    // High up the main lobe comes down, and near the ground most power heats the soil.
    CHECK(study.points.back().peak.direction.elevationDeg < 12.0);
    CHECK(study.points.front().groundShare > study.points.back().groundShare);

    std::stop_source stop;
    stop.request_stop();
    CHECK_FALSE(study::studyHeights(d, 14.15e6, {}, 24, stop.get_token()).complete);
    auto free = d;
    free.site.ground = GroundKind::FreeSpace;
    CHECK_THROWS_AS(study::studyHeights(free, 14.15e6, {}), Error);
}

TEST_CASE("ground study: every soil, the better the ground the more goes to the sky") {
    const study::Look look{0.0, {3.0, 8.0, 20.0, 40.0}};
    const auto [used, points] = study::studyGrounds(dipoleDesign("6 m"), 14.15e6, look);
    CHECK(used.watchDeg == look.watchDeg);
    REQUIRE(points.size() == model::soils().size());
    CHECK(points.front().soil == "salt water");
    CHECK(points.front().groundShare < 0.05);
    for (const auto& p : points) CHECK(p.groundShare >= points.front().groundShare);
    // The gains are those at the angles of the look: below its lobe a low dipole is stronger the higher one
    // looks.
    for (const auto& p : points)
        for (std::size_t a = 1; a < 4; ++a) CHECK(p.watchGainDbi[a] > p.watchGainDbi[a - 1]);
    auto custom = dipoleDesign("6 m");
    custom.site.soil = model::kCustomSoil;
    CHECK(study::studyGrounds(custom, 14.15e6, {}).points.size() == model::soils().size() + 1);
}
