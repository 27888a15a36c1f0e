// What is built beside the wires: coils, capacitors, turns, ropes and pegs, what to order, and which lengths
// are critical.
#include <catch2/catch.hpp>
#include <cmath>
#include <regex>

#include "core/build/care.h"
#include "core/build/sheet.h"
#include "core/project/project_file.h"
#include "core/study/resonance.h"
#include "core/study/varied.h"
#include "demo.h"

using namespace rm;

TEST_CASE("a coil has the turns that Wheeler's formula wants, and the stray capacitance that was measured") {
    // By hand, in inches: radius 1, length 2, 10 turns: 100/(9 + 20) = 3.448 uH.
    for (const double microhenry : {0.5, 3.448, 12.0, 80.0}) {
        const auto w = build::windingFor(1e-6 * microhenry, 7.1e6);
        const double radius = 0.5 * (w.formerM + w.wireM) / 0.0254;
        const double length = w.lengthM / 0.0254;
        CHECK(radius * radius * w.turns * w.turns / (9.0 * radius + 10.0 * length) ==
              Approx(microhenry).epsilon(1e-9));
        CHECK(w.lengthM == Approx(w.turns * w.pitchM));
        // Nearly as long as wide, on a pipe that is sold.
        CHECK(w.lengthM / w.formerM > 0.5);
        CHECK(w.lengthM / w.formerM < 2.0);
        CHECK(w.wireLengthM > kPi * w.formerM * w.turns);
        CHECK(w.q > 50.0);
        CHECK(w.q < 2000.0);
    }
    // Medhurst: 0.46 pF for a centimetre of diameter where it is as long as wide.
    build::Winding square = build::windingOn(0.05, 1e-6, 7e6);
    double low = 1e-7;
    double high = 1e-3;
    for (int i = 0; i < 200; ++i) {
        const double mid = std::sqrt(low * high);
        square = build::windingOn(0.05, mid, 7e6);
        (square.lengthM < 0.0515 ? low : high) = mid;
    }
    const double farad = 1.0 / (std::pow(2.0 * kPi * square.resonanceHz, 2) * square.inductanceH);
    CHECK(farad == Approx(0.46e-12 * 5.15).epsilon(0.01));
}

TEST_CASE("capacitors are those that are sold") {
    CHECK(build::nearestE24(100.0) == Approx(100.0));
    CHECK(build::nearestE24(97.0) == Approx(100.0));
    CHECK(build::nearestE24(46.0) == Approx(47.0));
    CHECK(build::nearestE24(0.0123) == Approx(0.012));
    CHECK(build::nearestE24(9.6e5) == Approx(1e6));
    // None is further off than half the widest step of the series, from 13 to 15.
    const double half = 0.5 * std::log(1.5 / 1.3) + 1e-9;
    for (double c = 1.0; c < 1000.0; c *= 1.013) CHECK(std::abs(std::log(build::nearestE24(c) / c)) < half);
}

TEST_CASE("transformers are whole turns, lines have their lengths and degrees") {
    auto d = test::demoDesign("End-fed, sloper");
    const auto turnsOf = [&](const char* ratio) {
        d.feedPath[0].ratio = ratio;
        const auto sheet = build::buildSheet(d);
        REQUIRE(sheet.fittings.transformers.size() == 1);
        const auto& t = sheet.fittings.transformers[0];
        return std::pair{t.antennaTurns, t.radioTurns};
    };
    CHECK(turnsOf("49:1") == std::pair{7, 1});
    CHECK(turnsOf("4:1") == std::pair{2, 1});
    CHECK(turnsOf("2.25:1") == std::pair{3, 2});
    CHECK(turnsOf("1:4") == std::pair{1, 2});
    CHECK(turnsOf("1:1") == std::pair{1, 1});
    const auto sheet = build::buildSheet(test::demoDesign("Delta loop, 17 m, fed in the middle"));
    REQUIRE(sheet.fittings.lines.size() == 2);
    CHECK(sheet.fittings.lines[0].use == "quarter wave");
    CHECK(sheet.fittings.lines[0].degrees == Approx(90.0).epsilon(0.03));
    for (const auto& line : sheet.fittings.lines) CHECK_FALSE(line.kind.empty());
}

TEST_CASE("chokes of the feed path are ordered, with what they are to do") {
    auto d = test::demoDesign("End-fed, sloper");
    const auto ordered = [&] {
        std::vector<build::OrderRow> rows;
        for (const auto& row : build::orderFor(build::buildSheet(d)))
            if (row.what.starts_with("choke")) rows.push_back(row);
        return rows;
    };
    auto* choke = std::find_if(d.feedPath.data(), d.feedPath.data() + d.feedPath.size(),
                               [](const auto& b) { return b.kind == model::BlockKind::Choke; });
    REQUIRE(ordered().size() == 1);
    choke->name = "At the rig";
    choke->choking = "3000";
    choke->loss = "0.15";
    REQUIRE(ordered().size() == 1);
    CHECK(ordered()[0].what == "choke of 3000 Ω, At the rig");
    CHECK(ordered()[0].quantity == "1");
    CHECK(ordered()[0].why.find("0.15 dB") != std::string::npos);
    choke->enabled = false;
    CHECK(ordered().empty());
}

TEST_CASE("wire and rope of every span together are the way from tie to tie") {
    auto d = test::demoDesign("Dipole to the hedge, 30 m");
    for (const char* sag : {"", "3 %"}) {
        auto& hung = std::get<model::HungWire>(d.parts[0].shape);
        hung.sag = sag;
        if (*sag != '\0') hung.pull.clear();
        const auto sheet = build::buildSheet(d);
        REQUIRE(sheet.rigging.hung.size() == 1);
        const auto& row = sheet.rigging.hung[0];
        CHECK(row.wireM == Approx(14.36).epsilon(1e-9));
        CHECK(row.wireM + row.ropeM > std::hypot(19.0, 16.0));
        CHECK(row.wireM + row.ropeM < 1.01 * std::hypot(19.0, 16.0, 4.5));
        CHECK(row.bearingDeg == Approx(std::atan2(19.0, 16.0) / kDegree).epsilon(1e-9));
        CHECK(row.fromUpM == Approx(12.0));
        CHECK(row.toUpM == Approx(7.5));
        CHECK(row.middleUpM < 9.75);
        CHECK(row.middleUpM > 8.8);
        // What is ordered is enough.
        for (const auto& order : build::orderFor(sheet))
            if (order.what == "rope") CHECK(std::stod(order.quantity) >= row.ropeM + 2.0);
    }
}

TEST_CASE("pegs are told by bearing and distance, radials from their foot") {
    auto d = test::demoDesign("Vertical on radials, 60 m");
    model::Support peg;
    peg.name = "Guy peg";
    peg.kind = model::SupportKind::Peg;
    peg.east = "-3 m";
    peg.north = "4 m";
    peg.height = "0.2 m";
    d.site.supports = {peg};
    const auto sheet = build::buildSheet(d);
    REQUIRE(sheet.rigging.pegs.size() == 17);
    CHECK(sheet.rigging.pegs[0].distanceM == Approx(5.0));
    CHECK(sheet.rigging.pegs[0].bearingDeg == Approx(360.0 - std::atan2(3.0, 4.0) / kDegree));
    std::vector<double> bearings;
    for (std::size_t i = 1; i < sheet.rigging.pegs.size(); ++i) {
        CHECK(sheet.rigging.pegs[i].distanceM == Approx(10.0));
        CHECK(sheet.rigging.pegs[i].upM < 0.0);
        bearings.push_back(sheet.rigging.pegs[i].bearingDeg);
    }
    std::sort(bearings.begin(), bearings.end());
    for (std::size_t i = 1; i < bearings.size(); ++i)
        CHECK(bearings[i] - bearings[i - 1] == Approx(22.5).epsilon(1e-6));
}

TEST_CASE("what to order covers what is cut, for every design of the demo") {
    for (const auto& d : io::readProject(RM_SOURCE_DIR "/demo/heron_point.json").designs) {
        INFO(d.name);
        const auto sheet = build::buildSheet(d);
        for (const auto& total : sheet.list.totals) {
            INFO(total.conductor);
            const auto rows = build::orderFor(sheet);
            const auto row = std::find_if(rows.begin(), rows.end(),
                                          [&](const auto& o) { return o.what == total.conductor; });
            REQUIRE(row != rows.end());
            if (total.wire) CHECK(std::stod(row->quantity) >= total.cutM);
            // In feet as much, and no word in metres.
            const auto feet = build::orderFor(sheet, quantity::LengthStyle::FeetInches);
            const auto& same = feet.at(static_cast<std::size_t>(row - rows.begin()));
            CHECK(same.what == row->what);
            if (total.wire) CHECK(0.3048 * std::stod(same.quantity) >= total.cutM);
            for (const auto& o : feet)
                for (const std::string& words : {o.what, o.quantity, o.why}) {
                    INFO(words);
                    CHECK_FALSE(std::regex_search(words, std::regex(R"(\d m\b|metre)")));
                }
        }
    }
}

TEST_CASE("wires that meet where one of them has a number of its own are weighed all the same") {
    // Its counterpoise begins at a number that cannot change by itself.
    const auto d = test::demoDesign("End-fed, sloper");
    const auto pieces = build::cutList(d).pieces;
    const auto care = build::careOf(d, 10.125e6);
    REQUIRE(care.size() == pieces.size());
    for (const auto& one : care) {
        CHECK(one.known);
        CHECK(one.swrPerMm > 0.0);
        CHECK(one.keepToM < build::kFreeM);
    }
}

TEST_CASE("a mast beside a Yagi forgives whatever it is cut to") {
    const auto d = test::demoDesign("Two Yagis stacked, 70 MHz");
    const auto pieces = build::cutList(d).pieces;
    const auto care = build::careOf(d, 70.2e6);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        INFO(pieces[i].part);
        if (pieces[i].part == "Lattice mast") {
            CHECK(care[i].keepToM == build::kFreeM);
        } else {
            CHECK(care[i].keepToM < 0.02);
        }
    }
}

TEST_CASE("a piece that is off by what it is to be kept to is just noticed, at the best length, too") {
    struct Case {
        const char* design;
        const char* dimension;
        double hz;
    };
    // The vertical is as long as suits it best: to first order a millimetre does nothing to its SWR.
    for (const Case& one :
         {Case{"Inverted V, 60 m", "leg", 5.36e6}, Case{"Vertical on radials, 60 m", "mast", 5.36e6},
          Case{"Yagi, 70 MHz", "d2", 70.2e6}}) {
        INFO(one.design);
        const auto d = test::demoDesign(one.design);
        const auto pieces = build::cutList(d).pieces;
        const auto care = build::careOf(d, one.hz);
        const double value = model::scopeOf(d).values.at(one.dimension);
        const auto longer = build::cutList(study::withDimension(d, one.dimension, value + 1e-3)).pieces;
        std::size_t piece = 0;
        while (std::abs(longer[piece].modelledM - pieces[piece].modelledM) < 1e-4) ++piece;
        const double by = (longer[piece].modelledM - pieces[piece].modelledM) / 1e-3;
        REQUIRE(care[piece].known);
        CHECK(care[piece].keepToM < 0.3);
        const auto figures = [&](double metres) {
            return study::analyse(model::expand(study::withDimension(d, one.dimension, metres)), one.hz)
                .figures;
        };
        const auto here = figures(value);
        double most = 0.0;
        for (const double side : {-1.0, 1.0}) {
            const auto there = figures(value + side * care[piece].keepToM / by);
            most = std::max({most, std::abs(there.swr - here.swr) / 0.05,
                             std::abs(there.peak.gainDbi - here.peak.gainDbi) / 0.1,
                             std::abs(there.frontToRearDb - here.frontToRearDb)});
        }
        CHECK(most == Approx(1.0).margin(0.12));
    }
}

TEST_CASE("what a millimetre does to a piece is what it does when the dimension behind it grows by one") {
    const auto d = test::demoDesign("Inverted V, 60 m");
    const double hz = 5.36e6;
    const auto care = build::careOf(d, hz);
    REQUIRE(care.size() == build::cutList(d).pieces.size());
    const auto resonance = [&](const model::Design& design) {
        return study::findResonance(model::expand(design), hz)->frequencyHz;
    };
    const double leg = model::scopeOf(d).values.at("leg");
    const double moved = (resonance(study::withDimension(d, "leg", leg - 0.01)) -
                          resonance(study::withDimension(d, "leg", leg + 0.01))) /
                         20.0;
    CHECK(care[0].hzPerMm == Approx(moved).epsilon(0.02));
    CHECK(care[0].keepToM > 0.0);
    // A long wire forgives more than an element of a Yagi for 70 MHz.
    const auto yagi = test::demoDesign("Yagi, 70 MHz");
    const auto fine = build::careOf(yagi, 70.2e6);
    const auto pieces = build::cutList(yagi).pieces;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (pieces[i].part == "Yagi, driven") CHECK(fine[i].swrPerMm > 10.0 * care[0].swrPerMm);
}
