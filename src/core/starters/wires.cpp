// Starters of wire between supports: dipoles, end-fed wires, and wires for several bands.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/starters/sketcher.h"
#include "core/words/words.h"

namespace rm::starters {

namespace {

using namespace rm::model;

Sketched dipole(const Order& order) {
    Sketcher s(order, say("Half-wave dipole"));
    s.length("span", 0.475 * s.lambda(), say("From end to end"));
    s.level(say("Dipole"), "span");
    s.feed(say("Dipole"));
    s.goals("1.5", {"span"});
    s.out().resonate = {{{"span"}}};
    return s.done();
}

Sketched invertedV(const Order& order) {
    Sketcher s(order, say("Inverted V"));
    const double leg = 0.243 * s.lambda();
    s.height("apex", std::max(s.height(), 0.55 * leg + 2.0), say("Height of the apex"), 0.6, 1.4);
    s.length("leg", leg, say("Length of each leg"));
    s.angle("spread", 120, say("Angle between the legs"), 80, 180);
    InvertedV vee;
    vee.apexHeight = "apex";
    vee.leg = "leg";
    vee.angle = "spread";
    s.part(say("Inverted V"), vee);
    s.feed(say("Inverted V"));
    s.goals("1.5", {"leg", "spread"});
    s.out().resonate = {{{"leg"}}};
    return s.done();
}

Sketched offCentre(const Order& order) {
    Sketcher s(order, say("Off-centre-fed dipole"));
    s.length("span", 0.475 * s.lambda(), say("From end to end"));
    s.level(say("Dipole"), "span");
    s.number("feed_at", 33.3, say("Where it is fed, percent of the span"), 10, 49);
    s.feed(say("Dipole"), PlaceKind::Percent, "feed_at");
    s.transformer("4:1");
    s.bands(9);
    s.goals("3", {"span", "feed_at"}, true);
    s.out().resonate = {{{"span"}}};
    return s.done();
}

/// What every end-fed half-wave has: a short counterpoise, a transformer, and its goals.
void endFed(Sketcher& s) {
    s.length("counter", 0.05 * s.lambda(), say("Length of the counterpoise"), 0.3, 3.0);
    FeedBlock transformer;
    transformer.kind = BlockKind::Transformer;
    transformer.name = say("Transformer");
    transformer.ratio = "49:1";
    s.block(transformer);
    s.out().transform = true;
    s.bands(9);
    s.goals("2", {"run", "counter"}, true);
    s.out().resonate = {{{"run"}}};
}

/// Feed points of end-fed wires hang where hands reach them.
double footOf(const Sketcher& s) {
    return std::min(1.5, 0.3 * s.height());
}

Sketched sloper(const Order& order) {
    Sketcher s(order, say("End-fed half-wave, sloper"));
    const double run = 0.49 * s.lambda();
    const double foot = footOf(s);
    const double slope = std::asin(std::clamp((s.height() - foot) / run, 0.05, 0.87)) / kDegree;
    s.length("run", run, say("Length of the wire"));
    s.angle("slope", std::round(slope), say("How steep it rises"), 3, 75);
    s.height("foot", foot, say("Height of the feedpoint"), 0.5, 2.0);
    s.part(say("Wire"),
           StraightWire{{"0 m", "0 m", "foot"}, {"-run*cos(slope)", "0 m", "foot + run*sin(slope)"}});
    s.part(say("Counterpoise"), StraightWire{{"0 m", "0 m", "foot"}, {"counter", "0 m", "foot"}});
    s.feed(say("Wire"), PlaceKind::Start);
    endFed(s);
    return s.done();
}

Sketched endFedL(const Order& order) {
    Sketcher s(order, say("End-fed half-wave, inverted L"));
    const double run = 0.49 * s.lambda();
    const double foot = footOf(s);
    s.length("run", run, say("Length of the wire"));
    s.height("top", std::min(s.height(), foot + 0.6 * run), say("Height of its level part"), 0.6, 1.4);
    s.height("foot", foot, say("Height of the feedpoint"), 0.5, 2.0);
    s.part(say("Wire"),
           BentWire{{{"0 m", "0 m", "foot"}, {"0 m", "0 m", "top"}, {"-(run - top + foot)", "0 m", "top"}},
                    false});
    s.part(say("Counterpoise"), StraightWire{{"0 m", "0 m", "foot"}, {"counter", "0 m", "foot"}});
    s.feed(say("Wire"), PlaceKind::Start);
    endFed(s);
    return s.done();
}

Sketched endFedV(const Order& order) {
    Sketcher s(order, say("End-fed half-wave, inverted V"));
    const double run = 0.49 * s.lambda();
    const double foot = footOf(s);
    s.length("run", run, say("Length of the wire"));
    s.height("apex", std::min(s.height(), foot + 0.5 * run * std::sin(35.0 * kDegree)),
             say("Height of the apex"), 0.6, 1.6);
    s.angle("lean", 35, say("Of both legs below the horizon"), 15, 60);
    s.height("foot", foot, say("Height of the feedpoint"), 0.5, 2.0);
    s.part(say("Wire"), BentWire{{{"0 m", "-(apex - foot)/tan(lean)", "foot"},
                                  {"0 m", "0 m", "apex"},
                                  {"0 m", "(run - (apex - foot)/sin(lean))*cos(lean)",
                                   "apex - (run - (apex - foot)/sin(lean))*sin(lean)"}},
                                 false});
    s.part(say("Counterpoise"), StraightWire{{"0 m", "-(apex - foot)/tan(lean)", "foot"},
                                             {"0 m", "-(apex - foot)/tan(lean) - counter", "foot"}});
    s.feed(say("Wire"), PlaceKind::Start);
    endFed(s);
    return s.done();
}

Sketched doublet(const Order& order) {
    Sketcher s(order, say("Doublet with open line"));
    s.length("span", 0.44 * s.lambda(), say("From end to end"), 0.5, 2.0);
    s.level(say("Doublet"), "span");
    s.feed(say("Doublet"));
    s.length("ladder", std::max(4.0, s.height()), say("Open line from the wire to the matching network"), 0.5,
             2.0);
    FeedBlock line;
    line.kind = BlockKind::Cable;
    line.name = say("Open line");
    line.line = "ladder 450";
    line.length = "ladder";
    s.block(line);
    s.goals("1.5", {"span", "ladder"});
    s.out().match = true;
    return s.done();
}

Sketched fanDipole(const Order& order) {
    Sketcher s(order, say("Fan dipole"));
    const double low = wavelengthM(
        std::min_element(order.bands.begin(), order.bands.end(), [](const auto& a, const auto& b) {
            return a.lowHz < b.lowHz;
        })->centreHz());
    s.height("apex", std::max(s.height(), 0.12 * low + 2.0), say("Height of the middle"), 0.6, 1.4);
    std::vector<std::string> legs;
    std::vector<std::string> names;
    for (std::size_t b = 0; b < std::min<std::size_t>(2, order.bands.size()); ++b) {
        const double lambda = wavelengthM(order.bands[b].centreHz());
        const std::string leg = fmt::format("leg{}", b + 1);
        legs.push_back(s.length(leg, 0.243 * lambda, say("Of each leg for ") + order.bands[b].name));
        InvertedV vee;
        vee.apexHeight = "apex";
        vee.leg = leg;
        vee.angle = b == 0 ? "140 deg" : "100 deg";
        names.push_back(say("Dipole ") + order.bands[b].name);
        s.part(names.back(), vee);
        s.out().resonate.push_back({{leg}, b});
    }
    s.feed(names.front(), PlaceKind::Corner, "1");
    if (names.size() > 1) s.out().design.feeds.back().with = {names[1]};
    s.bands(2);
    s.goals("2", legs, true);
    return s.done();
}

Sketched trapDipole(const Order& order) {
    Sketcher s(order, say("Trap dipole"));
    // The traps block the higher band.
    std::size_t high = 0;
    std::size_t low = 0;
    if (order.bands.size() > 1) (order.bands[1].lowHz > order.bands[0].lowHz ? high : low) = 1;
    const double highM = wavelengthM(order.bands[high].centreHz());
    const double lowM = wavelengthM(order.bands[low].centreHz());
    s.length("inner", 0.237 * highM, say("From the feed to each trap"));
    s.length("outer", high == low ? 0.1 * lowM : std::max(0.08 * highM, 0.19 * lowM - 0.237 * highM),
             say("From each trap to the end"), 0.5, 1.5);
    s.part(say("Dipole"), StraightWire{{"0 m", "-(inner + outer)", "0 m"}, {"0 m", "inner + outer", "0 m"}});
    s.feed(say("Dipole"));
    for (const char* place : {"outer", "-outer"}) {
        Load trap;
        trap.name = place[0] == '-' ? say("Left trap") : say("Right trap");
        trap.part = say("Dipole");
        trap.place = {PlaceKind::Distance, place, "", {}};
        trap.form = LoadForm::Trap;
        trap.coilQ = "200";
        trap.trapFrequency = fmt::format("{:.6g} MHz", order.bands[high].centreHz() / 1e6);
        trap.trapReactance = "180";
        s.out().design.loads.push_back(trap);
    }
    s.raise(s.height());
    s.bands(2);
    s.goals("2", {"inner", "outer"}, true);
    if (high != low) s.out().resonate = {{{"inner"}, high}, {{"outer"}, low}};
    return s.done();
}

Sketched uprightDipole(const Order& order) {
    Sketcher s(order, say("Vertical dipole"));
    s.length("span", 0.47 * s.lambda(), say("From end to end"));
    s.height("base", s.grounded() ? std::max(1.0, 0.02 * s.lambda()) : 1.0, say("Height of its lower end"),
             0.5, 3.0);
    s.part(say("Dipole"), StraightWire{{"0 m", "0 m", "base"}, {"0 m", "0 m", "base + span"}});
    s.feed(say("Dipole"));
    s.goals("2", {"span"});
    s.out().resonate = {{{"span"}}};
    return s.done();
}

Sketched jFed(const Order& order) {
    Sketcher s(order, say("J-shaped end-fed"));
    const double gap = std::clamp(0.02 * s.lambda(), 0.03, 0.12);
    s.length("long", 0.735 * s.lambda(), say("Of the long leg"));
    s.length("short", 0.24 * s.lambda(), say("Of the short leg"));
    s.length("tap", 0.03 * s.lambda(), say("From the bottom to the feed"), 0.3, 2.5);
    s.length("gap", gap, say("Between the legs"), 0.5, 2.0);
    s.tube(
        "J",
        BentWire{
            {{"0 m", "0 m", "long"}, {"0 m", "0 m", "0 m"}, {"0 m", "gap", "0 m"}, {"0 m", "gap", "short"}},
            false},
        std::clamp(0.002 * s.lambda(), 0.004, 0.016));
    s.tube(say("Feed bridge"), StraightWire{{"0 m", "0 m", "tap"}, {"0 m", "gap", "tap"}}, 0.003);
    s.feed(say("Feed bridge"));
    s.raise(std::max(2.0, s.height() - 0.4 * s.lambda()));
    s.goals("1.5", {"long", "short", "tap"});
    s.out().tune = true;
    return s.done();
}

}  // namespace

std::vector<Recipe> wireRecipes() {
    return {
        {{"dipole", say("Half-wave dipole"), say("Dipoles"),
          say("The measure of all others: two supports, no surprises, broadside both ways when it is half a "
              "wave "
              "up.")},
         dipole},
        {{"inverted-v", say("Inverted V"), say("Dipoles"),
          say("One mast holds it. Nearly a dipole, rounder, and closer to 50 ohm.")},
         invertedV},
        {{"off-centre", say("Off-centre-fed dipole"), say("Dipoles"),
          say("One wire for several bands where a third of it suits them all; wants a good choke."), 9},
         offCentre},
        {{"doublet", say("Doublet with open line"), say("Dipoles"),
          say("Any length, any band: open line loses little, and a network at its end does the matching.")},
         doublet},
        {{"fan-dipole", say("Fan dipole"), say("Dipoles"),
          say("Two dipoles on one feed: a band each, no traps, no loss."), 2},
         fanDipole},
        {{"trap-dipole", say("Trap dipole"), say("Dipoles"),
          say("Two bands on a shorter wire; the traps cost a few tenths of a decibel and some bandwidth."),
          2},
         trapDipole},
        {{"vertical-dipole", say("Vertical dipole"), say("Dipoles"),
          say("Low angles all round without radials; its lower end stays off the ground.")},
         uprightDipole},
        {{"end-fed-sloper", say("End-fed half-wave, sloper"), say("End-fed wires"),
          say("Fed where you can reach it, up to one high point; a little gain the way it slopes."), 9},
         sloper},
        {{"end-fed-l", say("End-fed half-wave, inverted L"), say("End-fed wires"),
          say("Up a mast and away: its upright part helps at low angles."), 9},
         endFedL},
        {{"end-fed-v", say("End-fed half-wave, inverted V"), say("End-fed wires"),
          say("Over one mast, fed at its foot end: quickly up, quickly down."), 9},
         endFedV},
        {{"j-fed", say("J-shaped end-fed"), say("End-fed wires"),
          say("Half a wave on its own matching section: a mast-top antenna for VHF, no radials."), 1, 24e6,
          450e6},
         jFed},
    };
}

}  // namespace rm::starters
