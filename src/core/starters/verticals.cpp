// Starters that stand: verticals on radials in the ground and above it, shortened ones, and phased ones.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/starters/sketcher.h"
#include "core/words/words.h"

namespace rm::starters {

namespace {

using namespace rm::model;

double tubeFor(const Sketcher& s) {
    return std::clamp(0.0012 * s.lambda(), 0.006, 0.04);
}

Sketched vertical(const Order& order) {
    Sketcher s(order, say("Vertical on radials"));
    s.length("tall", 0.24 * s.lambda(), say("Of the vertical"));
    s.tube(say("Vertical"), StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    s.earth();
    s.feed(say("Vertical"), PlaceKind::Start);
    s.transformer("1:1");
    s.goals("1.6", {"tall"});
    s.out().resonate = {{{"tall"}}};
    return s.done();
}

Sketched groundPlane(const Order& order) {
    Sketcher s(order, say("Elevated ground plane"));
    s.length("tall", 0.24 * s.lambda(), say("Of the vertical"));
    s.length("radial", 0.25 * s.lambda(), say("Of each radial"));
    s.angle("droop", 35, say("Of the radials below the horizon"), 0, 60);
    const double drop = 0.25 * s.lambda() * std::sin(35.0 * kDegree);
    s.height("base", s.grounded() ? std::max(0.4 * s.height(), drop + 1.0) : 1.0, say("Height of the hub"),
             0.5, 2.0);
    s.part(say("Vertical"), StraightWire{{"0 m", "0 m", "base"}, {"0 m", "0 m", "base + tall"}});
    Fan fan;
    fan.hub = {"0 m", "0 m", "base"};
    fan.length = "radial";
    fan.slope = "droop";
    s.part(say("Radials"), fan);
    s.feed(say("Vertical"), PlaceKind::Start);
    s.goals("1.5", {"tall", "radial", "droop"});
    s.out().resonate = {{{"tall", "radial"}}};
    return s.done();
}

Sketched fiveEighths(const Order& order) {
    Sketcher s(order, say("Five-eighths vertical"));
    s.length("tall", 0.62 * s.lambda(), say("Of the vertical"));
    s.tube(say("Vertical"), StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    s.earth();
    s.feed(say("Vertical"), PlaceKind::Start);
    FeedBlock coil;
    coil.kind = BlockKind::Element;
    coil.name = say("Base coil");
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
    Sketcher s(order, say("Inverted L on radials"));
    const double up = std::clamp(s.height(), 0.06 * s.lambda(), 0.2 * s.lambda());
    s.height("up", up, say("Its upright part"), 0.7, 1.3);
    s.length("top", 0.27 * s.lambda() - up, say("Its level part"), 0.5, 1.5);
    s.part(say("Wire"),
           BentWire{{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "up"}, {"-top", "0 m", "up"}}, false});
    s.earth();
    s.feed(say("Wire"), PlaceKind::Start);
    s.transformer("1:1");
    s.goals("2", {"top"});
    s.out().resonate = {{{"top"}}};
    return s.done();
}

Sketched topLoaded(const Order& order) {
    Sketcher s(order, say("Top-loaded vertical"));
    s.height("tall", std::min(0.13 * s.lambda(), std::max(s.height(), 0.08 * s.lambda())),
             say("Of the vertical"), 0.6, 1.4);
    s.length("hat", 0.09 * s.lambda(), say("Of each of the four top wires"), 0.4, 1.8);
    s.tube(say("Vertical"), StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    Fan hat;
    hat.hub = {"0 m", "0 m", "tall"};
    hat.length = "hat";
    hat.slope = "30 deg";
    s.part(say("Top wires"), hat);
    s.earth();
    s.feed(say("Vertical"), PlaceKind::Start);
    s.transformer("1:2");
    s.goals("2", {"hat"});
    s.out().resonate = {{{"hat"}}};
    return s.done();
}

Sketched coilLoaded(const Order& order) {
    Sketcher s(order, say("Coil-loaded vertical"));
    s.height("tall", 0.13 * s.lambda(), say("Of the vertical"), 0.7, 1.4);
    // From the capacitance of its upper half, near enough to begin with.
    const double omega = 2.0 * kPi * 1e6 * s.megahertz();
    const double microhenry = 1e6 * 500.0 / omega;
    s.number("coil", microhenry, say("µH, half way up"), 0.2 * microhenry, 3.0 * microhenry);
    s.tube(say("Vertical"), StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "tall"}}, tubeFor(s));
    Load coil;
    coil.name = say("Coil");
    coil.part = say("Vertical");
    coil.place.kind = PlaceKind::Middle;
    coil.inductance = "coil";
    coil.coilQ = "300";
    s.out().design.loads.push_back(coil);
    s.earth();
    s.feed(say("Vertical"), PlaceKind::Start);
    s.transformer("1:2");
    s.goals("2", {"coil"});
    s.out().resonate = {{{"coil"}}};
    return s.done();
}

Sketched phasedPair(const Order& order) {
    Sketcher s(order, say("Phased pair"));
    s.length("tall", 0.24 * s.lambda(), say("Of each vertical"));
    s.height("spacing", 0.25 * s.lambda(), say("Between them"), 0.5, 2.0);
    s.tube(say("Vertical"), StraightWire{{"-spacing/2", "0 m", "0 m"}, {"-spacing/2", "0 m", "tall"}},
           tubeFor(s));
    s.earth("12");
    Design& d = s.out().design;
    auto& radials = std::get<RadialSystem>(d.parts.back().shape);
    radials.foot[0] = "-spacing/2";
    radials.length = Sketcher::metres(std::min(0.12 * s.lambda(), 10.0));
    s.feed(say("Vertical"), PlaceKind::Start);
    Copy pair;
    pair.name = say("Pair");
    pair.kind = CopyKind::Shift;
    pair.step = {"spacing", "0 m", "0 m"};
    d.copies.push_back(pair);
    const auto set = [&](const std::string& name, const char* first, const char* second) {
        DriveSet made;
        made.name = name;
        made.driven = {{say("Feed") + " (1)", "1", first, {}, {}},
                       {say("Feed") + " (2)", "1", second, {}, {}}};
        d.driveSets.push_back(made);
    };
    set(say("To the front"), "0 deg", "-90 deg");
    set(say("To the rear"), "-90 deg", "0 deg");
    set(say("Broadside"), "0 deg", "0 deg");
    d.driveSet = 0;
    s.goals("2", {"tall"});
    s.out().resonate = {{{"tall"}}};
    return s.done();
}

Sketched fourSquare(const Order& order) {
    Sketcher s(order, say("Four in a square"));
    s.length("tall", 0.24 * s.lambda(), say("Of each vertical"));
    s.height("side", 0.25 * s.lambda(), say("Of the square"), 0.5, 2.0);
    s.tube(say("Vertical"), StraightWire{{"-side/sqrt(2)", "0 m", "0 m"}, {"-side/sqrt(2)", "0 m", "tall"}},
           tubeFor(s));
    s.earth("8");
    Design& d = s.out().design;
    auto& radials = std::get<RadialSystem>(d.parts.back().shape);
    radials.foot[0] = "-side/sqrt(2)";
    radials.length = Sketcher::metres(std::min(0.12 * s.lambda(), 8.0));
    s.feed(say("Vertical"), PlaceKind::Start);
    Copy square;
    square.name = say("Square");
    square.kind = CopyKind::Rotate;
    square.count = "4";
    d.copies.push_back(square);
    DriveSet set;
    set.name = say("To the front");
    set.driven = {{say("Feed") + " (1)", "1", "0 deg", {}, {}},
                  {say("Feed") + " (2)", "1", "-90 deg", {}, {}},
                  {say("Feed") + " (3)", "1", "-180 deg", {}, {}},
                  {say("Feed") + " (4)", "1", "-90 deg", {}, {}}};
    d.driveSets.push_back(set);
    d.driveSet = 0;
    s.goals("2.5", {"tall"});
    s.out().resonate = {{{"tall"}}};
    return s.done();
}

}  // namespace

std::vector<Recipe> verticalRecipes() {
    return {
        {{"vertical", say("Vertical on radials"), say("Verticals"),
          say("Low angles all round from a small plot; as good as its radials."), 1, 1.8e6, 60e6},
         vertical},
        {{"ground-plane", say("Elevated ground plane"), say("Verticals"),
          say("Four radials in the air do what many in the ground do; 50 ohm when they droop."), 1, 3.5e6,
          450e6},
         groundPlane},
        {{"five-eighths", say("Five-eighths vertical"), say("Verticals"),
          say("The most that a single vertical gives at low angles; a coil at its base brings it to 50 ohm."),
          1, 6e6, 150e6},
         fiveEighths},
        {{"inverted-l", say("Inverted L on radials"), say("Verticals"),
          say("A quarter wave that is bent over: low bands with a mast of ten metres."), 1, 1.8e6, 15e6},
         invertedL},
        {{"top-loaded", say("Top-loaded vertical"), say("Verticals"),
          say("Half the height, most of the efficiency: the wires at its top carry the current up."), 1,
          1.8e6, 30e6},
         topLoaded},
        {{"coil-loaded", say("Coil-loaded vertical"), say("Verticals"),
          say("Short and simple; the coil warms up and the band gets narrow."), 1, 1.8e6, 30e6},
         coilLoaded},
        {{"phased-pair", say("Phased pair"), say("Verticals"),
          say("Two verticals, three directions at the turn of a switch."), 1, 1.8e6, 30e6},
         phasedPair},
        {{"four-square", say("Four in a square"), say("Verticals"),
          say("Gain and a quiet back in four directions."), 1, 1.8e6, 30e6},
         fourSquare},
    };
}

}  // namespace rm::starters
