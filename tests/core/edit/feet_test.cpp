// What the program writes into a project that is read in feet and inches.
#include "core/edit/feet.h"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/edit/designs.h"
#include "core/edit/drawn.h"
#include "core/edit/supports.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"
#include "core/starters/starter.h"

using namespace rm;
using namespace rm::model;

namespace {

double wireM(const Expansion& expansion) {
    double sum = 0.0;
    for (const auto& wire : expansion.model.wires) sum += wire.lengthM();
    return sum;
}

bool isMetric(const std::string& text) {
    return text.find(" m") != std::string::npos || text.find("cm") != std::string::npos;
}

Project inFeetNow() {
    Project p = edit::starterProject(true);
    CHECK(p.active().site.height == "33 ft");
    CHECK_FALSE(isMetric(p.active().dimensions.front().text));
    p.active().site.height = "0 ft";
    return p;
}

}  // namespace

TEST_CASE("a length in feet is a mark of the tape where it is one, and reads back as itself") {
    CHECK(edit::feetText(20.1168) == "66' 0\"");
    CHECK(edit::feetText(-0.1524) == "-0' 6\"");
    CHECK(edit::feetText(10.0 * 0.3048 + 0.0254 / 16.0) == "10' 0 1/16\"");
    CHECK(edit::feetText(0.0) == "0 ft");
    for (const double m : {10.0, -3.217, 0.05, 123.456, 1.5 * 0.0254}) {
        const std::string text = edit::feetText(m);
        INFO(text);
        CHECK(quantity::evaluate(text, quantity::Kind::Length, {}) == Approx(m).margin(5e-5));
        CHECK_FALSE(isMetric(text));
    }
}

TEST_CASE("starters in feet are the same antennas: as many joints, no wire longer by more than a mark") {
    starters::Order order;
    order.site.ground = GroundKind::Real;
    for (const auto& kind : starters::kinds()) {
        INFO(kind.id);
        const double hz = std::sqrt(kind.lowestHz * kind.highestHz);
        order.bands = {{"Band", 0.99 * hz, 1.01 * hz, {}}, {"Other", 1.49 * hz, 1.51 * hz, {}}};
        const Design metric = starters::sketch(kind.id, order);
        const Design feet = edit::inFeet(metric);
        for (const auto& d : feet.dimensions)
            if (d.kind == DimensionKind::Length) CHECK_FALSE(isMetric(d.text + d.low + d.high));
        const Expansion before = expand(metric);
        const Expansion after = expand(feet);
        CHECK(after.joints.size() == before.joints.size());
        CHECK(after.findings.size() == before.findings.size());
        REQUIRE(after.model.wires.size() == before.model.wires.size());
        const double mark = 0.0254 / 8.0;
        for (std::size_t i = 0; i < after.model.wires.size(); ++i)
            CHECK(after.model.wires[i].lengthM() ==
                  Approx(before.model.wires[i].lengthM()).margin(2.0 * mark).epsilon(0.002));
        CHECK(after.heightM == Approx(before.heightM).margin(1.5 * mark));
        CHECK(wireM(after) == Approx(wireM(before)).epsilon(0.002));
    }
}

TEST_CASE("sentences tell lengths in the unit that is read, metres at the start") {
    CHECK(quantity::said(10.0, 2) == "10.00 m");
    Project p = edit::starterProject();
    p.active().site.ground = GroundKind::Perfect;
    p.active().site.height = "-0.5 m";
    const auto sentence = [&] {
        const auto expansion = expand(p.active());
        REQUIRE_FALSE(expansion.findings.empty());
        return expansion.findings.front().sentence + " " + expansion.findings.front().mend;
    };
    CHECK_THAT(sentence(), Catch::Contains("reaches 0.50 m below") && Catch::Contains("antenna by 0.50 m"));
    quantity::sayLengths(quantity::LengthStyle::FeetInches);
    CHECK(quantity::said(10.0, 2) == "32' 9 3/4\"");
    CHECK(quantity::said(10.0, 1) == "32.8 ft");
    CHECK_THAT(sentence(), Catch::Contains("reaches 1' 7 11/16\" below"));
    quantity::sayLengths(quantity::LengthStyle::Metric);
}

TEST_CASE("what is drawn, added and named in a project in feet is in feet") {
    Project p = inFeetNow();
    const Vec3 top(0.0, 0.0, 12.192);
    p = edit::addDrawn(p, {Vec3(0.0, 0.0, 3.048), top, top + Vec3(20.1168, 0.0, 0.0)}, false).project;
    const auto& bent = std::get<BentWire>(p.active().parts.back().shape);
    CHECK(bent.points[1][2] == "40' 0\"");
    CHECK(bent.points[2][0] == "66' 0\"");
    p = edit::nameLengths(p, p.active().parts.back().id);
    CHECK(p.active().dimensions.back().text == "66' 0\"");
    p = edit::addSupport(p, SupportKind::Tree, 3.048, 0.0).project;
    CHECK(p.active().site.supports.back().height == "39' 6\"");
    CHECK(p.active().site.supports.back().east == "10' 0\"");
    p = edit::addDimension(p).project;
    CHECK(p.active().dimensions.back().text == "30 ft");
    for (int kind = 0; kind <= static_cast<int>(edit::PartKind::Cable); ++kind) {
        p = edit::addPart(p, static_cast<edit::PartKind>(kind), 20.0).project;
        const Part& part = p.active().parts.back();
        INFO(part.name);
        CHECK(edit::inFeet(part) == part);
    }
    p = edit::newDesign(p);
    CHECK_FALSE(isMetric(p.active().dimensions.front().text));
    // In metres nothing changes.
    p = edit::starterProject();
    p.active().site.height = "0 m";
    p = edit::addDrawn(p, {Vec3(0.0, 0.0, 3.048), Vec3(0.0, 0.0, 12.192)}, false).project;
    CHECK(std::get<StraightWire>(p.active().parts.back().shape).end[2] == "12.192 m");
}
