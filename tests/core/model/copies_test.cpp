// Copies, insulated guys and new names: the same as wires set out by hand.
#include <catch2/catch.hpp>

#include "array_designs.h"
#include "core/model/loosen.h"
#include "core/model/rename.h"
#include "findings.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;
using rm::test::firstError;

TEST_CASE("copies are the same as wires typed by hand, and names follow") {
    auto d = yagiDesign();
    d.copies = {stack("2", "2", "4 m", "5 m")};
    const auto e = expand(d);
    REQUIRE(e.model.wires.size() == 20);
    REQUIRE(e.model.feeds.size() == 4);
    CHECK(e.units == std::vector<std::string>{"Yagi (lower left)", "Yagi (lower right)", "Yagi (upper left)",
                                              "Yagi (upper right)"});
    CHECK(e.model.feeds[2].name == "Feed (upper left)");
    CHECK(e.model.wires[10].part == "Yagi (upper left), reflector");
    WireModel byHand;
    for (const auto& [y, z] : {std::pair{2.5, 0.0}, {-2.5, 0.0}, {2.5, 4.0}, {-2.5, 4.0}}) {
        const auto first = byHand.wires.size();
        for (auto w : yagi().wires) {
            w.startM += Vec3(0.0, y, z);
            w.endM += Vec3(0.0, y, z);
            byHand.wires.push_back(w);
        }
        addFeed(byHand, first + 1, 0.5);
    }
    const Solved a = solve(e.model, kArrayHz);
    const Solved b = solve(byHand, kArrayHz);
    for (std::size_t f = 0; f < 4; ++f)
        CHECK(std::abs(a.reading.feedImpedance[f] - b.reading.feedImpedance[f]) < 1e-6);
    CHECK(a.gain(0, 0) == Approx(b.gain(0, 0)).margin(1e-6));
    // A change of the part changes every copy; switched off, there is one again.
    rowOf(d).elements[0].length = "1.5 m";
    for (const std::size_t w : {0U, 5U, 10U, 15U}) CHECK(expand(d).model.wires[w].lengthM() == Approx(3.0));
    d.copies[0].enabled = false;
    CHECK(expand(d).model.wires.size() == 5);
    // A feed on one copy alone.
    d.copies[0].enabled = true;
    d.feeds[0].part = "Yagi (upper right)";
    REQUIRE(expand(d).model.feeds.size() == 1);
    CHECK(expand(d).model.feeds[0].place.wire == 16);
    d.feeds[0].part = "Yagi (third)";
    CHECK(firstError(d).find("\"Yagi (third)\", which is not there") != std::string::npos);
}

TEST_CASE("mirrored, rotated and shifted copies, nested and of a group") {
    auto d = dipoleDesign("2 m");
    Part mast;
    mast.name = "Mast";
    mast.shape = StraightWire{{"3 m", "0 m", "0.1 m"}, {"3 m", "0 m", "6 m"}};
    d.parts.push_back(mast);
    d.site.height = "1 m";
    Copy mirror;
    mirror.name = "Mirror";
    mirror.kind = CopyKind::Mirror;
    mirror.plane = MirrorPlane::UpDown;
    mirror.at = "3 m";
    mirror.parts = {"Dipole"};
    d.copies = {mirror};
    auto e = expand(d);
    REQUIRE(e.model.wires.size() == 3);
    // The mirror is 3 m up in the design, which hangs 1 m higher.
    CHECK(e.model.wires[2].startM.z() == Approx(5.0));
    CHECK(e.model.wires[2].part == "Dipole (mirrored)");
    CHECK(e.model.feeds[1].name == "Feed (mirrored)");
    Copy turn;
    turn.name = "Turn";
    turn.kind = CopyKind::Rotate;
    turn.count = "4";
    turn.centre = {"3 m", "0 m", "0 m"};
    turn.parts = {"Dipole"};
    d.copies.push_back(turn);
    e = expand(d);
    REQUIRE(e.model.wires.size() == 9);
    CHECK(e.model.feeds.size() == 8);
    CHECK(e.units.at(3) == "Dipole (original 2)");
    CHECK(e.units.at(4) == "Dipole (mirrored 2)");
    // A quarter to the right of one that stands behind the axis is one to the left of it.
    const Vec3 middle = 0.5 * (e.model.wires[3].startM + e.model.wires[3].endM);
    CHECK((middle - Vec3(3.0, 3.0, 3.0)).norm() < 1e-9);
    Copy shift;
    shift.name = "Shift";
    shift.kind = CopyKind::Shift;
    shift.count = "3";
    shift.step = {"20 m", "0 m", "0 m"};
    d.copies.push_back(shift);
    e = expand(d);
    CHECK(e.model.wires.size() == 27);
    CHECK(e.model.feeds.size() == 24);
    CHECK((e.model.wires[9].startM - e.model.wires[0].startM - Vec3(20, 0, 0)).norm() < 1e-9);
    // Loads and lines follow within each copy.
    Load load;
    load.part = "Dipole";
    load.place = {PlaceKind::Percent, "20"};
    load.resistance = "5";
    d.loads = {load};
    CHECK(expand(d).model.loads.size() == 24);
    d.copies[0].parts = {"Nobody"};
    CHECK(firstError(d).find("Mirror: Mirror is of \"Nobody\"") != std::string::npos);
    d.copies = {shift};
    d.copies[0].count = "1.5";
    CHECK(firstError(d).find("whole number") != std::string::npos);
}

TEST_CASE("copies become loose wires when asked, and stay the same antenna") {
    auto d = yagiDesign();
    d.copies = {stack("2", "1", "3.5 m", "0 m")};
    d.site.height = "4 m";
    d.site.ground = GroundKind::Real;
    Load load;
    load.part = "Yagi";
    load.place = {PlaceKind::Middle, "", "reflector"};
    load.inductance = "0.05";
    d.loads = {load};
    const auto loose = loosened(d);
    CHECK(loose.copies.empty());
    CHECK(loose.parts.size() == 10);
    CHECK(loose.feeds.at(1).name == "Feed (upper)");
    const Solved a = solved(d);
    const Solved b = solved(loose);
    CHECK(std::abs(a.z() - b.z()) < 1e-5);
    CHECK(a.gain(10, 0) == Approx(b.gain(10, 0)).margin(1e-5));
}

TEST_CASE("guys are broken by their insulators, and a mast in two pieces carries less") {
    Design d = dipoleDesign("6 m");
    Part guys;
    guys.name = "Guys";
    Fan fan;
    fan.hub = {"-2 m", "0 m", "9 m"};
    fan.count = "3";
    fan.length = "11 m";
    fan.slope = "50 deg";
    fan.insulators = "3";
    guys.shape = fan;
    d.parts.push_back(guys);
    const auto e = expand(d);
    REQUIRE(e.model.wires.size() == 1 + 3 * 4);
    double length = 0.0;
    for (std::size_t w = 1; w <= 4; ++w) length += e.model.wires[w].lengthM();
    CHECK(length == Approx(11.0 - 3 * 0.1));
    CHECK((e.model.wires[4].endM - e.model.wires[1].startM).norm() == Approx(11.0));
    std::get<Fan>(d.parts[1].shape).insulators = "200";
    CHECK(firstError(d).find("insulators") != std::string::npos);
}

TEST_CASE("renamed things keep what is said of them, on every copy and on no other part") {
    auto d = yagiDesign();
    auto other = d.parts[0];
    other.name = "Second";
    std::get<ElementRow>(other.shape).start[2] = "20 m";
    d.parts.push_back(other);
    d.copies = {stack("2", "1", "4 m", "0 m")};
    d.copies[0].parts = {"Yagi"};
    d.feeds[0].part = "Yagi (upper)";
    Feed second;
    second.name = "Other";
    second.part = "Second";
    second.place.element = "driven";
    d.feeds.push_back(second);
    d.driveSets = {driving("one", {{"Feed"}, {"Other"}})};
    d.harness.arms = {{"Feed", "2 m", false}};
    d.driveSet = 0;
    REQUIRE(expand(d).usable());
    renamePart(d, 0, "Long one");
    renameElement(d, 0, 1, "split");
    renameFeed(d, 0, "Main");
    CHECK(d.feeds[0].part == "Long one (upper)");
    CHECK(d.feeds[0].place.element == "split");
    CHECK(d.feeds[1].place.element == "driven");
    CHECK(d.copies[0].parts.at(0) == "Long one");
    CHECK(d.driveSets[0].driven[0].feed == "Main");
    CHECK(d.driveSets[0].driven[1].feed == "Other");
    CHECK(d.harness.arms[0].feed == "Main");
    CHECK(firstError(d).empty());
    CHECK(expand(d).usable());
    // Copies of a renamed feed keep their labels.
    d.feeds[0].part = "Long one";
    d.driveSets[0].driven[0].feed = "Main (lower)";
    renameFeed(d, 0, "Feed");
    CHECK(d.driveSets[0].driven[0].feed == "Feed (lower)");
    CHECK(expand(d).usable());
    CHECK(partMeant(d, "Long one (upper)") == &d.parts[0]);
    CHECK(partMeant(d, "Nobody") == nullptr);
    CHECK(labelOf("Feed (lower left)") == "lower left");
    CHECK(labelOf("Feed") == "Feed");
}
