// Starters that close on themselves: full-wave loops, pairs of them, bent pairs, and small loops.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/starters/sketcher.h"
#include "core/words/words.h"

namespace rm::starters {

namespace {

using namespace rm::model;

RegularLoop loop(const std::string& sides, const std::string& size, const std::string& tilt,
                 const std::string& z, const std::string& x = "0 m") {
    RegularLoop made;
    made.sides = sides;
    made.size = size;
    made.tilt = tilt;
    made.centre = {x, "0 m", z};
    return made;
}

/// Where the middle of an upright loop must be so that it hangs from `height` and clears the ground.
double middleOf(const Sketcher& s, double above, double below) {
    return s.grounded() ? std::max(s.height() - above, below + 2.0) : 0.0;
}

Sketched flatLoop(const Order& order) {
    Sketcher s(order, say("Horizontal loop"));
    s.length("perimeter", 1.03 * s.lambda(), say("All the wire in it"));
    s.part(say("Loop"), loop("4", "perimeter", "0 deg", "0 m"));
    s.feed(say("Loop"), PlaceKind::Percent, "12.5");
    s.raise(s.height());
    s.transformer("2:1");
    s.bands(9);
    s.goals("2.5", {"perimeter"}, true);
    s.out().resonate = {{{"perimeter"}}};
    return s.done();
}

Sketched deltaLoop(const Order& order) {
    Sketcher s(order, say("Delta loop"));
    const double perimeter = 1.04 * s.lambda();
    const double radius = perimeter / 3.0 / std::sqrt(3.0);
    s.length("perimeter", perimeter, say("All the wire in it"));
    s.height("middle", middleOf(s, radius, 0.5 * radius), say("Height of its centre"), 0.7, 1.4);
    s.part(say("Loop"), loop("3", "perimeter", "90 deg", "middle"));
    s.feed(say("Loop"), PlaceKind::Percent, "100/6");
    s.transformer("2:1");
    s.goals("1.6", {"perimeter"});
    s.out().resonate = {{{"perimeter"}}};
    return s.done();
}

Sketched quadLoop(const Order& order) {
    Sketcher s(order, say("Quad loop"));
    const double perimeter = 1.03 * s.lambda();
    s.length("perimeter", perimeter, say("All the wire in it"));
    s.height("middle", middleOf(s, perimeter / 8.0, perimeter / 8.0), say("Height of its centre"), 0.7, 1.4);
    s.part(say("Loop"), loop("4", "perimeter", "90 deg", "middle"));
    s.feed(say("Loop"), PlaceKind::Percent, "12.5");
    s.transformer("2:1");
    s.goals("1.6", {"perimeter"});
    s.out().resonate = {{{"perimeter"}}};
    return s.done();
}

Sketched twoQuad(const Order& order) {
    Sketcher s(order, say("Two-element quad"));
    const double driven = 1.02 * s.lambda();
    s.length("driven", driven, say("Perimeter of the driven loop"), 0.9, 1.1);
    s.length("reflector", 1.05 * driven, say("Perimeter of the reflector"), 0.9, 1.1);
    s.length("spacing", 0.14 * s.lambda(), say("Between the loops"), 0.7, 1.5);
    s.height("middle", middleOf(s, driven / 8.0, driven / 8.0), say("Height of the centres"), 0.7, 1.4);
    s.part(say("Driven loop"), loop("4", "driven", "90 deg", "middle"));
    s.part(say("Reflector loop"), loop("4", "reflector", "90 deg", "middle", "-spacing"));
    s.feed(say("Driven loop"), PlaceKind::Percent, "12.5");
    FeedBlock balun;
    balun.kind = BlockKind::Transformer;
    balun.name = say("Transformer");
    balun.ratio = "2:1";
    s.block(balun);
    s.goals("1.5", {"driven", "reflector", "spacing"});
    s.goal(GoalKind::FrontToRear, "10", 2);
    s.goal(GoalKind::Gain, "", 2);
    s.out().tune = true;
    return s.done();
}

Sketched bentPair(const Order& order) {
    Sketcher s(order, say("Bent pair, tips facing"));
    s.length("wide", 0.36 * s.lambda(), say("From side to side"), 0.85, 1.15);
    s.length("tail", 0.052 * s.lambda(), say("Bent back, of the driven element"), 0.5, 1.6);
    s.length("gap", 0.013 * s.lambda(), say("Between the tips"), 0.5, 2.5);
    s.length("back", 0.066 * s.lambda(), say("Bent forward, of the reflector"), 0.5, 1.6);
    s.part(say("Driven"), BentWire{{{"-tail", "wide/2", "0 m"},
                                    {"0 m", "wide/2", "0 m"},
                                    {"0 m", "-wide/2", "0 m"},
                                    {"-tail", "-wide/2", "0 m"}},
                                   false});
    s.part(say("Reflector"), BentWire{{{"-(tail + gap)", "wide/2", "0 m"},
                                       {"-(tail + gap + back)", "wide/2", "0 m"},
                                       {"-(tail + gap + back)", "-wide/2", "0 m"},
                                       {"-(tail + gap)", "-wide/2", "0 m"}},
                                      false});
    s.feed(say("Driven"));
    s.raise(s.height());
    s.goals("1.6", {"wide", "tail", "gap", "back"});
    s.goal(GoalKind::FrontToRear, "12", 2);
    s.out().tune = true;
    return s.done();
}

Sketched smallLoop(const Order& order) {
    Sketcher s(order, say("Small loop with capacitor"));
    const double perimeter = std::clamp(0.2 * s.lambda(), 0.3, 6.0);
    const double radius = perimeter / (2.0 * kPi);
    const double tubeM = std::clamp(0.02 * perimeter / 3.0, 0.004, 0.028);
    s.length("perimeter", perimeter, say("Of the loop"), 0.6, 1.4);
    s.length("coupling", 0.3 * perimeter, say("Perimeter of the small loop that feeds it"), 0.5, 2.0);
    // From the inductance of a ring; then from the loop itself.
    const double inductance = kMu0 * radius * (std::log(8.0 * radius / (0.5 * tubeM)) - 2.0);
    const double omega = 2.0 * kPi * 1e6 * s.megahertz();
    const double picofarad = 1e12 / (omega * omega * inductance);
    s.number("capacitor", picofarad, say("pF, at the top"), 0.5 * picofarad, 1.5 * picofarad);
    Part& main = s.part(say("Loop"), loop("8", "perimeter", "90 deg", "perimeter/6"));
    main.conductor = {"copper", fmt::format("{:.3g} mm", 1e3 * tubeM), "", "3", {}};
    s.part(say("Coupling loop"), loop("8", "coupling", "90 deg",
                                      "perimeter/6 - perimeter*0.1508 + coupling*0.16 + perimeter*0.012"));
    s.feed(say("Coupling loop"), PlaceKind::Percent, "6.25");
    Load capacitor;
    capacitor.name = say("Capacitor");
    capacitor.part = say("Loop");
    capacitor.place = {PlaceKind::Percent, "56.25", "", {}};
    capacitor.capacitance = "capacitor";
    s.out().design.loads.push_back(capacitor);
    s.raise(std::max(1.0, std::min(2.0, s.height() - perimeter / 3.0)));
    s.goals("2", {"capacitor", "coupling"});
    // It is narrower than any band: where it is tuned to counts.
    s.out().design.tune.goals.front().from = s.out().design.designFrequency;
    s.out().loopCapacitor = "capacitor";
    s.out().loopCoupling = "coupling";
    return s.done();
}

Sketched halfLoop(const Order& order) {
    Sketcher s(order, say("Earthed half loop"));
    const double up = std::min(0.15 * s.lambda(), std::max(s.height(), 0.1 * s.lambda()));
    const double across = 0.5 * s.lambda() - 2.0 * up;
    s.length("up", up, say("Height of the loop"), 0.6, 1.5);
    s.length("across", across, say("Between its feet"), 0.5, 1.6);
    s.part(say("Half loop"), BentWire{{{"0 m", "-across/2", "0 m"},
                                       {"0 m", "-across/2", "up"},
                                       {"0 m", "across/2", "up"},
                                       {"0 m", "across/2", "0 m"}},
                                      false});
    for (const char* at : {"-across/2", "across/2"}) {
        RadialSystem radials;
        radials.foot = {"0 m", at, "0 m"};
        radials.count = "8";
        // Those of the two feet do not meet.
        radials.length = Sketcher::metres(std::min({0.12 * s.lambda(), 6.0, 0.38 * across}));
        radials.depth = order.site.ground == GroundKind::Real ? "5 cm" : "0 m";
        s.part(at[0] == '-' ? say("Earth at the feed") : say("Earth at the far foot"), radials);
    }
    s.feed(say("Half loop"), PlaceKind::Start);
    s.transformer("1:1");
    s.goals("2", {"across"});
    s.out().resonate = {{{"across"}}};
    return s.done();
}

}  // namespace

std::vector<Recipe> loopRecipes() {
    return {
        {{"flat-loop", say("Horizontal loop"), say("Loops"),
          say("A wave of wire round the garden: high angles, quiet, several bands."), 9},
         flatLoop},
        {{"delta-loop", say("Delta loop"), say("Loops"),
          say("One high point, a decibel over a dipole, low angles when fed at the side.")},
         deltaLoop},
        {{"quad-loop", say("Quad loop"), say("Loops"),
          say("Full size in half the width of a dipole, a decibel more."), 1, 6e6, 150e6},
         quadLoop},
        {{"two-quad", say("Two-element quad"), say("Loops"), say("Gain and a quiet back on a short boom."), 1,
          13e6, 150e6},
         twoQuad},
        {{"bent-pair", say("Bent pair, tips facing"), say("Loops"),
          say("Two elements folded into a flat rectangle: 50 ohm, a deep null behind, three quarters of the "
              "width."),
          1, 6e6, 150e6},
         bentPair},
        {{"small-loop", say("Small loop with capacitor"), say("Loops"),
          say("For balconies: narrow, lossy where it is too small, and quiet on receive."), 1, 3.4e6, 60e6},
         smallLoop},
        {{"half-loop", say("Earthed half loop"), say("Loops"),
          say("Half a loop, the ground is the rest: low bands without height."), 1, 1.8e6, 15e6},
         halfLoop},
    };
}

}  // namespace rm::starters
