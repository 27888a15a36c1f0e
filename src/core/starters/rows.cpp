// Starters along a boom: Yagis of three sizes, with a loop as driven element, stacked, and a log-periodic
// row.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/edit/crossed.h"
#include "core/starters/sketcher.h"
#include "core/words/words.h"

namespace rm::starters {

namespace {

using namespace rm::model;

struct At {
    double position;  ///< wavelengths from the reflector
    double length;    ///< wavelengths
};

/// A row of elements in named lengths and places, for its goals to be tuned.
void row(Sketcher& s, const std::vector<At>& elements, const std::string& swr, const std::string& rear) {
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    std::vector<std::string> movers;
    const double lambda = s.lambda();
    for (std::size_t e = 0; e < elements.size(); ++e) {
        RowElement element;
        element.name = e == 0 ? say("reflector") : e == 1 ? say("driven") : say("director {}", e - 1);
        const std::string tag = e == 0 ? "reflector" : e == 1 ? "driven" : fmt::format("director{}", e - 1);
        element.length = s.length(tag, elements[e].length * lambda, say("Tip to tip"), 0.92, 1.08);
        movers.push_back(tag);
        element.position = "0 m";
        if (e > 0) {
            const double at = elements[e].position * lambda;
            // As far as half way to its neighbours.
            const double before = elements[e - 1].position * lambda;
            const double after =
                e + 1 < elements.size() ? elements[e + 1].position * lambda : at + 0.1 * lambda;
            element.position =
                s.length(tag + "_at", at, say("From the reflector"), (at - 0.4 * (at - before)) / at,
                         e + 1 < elements.size() ? (at + 0.4 * (after - at)) / at : 1.0);
            if (e + 1 < elements.size()) movers.push_back(tag + "_at");
        }
        row.elements.push_back(element);
    }
    s.tube(say("Yagi"), row, std::clamp(0.0012 * lambda, 0.005, 0.025));
    Feed& feed = s.feed(say("Yagi"));
    feed.place.element = say("driven");
    s.raise(s.height());
    s.goals(swr, movers);
    s.goal(GoalKind::FrontToRear, rear);
    s.goal(GoalKind::Gain, "", 2);
    s.out().tune = true;
}

const std::vector<At> kThree = {{0.0, 0.49}, {0.19, 0.472}, {0.33, 0.44}};
const std::vector<At> kFive = {{0.0, 0.488}, {0.2, 0.468}, {0.29, 0.452}, {0.51, 0.442}, {0.8, 0.432}};
/// From the lengths that this program found for 144 MHz (eleven elements of 8 mm on 6 m).
const std::vector<At> kEleven = {{0.0, 0.4886},    {0.2022, 0.4645}, {0.2792, 0.4500}, {0.4813, 0.4428},
                                 {0.7461, 0.438},  {1.0493, 0.4332}, {1.3862, 0.4298}, {1.7424, 0.4269},
                                 {2.1178, 0.4245}, {2.5029, 0.4226}, {2.888, 0.4212}};

Sketched three(const Order& order) {
    Sketcher s(order, say("3-element Yagi"));
    row(s, kThree, "1.6", "14");
    return s.done();
}

Sketched five(const Order& order) {
    Sketcher s(order, say("5-element Yagi"));
    row(s, kFive, "1.6", "16");
    return s.done();
}

Sketched eleven(const Order& order) {
    Sketcher s(order, say("11-element Yagi"));
    row(s, kEleven, "1.5", "16");
    return s.done();
}

Sketched loopFed(const Order& order) {
    Sketcher s(order, say("Loop-fed Yagi"));
    row(s, kFive, "1.6", "16");
    Design& d = s.out().design;
    auto& elements = std::get<ElementRow>(d.parts.front().shape).elements;
    elements[1].form = ElementForm::LoopUpright;
    for (auto& dimension : d.dimensions)
        if (dimension.name == "driven") {
            dimension.text = Sketcher::metres(0.31 * s.lambda());
            dimension.low = Sketcher::metres(0.22 * s.lambda());
            dimension.high = Sketcher::metres(0.4 * s.lambda());
        }
    elements[1].gap = s.length("driven_high", 0.2 * s.lambda(), say("Height of the driven loop"), 0.5, 1.6);
    // A loop is near twice as high as the line.
    FeedBlock balun;
    balun.kind = BlockKind::Transformer;
    balun.name = say("Transformer");
    balun.ratio = "2:1";
    s.block(balun);
    Mover mover;
    mover.dimension = "driven_high";
    d.tune.movers.push_back(mover);
    return s.done();
}

Sketched stacked(const Order& order) {
    Sketcher s(order, say("Stacked pair"));
    row(s, kFive, "1.7", "14");
    Design& d = s.out().design;
    Copy stack;
    stack.name = say("Stack");
    stack.rowSpacing = s.length("stacking", 0.75 * s.lambda(), say("From one to the other"), 0.6, 1.6);
    d.copies.push_back(stack);
    return s.done();
}

/// Equal ratios of lengths and of spacings. Source: R. L. Carrel, Analysis and Design of the Log-Periodic
/// Dipole Antenna (1961).
Sketched logPeriodic(const Order& order) {
    Sketcher s(order, say("Log-periodic row"));
    double lowHz = 1e12;
    double highHz = 0.0;
    for (const auto& band : order.bands) {
        lowHz = std::min(lowHz, band.lowHz);
        highHz = std::max(highHz, band.highHz);
    }
    constexpr double kTau = 0.9;
    constexpr double kSigma = 0.05;
    constexpr std::size_t kMost = 16;
    ElementRow row;
    double length = 0.51 * wavelengthM(lowHz);
    double at = 0.0;
    const double least = 0.36 * wavelengthM(highHz);
    for (std::size_t e = 0; e < kMost && (length > least || e < 6); ++e) {
        RowElement element;
        element.name = say("element {}", e + 1);
        element.position = Sketcher::metres(at);
        element.length = Sketcher::metres(length);
        row.elements.push_back(element);
        at += 2.0 * kSigma * length;
        length *= kTau;
    }
    s.tube(say("Row"), row, std::clamp(0.0012 * s.lambda(), 0.006, 0.02));
    Design& design = s.out().design;
    Feed& feed = s.feed(say("Row"));
    feed.place.element = row.elements.back().name;
    design.lines = edit::crossedLines(design, design.parts.back(), "line_ohm");
    s.number("line_ohm", 120, say("Impedance of the crossed line along the boom"), 60, 300);
    s.raise(s.height());
    s.bands(9);
    s.transformer("2:1");
    s.goals("2", {"line_ohm"});
    return s.done();
}

}  // namespace

std::vector<Recipe> rowRecipes() {
    return {
        {{"yagi-3", say("3-element Yagi"), say("Beams"),
          say("The small rotatable beam: seven decibels over isotropic, a quiet back."), 1, 13e6, 450e6},
         three},
        {{"yagi-5", say("5-element Yagi"), say("Beams"), say("More gain on most of a wave of boom."), 1, 20e6,
          450e6},
         five},
        {{"yagi-11", say("11-element Yagi"), say("Beams"), say("Three waves of boom for VHF and up."), 1,
          49e6, 450e6},
         eleven},
        {{"yagi-loop", say("Loop-fed Yagi"), say("Beams"), say("A loop drives it: easier to match, wider."),
          1, 20e6, 450e6},
         loopFed},
        {{"stack", say("Stacked pair"), say("Beams"),
          say("Two Yagis over each other: lower angles, half the beam in height."), 1, 49e6, 450e6},
         stacked},
        {{"log-periodic", say("Log-periodic row"), say("Beams"),
          say("Octaves instead of bands, with the gain of a small Yagi."), 9, 13e6, 450e6},
         logPeriodic},
    };
}

}  // namespace rm::starters
