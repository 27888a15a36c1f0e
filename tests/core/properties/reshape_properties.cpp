// Laws of moving, turning and scaling parts, of any shape: the wires do exactly what the hand did, and come
// back.
#include <rapidcheck.h>
#include <rapidcheck/catch.h>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/edit/designs.h"
#include "core/edit/ids.h"
#include "core/edit/items.h"
#include "core/edit/reshape.h"
#include "core/edit/shape_fields.h"
#include "core/edit/supports.h"
#include "core/model/dimension_kind.h"
#include "core/model/expand.h"

using namespace rm;
using edit::PartKind;

namespace {

constexpr edit::Steps kToTheDot{0.0, 0.0};
constexpr PartKind kHandled[] = {PartKind::Wire, PartKind::Bent, PartKind::Loop,
                                 PartKind::Vee,  PartKind::Fan,  PartKind::Row};

/// A design of one part of a kind, and its wires.
struct Handled {
    model::Project project = edit::starterProject();
    std::vector<model::Id> parts;

    explicit Handled(PartKind kind) {
        const auto first = edit::itemAt(design(), edit::ItemType::Part, 0);
        project = edit::remove(std::move(project), first);
        design().dimensions.clear();
        design().site.ground = model::GroundKind::FreeSpace;
        design().site.height = "0 m";
        project = edit::addPart(std::move(project), kind, 20.0).project;
        edit::giveIds(project);
        parts = {design().parts.front().id};
        toNumbers();
    }
    model::Design& design() { return project.designs.at(project.activeDesign); }
    /// What a formula holds does not move: every field becomes a number.
    void toNumbers() {
        auto values = edit::fieldValues(design());
        for (const auto& field : edit::fieldsOf(design().parts.front())) {
            if (quantity::isPlainNumber(*field.text)) continue;
            const double value = values.value(*field.text, field.kind, "Part", field.name);
            *field.text =
                model::exactText(field.kind == quantity::Kind::Angle    ? model::DimensionKind::Angle
                                 : field.kind == quantity::Kind::Number ? model::DimensionKind::Number
                                                                        : model::DimensionKind::Length,
                                 value);
        }
    }
    std::vector<model::PlainWire> wires() {
        const auto expansion = model::expand(design());
        REQUIRE_FALSE(expansion.model.wires.empty());
        return expansion.model.wires;
    }
};

PartKind anyHandled() {
    return *rc::gen::elementOf(std::vector<PartKind>(std::begin(kHandled), std::end(kHandled)));
}

double tenths(int low, int high) {
    return 0.1 * *rc::gen::inRange(low * 10, high * 10);
}

/// Largest distance of the ends of wires from where `place` puts those of `before`.
template <typename Place>
double farthest(const std::vector<model::PlainWire>& before, const std::vector<model::PlainWire>& after,
                const Place& place) {
    if (before.size() != after.size()) return 1e9;
    double most = 0.0;
    for (std::size_t i = 0; i < before.size(); ++i) {
        most = std::max(most, (after[i].startM - place(before[i].startM)).norm());
        most = std::max(most, (after[i].endM - place(before[i].endM)).norm());
    }
    return most;
}

}  // namespace

TEST_CASE("parts of every kind move by exactly what they are moved by") {
    rc::prop("shift", [] {
        Handled h(anyHandled());
        const auto before = h.wires();
        const Vec3 by(tenths(-20, 20), tenths(-20, 20), tenths(0, 10));
        const auto fit = edit::shiftParts(h.design(), h.parts, by, kToTheDot);
        RC_ASSERT(fit.held.empty());
        RC_ASSERT(farthest(before, h.wires(), [&](const Vec3& p) -> Vec3 { return p + by; }) < 1e-4);
        edit::shiftParts(h.design(), h.parts, -by, kToTheDot);
        RC_ASSERT(farthest(before, h.wires(), [](const Vec3& p) { return p; }) < 1e-4);
    });
}

TEST_CASE("parts of every kind turn about an upright line, and four quarters are none") {
    rc::prop("turn", [] {
        Handled h(anyHandled());
        const auto before = h.wires();
        const double degrees = *rc::gen::inRange(-180, 181);
        const Vec3 axis(tenths(-5, 5), tenths(-5, 5), 0.0);
        const auto fit = edit::turnParts(h.design(), h.parts, axis, degrees, kToTheDot);
        if (!fit.held.empty()) RC_FAIL(fit.held.front());
        // To the right as seen from above.
        const double c = std::cos(degrees * kDegree);
        const double s = std::sin(degrees * kDegree);
        const auto turned = [&](const Vec3& p) {
            const Vec3 d = p - axis;
            return Vec3(axis.x() + c * d.x() + s * d.y(), axis.y() - s * d.x() + c * d.y(), p.z());
        };
        RC_ASSERT(farthest(before, h.wires(), turned) < 1e-3);
        edit::turnParts(h.design(), h.parts, axis, -degrees, kToTheDot);
        RC_ASSERT(farthest(before, h.wires(), [](const Vec3& p) { return p; }) < 1e-3);
    });
}

TEST_CASE("parts of every kind grow and shrink about a point") {
    rc::prop("scale", [] {
        Handled h(anyHandled());
        const auto before = h.wires();
        const double factor = *rc::gen::element(0.5, 0.8, 1.25, 2.0);
        const Vec3 centre(tenths(-5, 5), tenths(-5, 5), 0.0);
        const auto fit = edit::scaleParts(h.design(), h.parts, centre, factor, kToTheDot);
        RC_ASSERT(fit.held.empty());
        RC_ASSERT(farthest(before, h.wires(),
                           [&](const Vec3& p) -> Vec3 { return centre + factor * (p - centre); }) < 1e-3);
        // What it is made of stays.
        const auto after = h.wires();
        for (std::size_t i = 0; i < before.size(); ++i) RC_ASSERT(after[i].radiusM == before[i].radiusM);
    });
}

TEST_CASE("every field of a part has a name of its own and can be read") {
    for (const auto kind : kHandled) {
        Handled h(kind);
        auto values = edit::fieldValues(h.design());
        std::vector<std::string> names;
        int ups = 0;
        for (const auto& field : edit::fieldsOf(h.design().parts.front())) {
            REQUIRE(field.text != nullptr);
            values.value(*field.text, field.kind, "Part", field.name);
            INFO(field.name << " is \"" << *field.text << "\"");
            CHECK_FALSE(values.failed);
            CHECK(std::find(names.begin(), names.end(), field.name) == names.end());
            names.push_back(field.name);
            ups += field.role == edit::FieldRole::Up ? 1 : 0;
        }
        CHECK_FALSE(names.empty());
        CHECK((ups > 0 || kind == PartKind::Row));
    }
    CHECK(edit::lambdaOf(Handled(PartKind::Wire).design()) > 1.0);
}

TEST_CASE("what a formula holds is not moved, and is named; the dimension behind a name is") {
    Handled h(PartKind::Wire);
    auto& d = h.design();
    auto& wire = std::get<model::StraightWire>(d.parts.front().shape);
    model::Dimension half;
    half.name = "half";
    half.text = "10 m";
    d.dimensions = {half};
    wire.start = {"0 m", "-half", "0 m"};
    wire.end = {"0 m", "half", "lambda/8"};
    const auto before = h.wires();
    const double room = before.front().endM.z();
    const auto fit = edit::shiftParts(d, h.parts, {0.0, 0.0, 1.0}, {});
    REQUIRE_FALSE(fit.held.empty());
    CHECK(fit.held.front().find("lambda/8") != std::string::npos);
    CHECK(h.wires().front().endM.z() == Approx(room));
    // Growing moves the one dimension that both ends hang on.
    const auto grown = edit::scaleParts(d, h.parts, Vec3::Zero(), 1.2, {});
    CHECK(grown.moved == std::vector<std::string>{"half"});
    CHECK(d.dimensions.front().text == "12 m");
    CHECK(wire.end[1] == "half");
}

TEST_CASE("supports stand where they are put, edges keep their length, and wires follow") {
    rc::prop("place, shift, raise", [] {
        auto project = edit::starterProject();
        const auto kind = *rc::gen::element(model::SupportKind::Mast, model::SupportKind::Tree,
                                            model::SupportKind::RoofEdge, model::SupportKind::Wall);
        project = edit::addSupport(std::move(project), kind, 3.0, -4.0).project;
        edit::giveIds(project);
        auto& d = project.designs.at(project.activeDesign);
        const auto id = d.site.supports.back().id;
        const double east = tenths(-30, 30);
        const double north = tenths(-30, 30);
        const double height = tenths(1, 25);
        const auto at = [&](const std::string& text) {
            return quantity::evaluate(text, quantity::Kind::Length, {});
        };
        const auto before = d.site.supports.back();
        RC_ASSERT(edit::shiftSupport(d, id, east, north, kToTheDot).held.empty());
        RC_ASSERT(edit::raiseSupport(d, id, height, kToTheDot).held.empty());
        const auto& after = d.site.supports.back();
        RC_ASSERT(std::abs(at(after.height) - height) < 1e-4);
        const double movedEast = at(after.east) - at(before.east);
        const double movedNorth = at(after.north) - at(before.north);
        RC_ASSERT(std::abs(movedEast - east) < 1e-4);
        RC_ASSERT(std::abs(movedNorth - north) < 1e-4);
        if (model::isEdge(kind)) {
            RC_ASSERT(std::abs(at(after.toEast) - at(before.toEast) - movedEast) < 1e-4);
            RC_ASSERT(std::abs(at(after.toNorth) - at(before.toNorth) - movedNorth) < 1e-4);
            const auto end = d.site.supports.back();
            RC_ASSERT(edit::placeSupport(d, id, true, 50.0, 60.0, kToTheDot).held.empty());
            RC_ASSERT(d.site.supports.back().east == end.east);
            RC_ASSERT(std::abs(at(d.site.supports.back().toNorth) - 60.0) < 1e-4);
        }
        RC_ASSERT(edit::placeSupport(d, id, false, 1.5, -2.5, kToTheDot).held.empty());
        RC_ASSERT(std::abs(at(d.site.supports.back().east) - 1.5) < 1e-4);
        RC_ASSERT(std::abs(at(d.site.supports.back().north) + 2.5) < 1e-4);
    });
}
