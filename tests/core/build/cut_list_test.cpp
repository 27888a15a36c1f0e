// From antennas to the pieces that are cut for them, and out of which stock.
#include <algorithm>
#include <catch2/catch.hpp>
#include <numeric>
#include <random>

#include "core/build/sheet.h"
#include "core/common.h"
#include "core/project/project_file.h"
#include "core/quantity/format.h"
#include "demo.h"

using namespace rm;
using namespace rm::model;

namespace {

Part partOf(const std::string& name, const Shape& shape, const std::string& diameter = "2 mm") {
    Part part;
    part.name = name;
    part.conductor.diameter = diameter;
    part.shape = shape;
    return part;
}

Design designOf(const Part& part, PlaceKind kind, const std::string& value = "") {
    Design d;
    d.parts = {part};
    Feed feed;
    feed.part = part.name;
    feed.place.kind = kind;
    feed.place.value = value;
    d.feeds = {feed};
    return d;
}

double sumOf(const build::CutList& list) {
    double sum = 0.0;
    for (const auto& p : list.pieces) sum += p.count * p.modelledM;
    return sum;
}

}  // namespace

TEST_CASE("a feed cuts a wire in two; its ends are folded back") {
    const auto list = build::cutList(designOf(
        partOf("Dipole", StraightWire{{"0", "-5 m", "8 m"}, {"0", "5 m", "8 m"}}), PlaceKind::Middle));
    REQUIRE(list.pieces.size() == 1);
    CHECK(list.pieces[0].count == 2);
    CHECK(list.pieces[0].modelledM == Approx(5.0));
    CHECK(list.pieces[0].cutM == Approx(5.0 + 0.15 + 0.05));
    CHECK(list.pieces[0].added == "15 cm at the free end, 5 cm at the joint");
    CHECK(list.pieces[0].conductor == "copper 2 mm");
    REQUIRE(list.totals.size() == 1);
    CHECK(list.totals[0].cutM == Approx(10.4));
    // Off its middle, two unlike pieces.
    const auto off = build::cutList(designOf(
        partOf("Wire", StraightWire{{"0", "0", "8 m"}, {"0", "10 m", "8 m"}}), PlaceKind::Percent, "30"));
    REQUIRE(off.pieces.size() == 2);
    CHECK(off.pieces[0].modelledM == Approx(3.0));
    CHECK(off.pieces[1].modelledM == Approx(7.0));
}

TEST_CASE("a bent wire is one piece with its bends, a loop one that closes, a fan as many as it has") {
    BentWire bent;
    bent.points = {{"0", "0", "5 m"}, {"0", "0", "11 m"}, {"8 m", "0", "11 m"}};
    const auto l = build::cutList(designOf(partOf("L", bent), PlaceKind::Percent, "50"));
    REQUIRE(l.pieces.size() == 2);
    CHECK(l.pieces[0].bends + l.pieces[1].bends == 1);
    CHECK(sumOf(l) == Approx(14.0));
    RegularLoop loop;
    const auto round = build::cutList(designOf(partOf("Loop", loop), PlaceKind::Corner, "1"));
    REQUIRE(round.pieces.size() == 1);
    CHECK(round.pieces[0].modelledM == Approx(20.0));
    CHECK(round.pieces[0].bends == 3);
    Design vertical =
        designOf(partOf("Vertical", StraightWire{{"0", "0", "3 m"}, {"0", "0", "8 m"}}), PlaceKind::Start);
    Fan fan;
    fan.hub = {"0", "0", "3 m"};
    vertical.parts.push_back(partOf("Radials", fan));
    const auto plane = build::cutList(vertical);
    REQUIRE(plane.pieces.size() == 2);
    CHECK(plane.pieces[1].part == "Radials");
    CHECK(plane.pieces[1].count == 4);
    CHECK(plane.pieces[1].modelledM == Approx(5.0));
}

TEST_CASE("rods are not folded, and a metal boom makes them longer") {
    const auto list = build::cutList(test::demoDesign("Yagi, 70 MHz"));
    const auto reflector = std::find_if(list.pieces.begin(), list.pieces.end(),
                                        [](const auto& p) { return p.part == "Yagi, reflector"; });
    REQUIRE(reflector != list.pieces.end());
    CHECK_FALSE(reflector->wire);
    CHECK(reflector->modelledM == Approx(2.135));
    CHECK(reflector->cutM > 2.136);
    CHECK_THAT(reflector->added, Catch::Contains("mm for the boom"));
    // Two stacked are twice the pieces, each under its own name.
    const auto stacked = build::cutList(test::demoDesign("Two Yagis stacked, 70 MHz"));
    double rods = 0.0;
    for (const auto& p : stacked.pieces)
        if (p.origin == "Yagi") rods += p.count * p.modelledM;
    CHECK(rods == Approx(2.0 * sumOf(list)));
}

TEST_CASE("all wire of every demo design is in its cut list") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    for (const auto& d : project.designs) {
        INFO(d.name);
        double wires = 0.0;
        const Expansion e = expand(d);
        for (const auto& w : e.model.wires)
            if (std::none_of(e.runs.begin(), e.runs.end(),
                             [&](const auto& run) { return run.part == w.part; }))
                wires += w.lengthM();
        const auto list = build::cutList(d);
        CHECK(sumOf(list) == Approx(wires).epsilon(1e-9));
        double total = 0.0;
        for (const auto& t : list.totals) total += t.cutM;
        CHECK(total > wires - 1e-9);
    }
    Design none;
    CHECK_THROWS_AS(build::cutList(none), Error);
}

TEST_CASE("a build sheet follows what the design says, and names what does not come out of its stock") {
    auto d = test::demoDesign("Yagi, 70 MHz");
    const auto usual = build::buildSheet(d);
    // The driven one is thicker than the others: stock of its own.
    REQUIRE(usual.stock.size() == 2);
    CHECK(usual.findings.empty());
    for (const auto& stock : usual.stock) {
        std::size_t laid = 0;
        for (const auto& bar : stock.plan.bars) laid += bar.pieces.size();
        CHECK(laid == stock.lengthsM.size());
    }
    d.build.stock = "refl - 10 cm";  // formulas as everywhere
    const auto shorter = build::buildSheet(d);
    REQUIRE(shorter.findings.size() == 2);  // the driven loop is one bent rod
    CHECK(shorter.findings[0].part == "Yagi");
    CHECK_THAT(shorter.findings[0].sentence, Catch::Contains("Yagi, reflector takes 2.1"));
    CHECK_THAT(shorter.findings[1].sentence, Catch::Contains("Yagi, driven takes 4.19"));
    for (const auto* bad : {"", "0 m", "-1 m", "30 km", "1/0"}) {
        INFO(bad);
        d.build.stock = bad;
        CHECK_THROWS_WITH(build::buildSheet(d), Catch::StartsWith("Stock length: "));
    }
}

TEST_CASE("stock is laid out without waste: every piece once, no bar too full, as few bars as can be") {
    // Worked by hand: three bars of 6 m.
    const std::vector<double> known = {3.5, 2.4, 4.0, 1.9, 2.0, 2.0, 1.9};
    CHECK(build::layOut(known, 6.0, 0.0).bars.size() == 3);
    std::mt19937 random(3);
    std::size_t used = 0;
    std::size_t fewest = 0;
    for (int run = 0; run < 200; ++run) {
        std::vector<double> lengths;
        const int n = 3 + static_cast<int>(random() % 30);
        for (int i = 0; i < n; ++i) lengths.push_back(0.2 + 0.001 * static_cast<double>(random() % 4000));
        const auto plan = build::layOut(lengths, 6.0, 0.003);
        std::vector<int> seen(lengths.size(), 0);
        for (const auto& bar : plan.bars) {
            double sum = 0.0;
            for (const std::size_t i : bar.pieces) {
                ++seen[i];
                sum += lengths[i];
            }
            CHECK(sum + 0.003 * (static_cast<double>(bar.pieces.size()) - 1.0) < 6.0 + 1e-9);
            CHECK(bar.leftM >= 0.0);
        }
        CHECK(std::all_of(seen.begin(), seen.end(), [](int s) { return s == 1; }));
        CHECK(plan.bars.size() >= build::fewestBars(lengths, 6.0, 0.003));
        used += plan.bars.size();
        fewest += build::fewestBars(lengths, 6.0, 0.003);
    }
    // Against a bound that no plan can always reach.
    CHECK(static_cast<double>(used) < 1.05 * static_cast<double>(fewest));
    const auto tooLong = build::layOut({7.0, 1.0}, 6.0);
    CHECK(tooLong.tooLong == std::vector<std::size_t>{0});
    CHECK(tooLong.bars.size() == 1);
}

TEST_CASE("holes on a boom count from its first element and from the one before, and a tape reads them") {
    const auto sheet = build::buildSheet(test::demoDesign("Yagi, 70 MHz"));
    REQUIRE(sheet.booms.size() == 1);
    const auto& holes = sheet.booms[0].holes;
    REQUIRE(holes.size() == 5);
    CHECK(holes[0].atM == 0.0);
    double sum = 0.0;
    for (const auto& hole : holes) {
        sum += hole.fromM;
        CHECK(hole.atM == Approx(sum));
    }
    CHECK(sheet.booms[0].lengthM == Approx(sum));
    CHECK(quantity::formatTape(0.3048 + 2.3125 * 0.0254, 16) == "1' 2 5/16\"");
    CHECK(quantity::formatTape(0.3048 + 2.3125 * 0.0254, 8) == "1' 2 3/8\"");
    CHECK(quantity::formatTape(31.0 / 32.0 * 0.0254, 32) == "0' 0 31/32\"");
    CHECK(quantity::formatTape(-0.0254, 32) == "−0' 1\"");
}
