// Starters that stand: verticals on radials in the ground and above it, shortened ones, and phased ones.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/starters/sketcher.h"

namespace rm::starters {

namespace {

using namespace rm::model;

double tubeFor(const Sketcher& s) {
    return std::clamp(0.0012 * s.lambda(), 0.006, 0.04);
}

Sketched vertical(const Order& order) {
    Sketcher s(order, "Vertical on radials");
    s.length("tall", 0.24 * s.lambda(), "Of the vertical");
    s.tube("Vertical", StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    s.earth();
    s.feed("Vertical", PlaceKind::Start);
    s.transformer("1:1");
    s.goals("1.6", {"tall"});
    s.out().resonate = {{{"tall"}}};
    return s.done();
}

Sketched groundPlane(const Order& order) {
    Sketcher s(order, "Elevated ground plane");
    s.length("tall", 0.24 * s.lambda(), "Of the vertical");
    s.length("radial", 0.25 * s.lambda(), "Of each radial");
    s.angle("droop", 35, "Of the radials below the horizon", 0, 60);
    const double drop = 0.25 * s.lambda() * std::sin(35.0 * kDegree);
    s.height("base", s.grounded() ? std::max(0.4 * s.height(), drop + 1.0) : 1.0, "Height of the hub", 0.5,
             2.0);
    s.part("Vertical", StraightWire{{"0 m", "0 m", "base"}, {"0 m", "0 m", "base + tall"}});
    Fan fan;
    fan.hub = {"0 m", "0 m", "base"};
    fan.length = "radial";
    fan.slope = "droop";
    s.part("Radials", fan);
    s.feed("Vertical", PlaceKind::Start);
    s.goals("1.5", {"tall", "radial", "droop"});
    s.out().resonate = {{{"tall", "radial"}}};
    return s.done();
}

Sketched fiveEighths(const Order& order) {
    Sketcher s(order, "Five-eighths vertical");
    s.length("tall", 0.62 * s.lambda(), "Of the vertical");
    s.tube("Vertical", StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    s.earth();
    s.feed("Vertical", PlaceKind::Start);
    FeedBlock coil;
    coil.kind = BlockKind::Element;
    coil.name = "Base coil";
    coil.element = ElementKind::Inductor;
    coil.value = "1";
    coil.q = "250";
    s.block(coil);
    s.transformer("1:1");
    s.goals("1.6", {"tall"});
    s.out().reactance = true;
    return s.done();
}

Sketched invertedL(const Order& order) {
    Sketcher s(order, "Inverted L on radials");
    const double up = std::clamp(s.height(), 0.06 * s.lambda(), 0.2 * s.lambda());
    s.height("up", up, "Its upright part", 0.7, 1.3);
    s.length("top", 0.27 * s.lambda() - up, "Its level part", 0.5, 1.5);
    s.part("Wire", BentWire{{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "up"}, {"-top", "0 m", "up"}}, false});
    s.earth();
    s.feed("Wire", PlaceKind::Start);
    s.transformer("1:1");
    s.goals("2", {"top"});
    s.out().resonate = {{{"top"}}};
    return s.done();
}

Sketched topLoaded(const Order& order) {
    Sketcher s(order, "Top-loaded vertical");
    s.height("tall", std::min(0.13 * s.lambda(), std::max(s.height(), 0.08 * s.lambda())), "Of the vertical",
             0.6, 1.4);
    s.length("hat", 0.09 * s.lambda(), "Of each of the four top wires", 0.4, 1.8);
    s.tube("Vertical", StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    Fan hat;
    hat.hub = {"0 m", "0 m", "tall"};
    hat.length = "hat";
    hat.slope = "30 deg";
    s.part("Top wires", hat);
    s.earth();
    s.feed("Vertical", PlaceKind::Start);
    s.transformer("1:2");
    s.goals("2", {"hat"});
    s.out().resonate = {{{"hat"}}};
    return s.done();
}

Sketched coilLoaded(const Order& order) {
    Sketcher s(order, "Coil-loaded vertical");
    s.height("tall", 0.13 * s.lambda(), "Of the vertical", 0.7, 1.4);
    // From the capacitance of its upper half, near enough to begin with.
    const double omega = 2.0 * kPi * 1e6 * s.megahertz();
    const double microhenry = 1e6 * 500.0 / omega;
    s.number("coil", microhenry, "µH, half way up", 0.2 * microhenry, 3.0 * microhenry);
    s.tube("Vertical", StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    Load coil;
    coil.name = "Coil";
    coil.part = "Vertical";
    coil.place.kind = PlaceKind::Middle;
    coil.inductance = "coil";
    coil.coilQ = "300";
    s.out().design.loads.push_back(coil);
    s.earth();
    s.feed("Vertical", PlaceKind::Start);
    s.transformer("1:2");
    s.goals("2", {"coil"});
    s.out().resonate = {{{"coil"}}};
    return s.done();
}

Sketched phasedPair(const Order& order) {
    Sketcher s(order, "Phased pair");
    s.length("tall", 0.24 * s.lambda(), "Of each vertical");
    s.height("spacing", 0.25 * s.lambda(), "Between them", 0.5, 2.0);
    s.tube("Vertical", StraightWire{{"-spacing/2", "0 m", "0 m"}, {"-spacing/2", "0 m", "tall"}}, tubeFor(s));
    s.earth("12");
    Design& d = s.out().design;
    auto& radials = std::get<RadialSystem>(d.parts.back().shape);
    radials.foot[0] = "-spacing/2";
    radials.length = Sketcher::metres(std::min(0.12 * s.lambda(), 10.0));
    s.feed("Vertical", PlaceKind::Start);
    Copy pair;
    pair.name = "Pair";
    pair.kind = CopyKind::Shift;
    pair.step = {"spacing", "0 m", "0 m"};
    d.copies.push_back(pair);
    const auto set = [&](const char* name, const char* first, const char* second) {
        DriveSet made;
        made.name = name;
        made.driven = {{"Feed (1)", "1", first, {}, {}}, {"Feed (2)", "1", second, {}, {}}};
        d.driveSets.push_back(made);
    };
    set("To the front", "0 deg", "-90 deg");
    set("To the rear", "-90 deg", "0 deg");
    set("Broadside", "0 deg", "0 deg");
    d.driveSet = 0;
    s.goals("2", {"tall"});
    s.out().resonate = {{{"tall"}}};
    return s.done();
}

Sketched fourSquare(const Order& order) {
    Sketcher s(order, "Four in a square");
    s.length("tall", 0.24 * s.lambda(), "Of each vertical");
    s.height("side", 0.25 * s.lambda(), "Of the square", 0.5, 2.0);
    s.tube("Vertical", StraightWire{{"-side/sqrt(2)", "0 m", "0 m"}, {"-side/sqrt(2)", "0 m", "tall"}},
           tubeFor(s));
    s.earth("8");
    Design& d = s.out().design;
    auto& radials = std::get<RadialSystem>(d.parts.back().shape);
    radials.foot[0] = "-side/sqrt(2)";
    radials.length = Sketcher::metres(std::min(0.12 * s.lambda(), 8.0));
    s.feed("Vertical", PlaceKind::Start);
    Copy square;
    square.name = "Square";
    square.kind = CopyKind::Rotate;
    square.count = "4";
    d.copies.push_back(square);
    DriveSet set;
    set.name = "To the front";
    set.driven = {{"Feed (1)", "1", "0 deg", {}, {}},
                  {"Feed (2)", "1", "-90 deg", {}, {}},
                  {"Feed (3)", "1", "-180 deg", {}, {}},
                  {"Feed (4)", "1", "-90 deg", {}, {}}};
    d.driveSets.push_back(set);
    d.driveSet = 0;
    s.goals("2.5", {"tall"});
    s.out().resonate = {{{"tall"}}};
    return s.done();
}

}  // namespace

std::vector<Recipe> verticalRecipes() {
    return {
        {{"vertical", "Vertical on radials", "Verticals",
          "Low angles all round from a small plot; as good as its radials.", 1, 1.8e6, 60e6},
         vertical},
        {{"ground-plane", "Elevated ground plane", "Verticals",
          "Four radials in the air do what many in the ground do; 50 ohm when they droop.", 1, 3.5e6, 450e6},
         groundPlane},
        {{"five-eighths", "Five-eighths vertical", "Verticals",
          "The most that a single vertical gives at low angles; a coil at its base brings it to 50 ohm.", 1,
          6e6, 150e6},
         fiveEighths},
        {{"inverted-l", "Inverted L on radials", "Verticals",
          "A quarter wave that is bent over: low bands with a mast of ten metres.", 1, 1.8e6, 15e6},
         invertedL},
        {{"top-loaded", "Top-loaded vertical", "Verticals",
          "Half the height, most of the efficiency: the wires at its top carry the current up.", 1, 1.8e6,
          30e6},
         topLoaded},
        {{"coil-loaded", "Coil-loaded vertical", "Verticals",
          "Short and simple; the coil warms up and the band gets narrow.", 1, 1.8e6, 30e6},
         coilLoaded},
        {{"phased-pair", "Phased pair", "Verticals",
          "Two verticals, three directions at the turn of a switch.", 1, 1.8e6, 30e6},
         phasedPair},
        {{"four-square", "Four in a square", "Verticals", "Gain and a quiet back in four directions.", 1,
          1.8e6, 30e6},
         fourSquare},
    };
}

}  // namespace rm::starters
