// Wires that hang between supports: their length is kept, the rope is what is left, and trees can be moved.
#include <fmt/format.h>

#include <catch2/catch.hpp>
#include <cmath>

#include "core/build/pieces.h"
#include "core/edit/designs.h"
#include "core/edit/grips.h"
#include "core/edit/ids.h"
#include "core/edit/spots.h"
#include "core/edit/supports.h"
#include "core/model/expand.h"
#include "core/model/rename.h"
#include "core/project/project_file.h"
#include "core/starters/starter.h"
#include "core/study/figures.h"
#include "core/study/site_study.h"

using namespace rm;
using namespace rm::model;
using Catch::Contains;

namespace {

Support support(const char* name, SupportKind kind, const char* east, const char* north, const char* height) {
    Support s;
    s.name = name;
    s.kind = kind;
    s.east = east;
    s.north = north;
    s.height = height;
    return s;
}

/// A mast in the middle, a tree 20 m to the east, a peg 15 m to the west.
Project site() {
    Project p = edit::starterProject();
    Design& d = p.designs[0];
    d.parts.clear();
    d.feeds.clear();
    d.dimensions.clear();
    d.site.supports = {support("Mast", SupportKind::Mast, "0 m", "0 m", "12 m"),
                       support("Tree", SupportKind::Tree, "20 m", "0 m", "9 m"),
                       support("Peg", SupportKind::Peg, "-15 m", "0 m", "0.5 m")};
    return p;
}

Part& hungBetween(Design& d, const std::vector<HangPoint>& points, const std::string& length) {
    HungWire hung;
    hung.points = points;
    hung.length = length;
    Part part;
    part.name = "Wire";
    part.shape = hung;
    d.parts.push_back(part);
    Feed feed;
    feed.part = "Wire";
    d.feeds = {feed};
    return d.parts.back();
}

HungWire& shapeOf(Part& part) {
    return std::get<HungWire>(part.shape);
}

double wireInAll(const Expansion& e) {
    double total = 0.0;
    for (const auto& wire : e.model.wires) total += wire.lengthM();
    return total;
}

const HungSizes& hungOf(const Expansion& e) {
    REQUIRE(e.hung.size() == 1);
    return e.hung.front();
}

std::string firstSentence(const Expansion& e) {
    for (const auto& f : e.findings)
        if (f.severity == Severity::Error) return f.sentence;
    return {};
}

}  // namespace

TEST_CASE("a wire between two supports has the length it was given, and the rope is what is left") {
    Project p = site();
    Part& part = hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "14 m");
    const double way = std::hypot(20.0, 3.0);
    {
        const Expansion e = expand(p.designs[0]);
        CHECK(e.usable());
        CHECK(wireInAll(e) == Approx(14.0).epsilon(1e-9));
        CHECK(hungOf(e).ropeStartLengthM == Approx(0.5 * (way - 14.0)));
        CHECK(hungOf(e).ropeEndLengthM == Approx(0.5 * (way - 14.0)));
    }
    SECTION("with so much rope before it") {
        shapeOf(part).by = HungBy::Start;
        shapeOf(part).rope = "1.5 m";
        const Expansion e = expand(p.designs[0]);
        CHECK(hungOf(e).ropeStartLengthM == Approx(1.5));
        CHECK(hungOf(e).ropeEndLengthM == Approx(way - 15.5));
        CHECK(wireInAll(e) == Approx(14.0).epsilon(1e-9));
    }
    SECTION("all the way but for the rope") {
        shapeOf(part).by = HungBy::Start;
        shapeOf(part).rope = "1.5 m";
        shapeOf(part).length = "";
        const Expansion e = expand(p.designs[0]);
        CHECK(wireInAll(e) == Approx(way - 1.5).epsilon(1e-9));
        CHECK(hungOf(e).ropeEndLengthM == Approx(0.0).margin(1e-9));
    }
    SECTION("whatever it sags") {
        shapeOf(part).sag = "4 %";
        const Expansion e = expand(p.designs[0]);
        CHECK(wireInAll(e) == Approx(14.0).epsilon(1e-9));
        CHECK(hungOf(e).ropeStartLengthM > 0.5 * (way - 14.0));
    }
}

TEST_CASE("what does not reach says by how much") {
    Project p = site();
    Part& part = hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "22 m");
    const double missing = 22.0 - std::hypot(20.0, 3.0);
    CHECK(firstSentence(expand(p.designs[0])) ==
          fmt::format("Wire does not reach: it is {:.2f} m longer than its way from Mast to Tree.", missing));
    shapeOf(part).by = HungBy::Start;
    shapeOf(part).rope = "2 m";
    shapeOf(part).length = "20 m";
    CHECK(firstSentence(expand(p.designs[0])).find("longer than its way to Tree") != std::string::npos);
    // Moved away, it reaches again.
    p.designs[0].site.supports[1].east = "25 m";
    CHECK(expand(p.designs[0]).usable());
}

TEST_CASE("a span sags as a uniform load lets it: depth w l squared over 8 T") {
    Project p = site();
    p.designs[0].site.supports[1].height = "12 m";
    Part& part = hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "");
    part.conductor = {"copper", "2 mm", "", "3"};
    shapeOf(part).pull = "50";
    const Expansion e = expand(p.designs[0]);
    const double weight = 8960.0 * kPi * 1e-6 * 9.80665;
    const double depth = weight * 400.0 / (8.0 * 50.0);
    CHECK(hungOf(e).spans[0].sagM == Approx(depth).epsilon(1e-9));
    double lowest = 99.0;
    for (const auto& wire : e.model.wires) lowest = std::min(lowest, wire.endM.z());
    CHECK(lowest == Approx(12.0 - depth).epsilon(1e-9));
    // Twice the pull, half the depth; and the depth gives the pull back.
    shapeOf(part).pull = "100";
    CHECK(hungOf(expand(p.designs[0])).spans[0].sagM == Approx(0.5 * depth).epsilon(1e-9));
    shapeOf(part).pull = "";
    shapeOf(part).sag = "2 %";
    const auto sagged = expand(p.designs[0]);
    CHECK(hungOf(sagged).spans[0].sagM == Approx(0.4));
    CHECK(hungOf(sagged).spans[0].pullN == Approx(weight * 400.0 / (8.0 * 0.4)));
    // Against the catenary of the same span and depth, its length agrees to 1e-4.
    const double a = [] {
        double low = 10.0, high = 1e4;  // of 20 m with 0.4 m: a (cosh(10/a) - 1) = 0.4
        for (int i = 0; i < 200; ++i) {
            const double mid = 0.5 * (low + high);
            (mid * (std::cosh(10.0 / mid) - 1.0) > 0.4 ? low : high) = mid;
        }
        return low;
    }();
    CHECK(wireInAll(sagged) == Approx(2.0 * a * std::sinh(10.0 / a)).epsilon(1e-4));
}

TEST_CASE("an upright rope does not sag, and a steep one less than a level one") {
    Project p = site();
    Part& part = hungBetween(p.designs[0], {{"Mast", "0.5 m", ""}, {"Mast", "", ""}, {"Tree", "", ""}}, "");
    shapeOf(part).by = HungBy::Start;
    shapeOf(part).sag = "3 %";
    const Expansion e = expand(p.designs[0]);
    CHECK(hungOf(e).spans[0].sagM == Approx(0.0).margin(1e-12));
    CHECK(hungOf(e).spans[1].sagM == Approx(0.03 * 20.0));
    // Eight pieces of the level part, one of the upright one; between them is the only corner.
    CHECK(e.model.wires.size() == 9);
    CHECK(std::count_if(e.model.wires.begin(), e.model.wires.end(),
                        [](const PlainWire& w) { return w.runsOn; }) == 7);
    const auto spots = edit::markedSpots(p.designs[0], e, "Wire");
    const auto corners = std::count_if(spots.begin(), spots.end(),
                                       [](const edit::Spot& s) { return s.place.kind == PlaceKind::Corner; });
    CHECK(corners == 1);
    p.designs[0].feeds[0].place = {PlaceKind::Corner, "1", {}, {}};
    const Expansion fed = expand(p.designs[0]);
    REQUIRE(fed.model.feeds.size() == 1);
    CHECK(fed.model.feeds[0].place.wire == 1);
    // Bent once when it is cut.
    const auto list = build::cutList(p.designs[0], {});
    CHECK(
        std::all_of(list.pieces.begin(), list.pieces.end(), [](const auto& one) { return one.bends <= 1; }));
}

TEST_CASE("what hangs from supports is not lifted by the height of the site") {
    Project p = site();
    hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "14 m");
    p.designs[0].site.height = "0 m";
    const Expansion low = expand(p.designs[0]);
    p.designs[0].site.height = "7 m";
    const Expansion high = expand(p.designs[0]);
    for (std::size_t i = 0; i < low.model.wires.size(); ++i)
        CHECK((low.model.wires[i].startM - high.model.wires[i].startM).norm() < 1e-12);
    edit::giveIds(p);
    const auto grips = edit::gripsOf(p.designs[0], high, p.designs[0].parts[0].id);
    REQUIRE_FALSE(grips.empty());
    CHECK(grips[0].atM.z() == Approx(low.model.wires.front().startM.z()));
    CHECK(edit::hangsAltogether(p.designs[0]));
    CHECK_THROWS_WITH(study::studyHeights(p.designs[0], 14.15e6, {}, 5), Contains("hangs from supports"));
}

TEST_CASE("an inverted V hangs from the mast by its middle, with what is left for ropes to both pegs") {
    Project p = site();
    p.designs[0].site.supports.push_back(support("Peg 2", SupportKind::Peg, "18 m", "0 m", "0.5 m"));
    Part& part = hungBetween(p.designs[0], {{"Peg", "", ""}, {"Mast", "", ""}, {"Peg 2", "", ""}}, "20 m");
    shapeOf(part).by = HungBy::Corner;
    const Expansion e = expand(p.designs[0]);
    CHECK(e.usable());
    CHECK(hungOf(e).ropeStartLengthM == Approx(std::hypot(15.0, 11.5) - 10.0));
    CHECK(hungOf(e).ropeEndLengthM == Approx(std::hypot(18.0, 11.5) - 10.0));
    // The middle, where it is fed, is at the top of the mast.
    REQUIRE(e.model.feeds.size() == 1);
    const auto& feed = e.model.feeds[0].place;
    const auto& wire = e.model.wires[feed.wire];
    CHECK((wire.startM + feed.at * (wire.endM - wire.startM) - Vec3(0, 0, 12)).norm() < 1e-9);
}

TEST_CASE("trees stay where they are when the antenna is turned, and carry it along when they move") {
    Project p = site();
    hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "14 m");
    const auto compass = [](const Expansion& e) {
        return toCompass(e.model.wires.back().endM, e.headingDeg);
    };
    const Vec3 before = compass(expand(p.designs[0]));
    CHECK(before.x() > 16.0);
    CHECK(std::abs(before.y()) < 1e-9);
    p.designs[0].site.heading = "37 deg";
    CHECK((compass(expand(p.designs[0])) - before).norm() < 1e-9);
    p.designs[0].site.supports[1].north = "5 m";
    CHECK(compass(expand(p.designs[0])).y() > 3.0);
    // Compass and design are two ways to say one place.
    for (const double heading : {0.0, 37.0, 200.0, -90.0}) {
        const Vec3 place(3.0, -4.0, 5.0);
        const Vec3 c = toCompass(place, heading);
        CHECK((fromCompass(c.x(), c.y(), c.z(), heading) - place).norm() < 1e-12);
    }
}

TEST_CASE("what a hung wire cannot do is said by name, with a mend") {
    Project p = site();
    Part& part = hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "14 m");
    const auto says = [&](const std::string& words) {
        const Expansion e = expand(p.designs[0]);
        CHECK_FALSE(e.usable());
        INFO(firstSentence(e));
        CHECK(firstSentence(e).find(words) != std::string::npos);
        for (const auto& f : e.findings)
            if (f.severity == Severity::Error) CHECK_FALSE(f.mend.empty());
    };
    SECTION("a support that is gone") {
        shapeOf(part).points[1].support = "Birch";
        says("hangs on \"Birch\", which is not there");
    }
    SECTION("one place only") {
        shapeOf(part).points.pop_back();
        says("fewer than two places");
    }
    SECTION("higher than the tree") {
        shapeOf(part).points[1].height = "9.5 m";
        says("tied to Tree at 9.50 m, which is 9.00 m high");
    }
    SECTION("twice at one place") {
        shapeOf(part).points[1] = {"Mast", "", ""};
        says("at one place");
    }
    SECTION("too deep a sag") {
        shapeOf(part).sag = "60 %";
        says("sag of 60 %");
    }
    SECTION("a pull that lets it drag on the ground") {
        shapeOf(part).pull = "0.5";
        says("m deep");
    }
    SECTION("a height that is no length") {
        p.designs[0].site.supports[1].height = "tall";
        says("Tree, the height");
    }
    SECTION("a corner that is not there") {
        shapeOf(part).by = HungBy::Corner;
        says("no point between");
    }
    SECTION("two supports of one name") {
        p.designs[0].site.supports[1].name = "Mast";
        says("two supports named Mast");
    }
}

TEST_CASE("supports and what hangs on them come back from the file as they were") {
    Project p = site();
    Part& part = hungBetween(p.designs[0], {{"Mast", "6 m", ""}, {"Roof", "", "2 m"}}, "11 m");
    shapeOf(part).sag = "3 %";
    Support roof = support("Roof", SupportKind::RoofEdge, "10 m", "4 m", "6 m");
    roof.toEast = "18 m";
    roof.toNorth = "5 m";
    p.designs[0].site.supports.push_back(roof);
    p.designs[0].site.backdrop.file = "garden.png";
    p.designs[0].site.backdrop.secondEastM = 12.5;
    INFO(firstSentence(expand(p.designs[0])));
    const Project read = io::parseProject(io::textOf(p), "test");
    CHECK(read.designs[0].site == p.designs[0].site);
    CHECK(read.designs[0].parts == p.designs[0].parts);
    CHECK(expand(read.designs[0]).usable());
}

TEST_CASE("renamed supports keep their wires, removed ones let go where others hold") {
    Project p = site();
    hungBetween(p.designs[0], {{"Peg", "", ""}, {"Mast", "", ""}, {"Tree", "", ""}}, "14 m");
    p = edit::addSupport(p, SupportKind::Tree, 3.0, 4.0).project;  // gives ids to all of them
    CHECK(p.designs[0].site.supports.back().name == "Tree 2");
    renameSupport(p.designs[0], 1, "Old oak");
    CHECK(std::get<HungWire>(p.designs[0].parts[0].shape).points[2].support == "Old oak");
    CHECK(edit::hangingOn(p.designs[0], "Old oak") == std::vector<std::string>{"Wire"});
    p = edit::remove(p, {edit::ItemType::Support, p.designs[0].site.supports[0].id});
    CHECK(std::get<HungWire>(p.designs[0].parts[0].shape).points.size() == 2);
    CHECK(expand(p.designs[0]).usable());
    p = edit::remove(p, {edit::ItemType::Support, p.designs[0].site.supports[0].id});
    CHECK(firstSentence(expand(p.designs[0])).find("which is not there") != std::string::npos);
}

TEST_CASE("a new hung wire is half a wave where there is room, and all the way where there is not") {
    const Project p = site();
    const auto shape = [](const edit::Added& added) {
        return std::get<HungWire>(added.project.designs[0].parts.back().shape);
    };
    // 0.48 of 20 m.
    const auto short20 = edit::addHung(p, {"Mast", "Tree"}, 20.0);
    CHECK(shape(short20).length == "9.60 m");
    CHECK(expand(short20.project.designs[0]).usable());
    CHECK(shape(edit::addHung(p, {"Mast", "Tree"}, 80.0)).length.empty());
    // From the ground up and over to the tree: fed at its start.
    const auto bent = edit::addHung(p, {"Peg", "Mast", "Tree"}, 20.0);
    CHECK(shape(bent).by == HungBy::Corner);
    const auto bare = edit::addHung(edit::remove(p, {}), {}, 20.0);
    CHECK(expand(bare.project.designs[0]).usable());
    Project empty = edit::starterProject();
    empty.designs[0].site.supports.clear();
    const auto masts = edit::addHung(empty, {}, 20.0);
    CHECK(masts.project.designs[0].site.supports.size() == 2);
    CHECK_THROWS_AS(edit::addHung(p, {"Mast", "Birch"}, 20.0), Error);
}

TEST_CASE("a metal mast as a wire moves with it, and a tree does not become one") {
    Project p = edit::addSupport(site(), SupportKind::RoofEdge, 5.0, 5.0).project;
    Design& d = p.designs[0];
    auto made = edit::addAsWire(p, d.site.supports[0].id);
    Expansion e = expand(made.project.designs[0]);
    REQUIRE(e.model.wires.size() == 1);
    CHECK(e.model.wires[0].endM.z() == Approx(12.0));
    CHECK(e.model.wires[0].startM.head<2>().norm() < 1e-12);
    made.project.designs[0].site.supports[0].east = "7 m";
    e = expand(made.project.designs[0]);
    CHECK(toCompass(e.model.wires[0].endM, e.headingDeg).x() == Approx(7.0));
    made = edit::addAsWire(p, d.site.supports.back().id);
    e = expand(made.project.designs[0]);
    REQUIRE(e.model.wires.size() == 1);
    CHECK(e.model.wires[0].lengthM() == Approx(10.0));
    CHECK_THROWS_AS(edit::addAsWire(p, d.site.supports[1].id), Error);
}

TEST_CASE("grips of a hung wire: an end sets its length, where it is tied moves the support") {
    Project p = site();
    hungBetween(p.designs[0], {{"Mast", "", ""}, {"Tree", "", ""}}, "14 m");
    p = edit::addSupport(p, SupportKind::Peg, 1.0, 1.0).project;
    Design& d = p.designs[0];
    const Expansion e = expand(d);
    const auto grips = edit::gripsOf(d, e, d.parts[0].id);
    const auto named = [&](const std::string& name) {
        const auto found =
            std::find_if(grips.begin(), grips.end(), [&](const auto& g) { return g.name == name; });
        REQUIRE(found != grips.end());
        return *found;
    };
    const edit::Grip end = named("end");
    const Vec3 out = (end.atM - *end.anchorM).normalized();
    const auto longer =
        edit::dragGrip(d, end, end.atM + 0.5 * out, edit::gripOffset(d, e, d.parts[0].id), {});
    CHECK(std::get<HungWire>(longer.design.parts[0].shape).length == "15 m");
    const edit::Grip tied = named("tied to Tree");
    const Vec3 to = fromCompass(22.0, 3.0, 8.0, e.headingDeg);
    const auto moved = edit::dragGrip(d, tied, to, edit::gripOffset(d, e, d.parts[0].id), {});
    const auto& tree = moved.design.site.supports[1];
    CHECK(tree.east == "22 m");
    CHECK(tree.north == "3 m");
    CHECK(tree.height == "8 m");
    CHECK(moved.design.site.supports[0] == d.site.supports[0]);
    CHECK(expand(moved.design).usable());
}

TEST_CASE("a feed on a wire of no length has a place that is a number") {
    Design d;
    Part part;
    part.name = "Wire";
    part.shape = StraightWire{{"0 m", "0 m", "5 m"}, {"0 m", "0 m", "5 m"}};
    d.parts = {part};
    Feed feed;
    feed.part = "Wire";
    d.feeds = {feed};
    const Expansion e = expand(d);
    CHECK_FALSE(e.usable());
    for (const auto& one : e.model.feeds) CHECK(std::isfinite(one.place.at));
}

TEST_CASE("a starter hangs between two supports of the site where they hold it, and is resonant there") {
    starters::Order order;
    order.bands = {{"20 m", 14.0e6, 14.35e6, {}, {}}};
    order.site = site().designs[0].site;
    order.site.ground = GroundKind::Real;
    order.site.soil = "average";
    order.onSupports = true;
    const Design made = starters::make("dipole", order);
    REQUIRE(std::holds_alternative<HungWire>(made.parts.at(0).shape));
    const Expansion e = expand(made);
    REQUIRE(e.usable());
    CHECK(hungOf(e).spans[0].from == "Mast");
    CHECK(hungOf(e).spans[0].to == "Tree");
    CHECK(study::analyse(e, 14.175e6).figures.swr < 2.0);
    // For 80 m nothing here is far enough apart: it is put up as ever.
    order.bands = {{"80 m", 3.5e6, 3.8e6, {}, {}}};
    CHECK(std::holds_alternative<StraightWire>(starters::sketch("dipole", order).parts.at(0).shape));
}
