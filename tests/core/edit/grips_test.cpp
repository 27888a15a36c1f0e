// What a part becomes when hands take hold of it: points, lengths and angles follow, formulas move their
// dimensions, and what cannot follow is named.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/edit/designs.h"
#include "core/edit/grips.h"
#include "core/edit/ids.h"
#include "core/edit/items.h"
#include "core/edit/reshape.h"
#include "core/quantity/formula.h"
#include "findings.h"

using namespace rm;
using namespace rm::model;
using edit::Grip;
using edit::GripKind;

namespace {

struct Hands {
    Project project = edit::starterProject();

    Hands(const Shape& shape, const std::vector<Dimension>& dimensions = {},
          const std::string& height = "0 m") {
        Design& d = design();
        d.parts.front().shape = shape;
        d.dimensions = dimensions;
        d.site.height = height;
        edit::giveIds(project);
    }
    Design& design() { return project.designs.front(); }
    Part& part() { return design().parts.front(); }
    Id id() { return part().id; }
    std::vector<Grip> grips() { return edit::gripsOf(design(), expand(design()), id()); }
    Grip grip(const std::string& name) {
        for (const auto& g : grips())
            if (g.name == name) return g;
        FAIL("no grip " << name);
        return {};
    }
    edit::Fit drag(const std::string& name, const Vec3& to, const edit::Steps& steps = {}) {
        const auto dragged = edit::dragGrip(design(), grip(name), to,
                                            edit::gripOffset(design(), expand(design()), id()), steps);
        design() = dragged.design;
        return dragged.fit;
    }
    /// Drags a grip by this much and tells how far it is from where it should be then.
    double missOf(const std::string& name, const Vec3& by) {
        const Vec3 to = grip(name).atM + by;
        drag(name, to, {1e-4, 1e-3});
        return (grip(name).atM - to).norm();
    }
};

Dimension dimension(const char* name, const char* text, DimensionKind kind = DimensionKind::Length) {
    Dimension d;
    d.name = name;
    d.text = text;
    d.kind = kind;
    return d;
}

}  // namespace

TEST_CASE("a grip goes where it is dragged, on every kind of part") {
    const Vec3 by(0.3, -0.2, 0.25);
    Hands wire(StraightWire{{"1 m", "2 m", "8 m"}, {"1 m", "12 m", "6 m"}}, {}, "1 m");
    CHECK(wire.missOf("start", by) < 1e-3);
    CHECK(wire.missOf("end", by) < 1e-3);
    CHECK(wire.missOf("whole part", by) < 1e-3);
    Hands bent(BentWire{{{"0 m", "0 m", "1 m"}, {"0 m", "0 m", "8 m"}, {"-10 m", "0 m", "8 m"}}, false});
    CHECK(bent.missOf("corner 1", by) < 1e-3);
    CHECK(bent.missOf("end", by) < 1e-3);
    Hands vee(InvertedV{{"0 m", "0 m", "0 m"}, "12 m", "10 m", "110 deg", "20 deg"});
    CHECK(vee.missOf("apex", by) < 1e-3);
    CHECK(vee.missOf("left tip", by) < 2e-3);
    CHECK(vee.missOf("right tip", Vec3(0.5, -1.0, 0.7)) < 2e-3);
    Hands fan(Fan{{"0 m", "0 m", "3 m"}, "4", "5 m", "20 deg", "0 deg", "0"});
    CHECK(fan.missOf("tip 3", by) < 2e-3);
    CHECK(fan.missOf("hub", by) < 1e-3);
    Hands radials(RadialSystem{});
    CHECK(radials.missOf("tip 5", Vec3(0.5, 0.3, 0.0)) < 2e-3);
    CHECK(radials.missOf("hub", Vec3(0.0, 0.0, -0.1)) < 1e-3);
    Hands rod(GroundRod{});
    CHECK(rod.missOf("end of the rod", Vec3(0.0, 0.0, -0.5)) < 1e-3);
}

TEST_CASE("a corner of a regular loop makes it larger, an element's tip makes it longer on both sides") {
    RegularLoop loop;
    loop.size = "20 m";
    Hands loops(loop);
    const Grip corner = loops.grip("corner 1");
    loops.drag("corner 1", *corner.anchorM + 1.5 * (corner.atM - *corner.anchorM));
    CHECK(std::get<RegularLoop>(loops.part().shape).size == "30 m");

    Project yagi = edit::addPart(edit::starterProject(), edit::PartKind::Row, 20.0).project;
    Design& d = yagi.designs.front();
    const auto grips = edit::gripsOf(d, expand(d), d.parts.back().id);
    const auto named = [&](const std::string& name) {
        for (const auto& g : grips)
            if (g.name == name) return g;
        throw Error("no " + name);
    };
    const Grip tip = named("driven, left tip");
    const Vec3 offset = edit::gripOffset(d, expand(d), d.parts.back().id);
    const Design longer = edit::dragGrip(d, tip, tip.atM + Vec3(0, 0.25, 0), offset, {}).design;
    const auto lengthOf = [](const Design& of) {
        return quantity::evaluate(std::get<ElementRow>(of.parts.back().shape).elements[1].length,
                                  quantity::Kind::Length, {});
    };
    CHECK(lengthOf(longer) - lengthOf(d) == Approx(0.5).margin(0.011));
    const Grip director = named("director 1");
    const Design moved = edit::dragGrip(d, director, director.atM + Vec3(0.4, 3.0, 1.0), offset, {}).design;
    CHECK(quantity::evaluate(std::get<ElementRow>(moved.parts.back().shape).elements[2].position,
                             quantity::Kind::Length, {}) == Approx(7.6).margin(0.011));
}

TEST_CASE("what is written is round, in the unit that was there, and nothing else is touched") {
    Hands h(StraightWire{{"0 m", "0 m", "8 m"}, {"12 ft", "250 cm", "0.4 lambda"}});
    const double up = h.grip("end").atM.z();
    h.drag("end", {3.3333333, 2.5, up});
    const auto& wire = std::get<StraightWire>(h.part().shape);
    CHECK(wire.start == PointText{"0 m", "0 m", "8 m"});
    CHECK(wire.end[0].find(" ft") != std::string::npos);
    CHECK(quantity::evaluate(wire.end[0], quantity::Kind::Length, {}) == Approx(3.33).margin(0.005));
    CHECK(wire.end[1] == "250 cm");
    CHECK(wire.end[2] == "0.4 lambda");
    h.drag("end", {3.33, 2.5, up + 1.0});
    CHECK(std::get<StraightWire>(h.part().shape).end[2].find("lambda") != std::string::npos);
}

TEST_CASE("a dimension behind a coordinate moves, through its formula") {
    Hands h(StraightWire{{"0 m", "0 m", "9 m"}, {"0 m", "leg/2 + 1", "9 m"}}, {dimension("leg", "10 m")});
    const auto fit = h.drag("end", {0, 7.5, 9});
    CHECK(h.design().dimensions[0].text == "13 m");
    CHECK(fit.moved == std::vector<std::string>{"leg"});
    CHECK(fit.held.empty());
    CHECK(std::get<StraightWire>(h.part().shape).end[1] == "leg/2 + 1");
}

TEST_CASE("two dimensions of one leg move together, and the mast that others hang on stays") {
    const PointText apex{"0 m", "0 m", "h"};
    Hands h(StraightWire{apex, {"0 m", "leg*cos(slope)", "h - leg*sin(slope)"}},
            {dimension("h", "12 m"), dimension("leg", "10 m"),
             dimension("slope", "30 deg", DimensionKind::Angle)});
    // The other leg of the inverted V, which hangs on the same dimensions.
    Part other = h.part();
    other.id = 0;
    other.name = "Other leg";
    other.shape = StraightWire{apex, {"0 m", "-leg*cos(slope)", "h - leg*sin(slope)"}};
    h.design().parts.push_back(other);
    edit::giveIds(h.project);
    const auto fit = h.drag("end", {0, 8, 8}, {1e-4, 1e-3});
    CHECK(h.design().dimensions[0].text == "12 m");
    CHECK((h.grip("end").atM - Vec3(0, 8, 8)).norm() < 1e-3);
    CHECK(fit.moved.size() == 2);
    CHECK(fit.held.empty());
}

TEST_CASE("a formula that no dimension stands behind holds its coordinate, and says so") {
    Hands h(StraightWire{{"0 m", "0 m", "9 m"}, {"0 m", "lambda/4", "9 m"}});
    const double before = h.grip("end").atM.y();
    const auto fit = h.drag("end", {0, before + 1.0, 10.0});
    CHECK(h.grip("end").atM.y() == Approx(before));
    CHECK(h.grip("end").atM.z() == Approx(10.0));
    REQUIRE(fit.held.size() == 1);
    CHECK(fit.held[0].find("lambda/4") != std::string::npos);
    CHECK(fit.held[0].find("left") != std::string::npos);
}

TEST_CASE("of copies the first one is held, where it stands") {
    Project p = edit::addPart(edit::starterProject(), edit::PartKind::Row, 4.0).project;
    p = edit::addCopy(p, CopyKind::Stack, p.designs.front().parts.back().id).project;
    Design& d = p.designs.front();
    d.copies.back().centred = true;
    const auto e = expand(d);
    for (const auto& grip : edit::gripsOf(d, e, d.parts.back().id)) {
        double nearest = 1e9;
        for (const auto& wire : e.model.wires)
            if (wire.origin() == d.parts.back().name)
                nearest = std::min({nearest, (wire.startM - grip.atM).norm(), (wire.endM - grip.atM).norm(),
                                    (0.5 * (wire.startM + wire.endM) - grip.atM).norm()});
        INFO(grip.name);
        CHECK(nearest < 1e-6);
    }
}

TEST_CASE("turning three times by 120 degrees comes back, scaling multiplies every length") {
    Hands h(StraightWire{{"0 m", "0 m", "3 m"}, {"4 m", "0 m", "2 m"}});
    Design turned = h.design();
    for (int i = 0; i < 3; ++i) {
        edit::turnParts(turned, {h.id()}, Vec3::Zero(), 120.0, {1e-5, 1e-4});
        const auto wire = expand(turned).model.wires.front();
        CHECK(wire.lengthM() == Approx(std::sqrt(17.0)).margin(1e-4));
        // To the right, as seen from above.
        if (i == 0) CHECK(wire.endM.y() < 0.0);
    }
    CHECK((expand(turned).model.wires.front().endM - expand(h.design()).model.wires.front().endM).norm() <
          1e-4);

    for (const Shape& shape :
         {Shape(StraightWire{}),
          Shape(BentWire{{{"0 m", "0 m", "1 m"}, {"0 m", "2 m", "3 m"}, {"1 m", "2 m", "3 m"}}, true}),
          Shape(RegularLoop{}), Shape(InvertedV{}), Shape(Fan{})}) {
        Hands one(shape);
        const auto before = expand(one.design()).model.wires;
        edit::scaleParts(one.design(), {one.id()}, Vec3(0, 0, 5), 0.5, {0.0, 0.0});
        const auto after = expand(one.design()).model.wires;
        REQUIRE(after.size() == before.size());
        for (std::size_t w = 0; w < before.size(); ++w)
            CHECK(after[w].lengthM() == Approx(0.5 * before[w].lengthM()).epsilon(1e-4));
    }
}

TEST_CASE("two parts on one dimension are scaled once") {
    Hands h(StraightWire{{"0 m", "-leg", "5 m"}, {"0 m", "leg", "5 m"}}, {dimension("leg", "4 m")});
    Part second = h.part();
    second.id = 0;
    second.name = "Second";
    second.shape = StraightWire{{"1 m", "-leg", "5 m"}, {"1 m", "leg", "5 m"}};
    h.design().parts.push_back(second);
    edit::giveIds(h.project);
    const auto fit = edit::scaleParts(h.design(), {h.id(), h.design().parts[1].id}, Vec3(0, 0, 5), 2.0, {});
    CHECK(h.design().dimensions[0].text == "8 m");
    CHECK(fit.moved == std::vector<std::string>{"leg"});
}

TEST_CASE("a part that goes takes its feed, or hands it on") {
    Project p = edit::starterProject();
    p = edit::addPart(p, edit::PartKind::Vee, 20.0).project;
    const Id dipole = p.active().parts[0].id;
    const auto feeds = edit::feedsOn(p.active(), dipole);
    REQUIRE(feeds.size() == 1);
    p = edit::remove(p, {edit::ItemType::Part, dipole});
    CHECK(p.active().feeds.empty());
    const Part* next = edit::partForFeed(p.active());
    REQUIRE(next != nullptr);
    CHECK(next->name == "Inverted V");
    p = edit::handOn(p, feeds, next->id);
    REQUIRE(p.active().feeds.size() == 1);
    CHECK(p.active().feeds[0].part == "Inverted V");
    CHECK(test::firstError(p.active()).empty());
}
