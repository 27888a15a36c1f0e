// A row of elements becomes a log-periodic one in one step.
#include "core/edit/crossed.h"

#include <catch2/catch.hpp>

#include "core/edit/designs.h"
#include "core/edit/items.h"
#include "core/model/checks.h"
#include "core/model/expand.h"
#include "core/study/figures.h"

using namespace rm;
using Catch::Contains;

namespace {

model::Project rowProject() {
    auto project = edit::addPart(edit::starterProject(), edit::PartKind::Row, 20.0).project;
    auto& design = project.designs[project.activeDesign];
    design.parts.erase(design.parts.begin());
    design.feeds.clear();
    auto& part = design.parts.back();
    model::ElementRow row;
    const double lengths[] = {10.6, 9.5, 8.5, 7.6};
    const double places[] = {0.0, 2.0, 3.8, 5.4};
    for (int i = 0; i < 4; ++i) {
        model::RowElement e;
        e.name = "element " + std::to_string(i + 1);
        e.length = std::to_string(lengths[i]) + " m";
        e.position = std::to_string(places[i]) + " m";
        row.elements.push_back(e);
    }
    part.shape = row;
    part.name = "Row";
    return project;
}

}  // namespace

TEST_CASE("crossed lines join every element with the next, and the shortest is fed") {
    const auto before = rowProject();
    const auto project = edit::crossElements(before, before.active().parts.back().id);
    const auto& design = project.active();
    REQUIRE(design.lines.size() == 3);
    for (const auto& line : design.lines) CHECK(line.crossed);
    CHECK(design.lines[1].from.element == "element 2");
    CHECK(design.lines[1].to.element == "element 3");
    REQUIRE(design.feeds.size() == 1);
    CHECK(design.feeds[0].place.element == "element 4");
    const auto expansion = model::expand(design);
    for (const auto& f : expansion.findings) UNSCOPED_INFO(f.sentence);
    REQUIRE(expansion.usable());
    REQUIRE(expansion.model.lines.size() == 3);
    CHECK(expansion.model.lines[2].lengthM == Approx(1.6));
    CHECK(expansion.model.lines[2].line.impedanceOhm == Approx(120.0));
    // A wave along the line meets the element that suits it: the row fires towards its short end.
    const auto a = study::analyse(expansion, 16e6);
    CHECK(a.figures.frontToBackDb > 6.0);
    CHECK(std::abs(a.figures.peak.direction.azimuthDeg) < 5.0);
    // Undone it is as before: the project that was given is untouched.
    CHECK(before.active().lines.empty());
}

TEST_CASE("crossed lines are not laid twice, and only along a row") {
    const auto before = rowProject();
    const auto id = before.active().parts.back().id;
    const auto project = edit::crossElements(before, id);
    CHECK_THROWS_WITH(edit::crossElements(project, id), Contains("joined already"));
    auto partly = project;
    partly.designs[partly.activeDesign].lines.erase(partly.designs[partly.activeDesign].lines.begin() + 1);
    const auto again = edit::crossElements(partly, id);
    CHECK(again.active().lines.size() == 3);
    const auto dipole = edit::starterProject();
    CHECK_THROWS_WITH(edit::crossElements(dipole, dipole.active().parts[0].id),
                      Contains("no row of elements"));
}
