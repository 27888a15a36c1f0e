// Element rows: the same as wires set out by hand.
#include <catch2/catch.hpp>

#include "array_designs.h"
#include "core/model/boom.h"
#include "core/model/difference.h"
#include "core/project/project_file.h"
#include "core/project/reference_cases.h"
#include "core/study/figures.h"
#include "findings.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;
using rm::test::firstError;

TEST_CASE("an element row is the wires that it says") {
    const Solved byHand = solve(yagi(), kArrayHz);
    const Solved row = solved(yagiDesign());
    CHECK(std::abs(row.z() - byHand.z()) < 1e-6);
    CHECK(row.gain(0.0, 0.0) == Approx(byHand.gain(0.0, 0.0)).margin(1e-6));
    // Whole lengths and spacings from one element to the next say the same.
    auto d = yagiDesign();
    rowOf(d).half = false;
    rowOf(d).spacings = true;
    const char* const length[] = {"2.96 m", "2.83 m", "2.7 m", "2.66 m", "2.58 m"};
    const char* const spacing[] = {"0 m", "1.05 m", "0.7 m", "1.35 m", "1.6 m"};
    for (std::size_t i = 0; i < 5; ++i) {
        rowOf(d).elements[i].length = length[i];
        rowOf(d).elements[i].position = spacing[i];
    }
    CHECK(std::abs(solved(d).z() - byHand.z()) < 1e-6);
    CHECK(expand(d).row("Yagi")->boomLengthM() == Approx(4.7));
    // Turned, raised and rolled it is the same antenna in free space.
    rowOf(d).turn = "35 deg";
    rowOf(d).rise = "20 deg";
    rowOf(d).roll = "90 deg";
    CHECK(std::abs(solved(d).z() - byHand.z()) < 1e-5);
    const auto e = expand(d);
    const Vec3 along = e.model.wires[0].endM - e.model.wires[0].startM;
    CHECK(std::abs(along.z()) > 2.7);
    const auto a = study::analyse(e, kArrayHz);
    CHECK(a.figures.peak.direction.elevationDeg == Approx(20.0).margin(0.5));
    CHECK(a.figures.peak.direction.azimuthDeg == Approx(325.0).margin(0.5));
    CHECK(e.model.wires[0].part == "Yagi, reflector");
    CHECK(e.model.wires[0].origin() == "Yagi");
}

TEST_CASE("folded dipoles, loops and bent elements are the wires that they say") {
    auto d = yagiDesign();
    rowOf(d).elements = {rowOf(d).elements[1]};
    auto& e = rowOf(d).elements[0];
    d.parts[0].conductor.diameter = "6 mm";
    e.position = "0 m";
    e.length = "1.4048 m";
    e.gap = "80 mm";
    const Solved folded = solve(foldedDipole(), kArrayHz);
    e.form = ElementForm::LoopInPlane;
    CHECK(std::abs(solved(d).z() - folded.z()) < 0.02);
    e.form = ElementForm::Folded;
    CHECK(std::abs(solved(d).z() - folded.z()) < 0.02);
    CHECK(std::abs(expand(d).model.wires[1].endM.z() - 0.08) < 1e-9);
    e.endDiameter = "1 mm";
    const auto thin = expand(d);
    int thinOnes = 0;
    for (const auto& w : thin.model.wires) thinOnes += w.radiusM == Approx(0.0005) ? 1 : 0;
    CHECK(thinOnes == 2);
    // Tips swept forward: the legs of a V, fed where they meet.
    e.form = ElementForm::Bent;
    e.sweep = "30 deg";
    const auto bent = expand(d);
    REQUIRE(bent.model.wires.size() == 2);
    CHECK(bent.model.wires[0].startM.x() == Approx(1.4048 * 0.5));
    CHECK(bent.model.wires[1].endM.y() == Approx(-1.4048 * std::cos(30.0 * kDegree)));
    WireModel v;
    const double c = std::cos(30.0 * kDegree);
    v.wires = {wire({0, 0, 0}, {1.4048 * 0.5, 1.4048 * c, 0}, 0.003),
               wire({0, 0, 0}, {1.4048 * 0.5, -1.4048 * c, 0}, 0.003)};
    addFeed(v, 0, 0.0);
    CHECK(std::abs(solved(d).z() - solve(v, kArrayHz).z()) < 0.02);
    // A straight middle leaves the tips alone swept.
    e.flat = "1 m";
    const auto flat = expand(d);
    REQUIRE(flat.model.wires.size() == 3);
    CHECK(flat.model.wires[1].lengthM() == Approx(1.0));
    CHECK(flat.row("Yagi")->elements[0].lengthM == Approx(2.8096));
}

TEST_CASE("a tubing schedule is the stepped wire of the reference, tapered apart from uniform") {
    const auto cases = io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/wires.json");
    const auto found =
        std::find_if(cases.begin(), cases.end(), [](const auto& c) { return c.name == "free_stepped"; });
    REQUIRE(found != cases.end());
    const Solved reference = solve(found->model, found->frequencyHz);
    double tip = 0.0;
    for (const auto& w : found->model.wires) tip = std::max({tip, w.startM.y(), w.endM.y()});
    Design d = yagiDesign();
    d.designFrequency = "14.15 MHz";
    rowOf(d).elements = {rowOf(d).elements[1]};
    auto& e = rowOf(d).elements[0];
    e.position = "0 m";
    e.length = std::to_string(tip) + " m";
    // The schedule of the case, from its wires.
    std::vector<std::pair<double, double>> steps;
    for (const auto& w : found->model.wires)
        if (std::max(w.startM.y(), w.endM.y()) > 0.0)
            steps.emplace_back(std::max(w.startM.y(), w.endM.y()), w.radiusM);
    std::sort(steps.begin(), steps.end());
    double before = 0.0;
    for (const auto& [to, radius] : steps) {
        if (!e.diameter.empty()) e.diameter += ", ";
        e.diameter += std::to_string(2e3 * radius) + " mm x " + std::to_string(to - before) + " m";
        before = to;
    }
    INFO(e.diameter);
    const Solved stepped = solved(d, found->frequencyHz);
    CHECK(std::abs(stepped.z() - reference.z()) < 1e-3);
    // As one tube of the middle's diameter it is longer electrically: the steps shorten it.
    e.diameter = std::to_string(2e3 * steps.front().second) + " mm";
    CHECK(solved(d, found->frequencyHz).z().imag() > stepped.z().imag() + 5.0);
    // Mistakes are named.
    e.diameter = "25 mm, 20 mm";
    CHECK(firstError(d).find("Yagi, driven: a section of its tubing has no exposed length") !=
          std::string::npos);
    e.diameter = "25 mm x 9 m, 20 mm";
    CHECK(firstError(d).find("its tubing is") != std::string::npos);
    // Strips and square tubes count by their equivalent radius.
    e.diameter = "strip 20 mm";
    CHECK(expand(d).model.wires[0].radiusM == Approx(0.005));
    e.diameter = "square 10 mm";
    CHECK(expand(d).model.wires[0].radiusM == Approx(0.0059));
}

TEST_CASE("a metal boom asks for longer elements when they are cut, not when they are modelled") {
    // Bonded, 20 mm at 432 MHz: 0.0288 wavelengths; 20 mm (25.195 x 0.0288 - 229 x 0.0288^2) = 10.7 mm.
    const double lambda = wavelengthM(432e6);
    CHECK(boomCorrectionM(BoomKind::Bonded, 0.02, lambda) == Approx(0.0107).margin(5e-5));
    CHECK(boomCorrectionM(BoomKind::Insulated, 0.02, lambda) == Approx(0.00535).margin(5e-5));
    CHECK(boomCorrectionM(BoomKind::None, 0.02, lambda) == 0.0);
    CHECK(boomCorrectionM(BoomKind::Insulating, 0.02, lambda) == 0.0);
    // The share of the diameter grows with the boom to 69 % at the thickest that was measured.
    double before = 0.0;
    for (const double b : {0.005, 0.01, 0.02, 0.03, 0.04, 0.05, 0.055}) {
        const double share = boomCorrectionM(BoomKind::Bonded, b * lambda, lambda) / (b * lambda);
        CHECK(share > before);
        before = share;
    }
    CHECK(before == Approx(0.693).margin(0.001));

    auto d = yagiDesign();
    const auto bare = expand(d);
    rowOf(d).boom = {BoomKind::Bonded, false, "40 mm"};
    const auto e = expand(d);
    CHECK(e.model.wires[0].lengthM() == bare.model.wires[0].lengthM());
    const auto& sizes = *e.row("Yagi");
    CHECK(sizes.elements[0].cutM() - sizes.elements[0].lengthM ==
          Approx(boomCorrectionM(BoomKind::Bonded, 0.04, wavelengthM(kArrayHz))));
    // The driven element is split, and does not pass through the boom.
    CHECK(sizes.elements[1].fed);
    CHECK(sizes.elements[1].cutM() == sizes.elements[1].lengthM);
    rowOf(d).boom.diameter = "0.5 m";
    bool warned = false;
    for (const auto& f : expand(d).findings) warned |= f.sentence.find("boom of Yagi") != std::string::npos;
    CHECK(warned);
}

TEST_CASE("where a feed was moved is said, wherever that is") {
    const auto before = yagiDesign();
    for (const auto& [kind, word] : {std::pair{PlaceKind::Start, "start"},
                                     {PlaceKind::End, "end"},
                                     {PlaceKind::Corner, "corner"},
                                     {PlaceKind::Distance, "distance"},
                                     {PlaceKind::Percent, "percent"},
                                     {PlaceKind::Side, "middle of side"}}) {
        auto after = before;
        after.feeds[0].place.kind = kind;
        after.feeds[0].place.value = "2";
        const std::string change = describeChange(before, after);
        INFO(change);
        CHECK(change.find(std::string(word) + " 2") != std::string::npos);
    }
}

TEST_CASE("what changed on rows, stacks and drive sets is said in a few words") {
    auto before = yagiDesign();
    before.copies = {stack("2", "1", "4 m", "5 m")};
    before.driveSets = {driving("Upper alone", {{"Feed (upper)"}})};
    auto after = before;
    rowOf(after).elements[4].length = "1.31 m";
    CHECK(describeChange(before, after) == "director 3 1.29 m → 1.31 m");
    after.copies[0].rowSpacing = "5 m";
    CHECK(describeChange(before, after) == "director 3 1.29 m → 1.31 m, Stack 4 m → 5 m");
    after = before;
    after.driveSet = 0;
    CHECK(describeChange(before, after) == "Upper alone");
}

TEST_CASE("rows, copies, drive sets and the harness are kept in the project file") {
    Project project;
    auto d = yagiDesign();
    auto& row = rowOf(d);
    row.boom = {BoomKind::Insulated, true, "25 mm"};
    row.roll = "90 deg";
    row.elements[1].form = ElementForm::LoopInPlane;
    row.elements[1].gap = "120 mm";
    row.elements[1].endDiameter = "6 mm";
    row.elements[0].diameter = "25 mm x 0.5 m, 20 mm";
    d.copies = {stack("2", "3", "4 m", "5 m")};
    d.copies[0].parts = {"Yagi"};
    d.copies[0].centred = true;
    Copy turn;
    turn.kind = CopyKind::Rotate;
    turn.angle = "20 deg";
    turn.axis = CopyAxis::Left;
    d.copies.push_back(turn);
    d.driveSets = {driving("some", {{"Feed (lower left 1)", "0.5", "90 deg", "1 m"}}, IdleKind::Terminated)};
    d.driveSet = 0;
    d.harness.enabled = true;
    d.harness.arms = {{"Feed (lower left 1)", "2 m", true}};
    d.site.quick = true;
    project.designs = {d};
    const auto text = io::textOf(project);
    const auto again = io::fromJson(io::toJson(project));
    CHECK(io::textOf(again) == text);
    const auto& back = again.designs[0];
    CHECK(std::get<ElementRow>(back.parts[0].shape).elements[1].form == ElementForm::LoopInPlane);
    CHECK(std::get<ElementRow>(back.parts[0].shape).boom.kind == BoomKind::Insulated);
    CHECK(back.copies.at(1).axis == CopyAxis::Left);
    CHECK(back.driveSets.at(0).driven.at(0).delay == "1 m");
    CHECK(back.harness.arms.at(0).crossed);
    CHECK(back.feeds[0].place.element == "driven");
    // Free space for quick work leaves the ground as it was typed.
    d.site.ground = GroundKind::Real;
    CHECK(expand(d).model.ground.kind == GroundKind::FreeSpace);
}
