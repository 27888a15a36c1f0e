// Element rows, copies, drive sets and harnesses: each the same as wires and circuits set out by hand.
#include <catch2/catch.hpp>

#include "antennas.h"
#include "core/model/boom.h"
#include "core/model/difference.h"
#include "core/model/loosen.h"
#include "core/model/rename.h"
#include "core/project/project_file.h"
#include "core/project/reference_cases.h"
#include "core/study/drive_study.h"
#include "core/study/stacking.h"
#include "findings.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;
using rm::test::firstError;

namespace {

constexpr double kHz = 50.15e6;

/// The five elements of antennas.h as an element row, fed at the second.
Design yagiDesign() {
    Design d;
    d.designFrequency = "50.15 MHz";
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    row.half = true;
    const char* const names[] = {"reflector", "driven", "director 1", "director 2", "director 3"};
    const char* const at[] = {"0 m", "1.05 m", "1.75 m", "3.1 m", "4.7 m"};
    const char* const half[] = {"1.48 m", "1.415 m", "1.35 m", "1.33 m", "1.29 m"};
    for (int i = 0; i < 5; ++i) {
        RowElement e;
        e.name = names[i];
        e.position = at[i];
        e.length = half[i];
        row.elements.push_back(e);
    }
    Part part;
    part.name = "Yagi";
    part.conductor = {"perfect", "12 mm", "", "3"};
    part.shape = row;
    d.parts = {part};
    Feed feed;
    feed.part = "Yagi";
    feed.place.element = "driven";
    d.feeds = {feed};
    return d;
}

ElementRow& rowOf(Design& d) {
    return std::get<ElementRow>(d.parts.at(0).shape);
}

Copy stack(const std::string& rows, const std::string& columns, const std::string& up,
           const std::string& across) {
    Copy c;
    c.rows = rows;
    c.columns = columns;
    c.rowSpacing = up;
    c.columnSpacing = across;
    return c;
}

/// A half-wave dipole across the front.
Design dipoleDesign(const std::string& height = "0 m") {
    Design d;
    d.designFrequency = "50.15 MHz";
    Part part;
    part.name = "Dipole";
    part.conductor = {"perfect", "4 mm", "", "3"};
    part.shape = StraightWire{{"0", "-1.4 m", height}, {"0", "1.4 m", height}};
    d.parts = {part};
    Feed feed;
    feed.part = "Dipole";
    d.feeds = {feed};
    return d;
}

Solved solved(const Design& d, double hz = kHz) {
    const auto e = expand(d);
    for (const auto& f : e.findings) INFO(f.sentence);
    REQUIRE(e.usable());
    return solve(e.model, hz);
}

DriveSet driving(const std::string& name, std::vector<DriveEntry> entries, IdleKind idle = IdleKind::Open) {
    DriveSet set;
    set.name = name;
    set.driven = std::move(entries);
    set.idle = idle;
    return set;
}

}  // namespace

TEST_CASE("an element row is the wires that it says") {
    const Solved byHand = solve(yagi(), kHz);
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
    const auto a = study::analyse(e, kHz);
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
    const Solved folded = solve(foldedDipole(), kHz);
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
    CHECK(std::abs(solved(d).z() - solve(v, kHz).z()) < 0.02);
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
          Approx(boomCorrectionM(BoomKind::Bonded, 0.04, wavelengthM(kHz))));
    // The driven element is split, and does not pass through the boom.
    CHECK(sizes.elements[1].fed);
    CHECK(sizes.elements[1].cutM() == sizes.elements[1].lengthM);
    rowOf(d).boom.diameter = "0.5 m";
    bool warned = false;
    for (const auto& f : expand(d).findings) warned |= f.sentence.find("boom of Yagi") != std::string::npos;
    CHECK(warned);
}

TEST_CASE("copies are the same as wires typed by hand, and names follow") {
    auto d = yagiDesign();
    d.copies = {stack("2", "2", "4 m", "5 m")};
    const auto e = expand(d);
    REQUIRE(e.model.wires.size() == 20);
    REQUIRE(e.model.feeds.size() == 4);
    CHECK(e.units == std::vector<std::string>{"Yagi (lower left)", "Yagi (lower right)", "Yagi (upper left)",
                                              "Yagi (upper right)"});
    CHECK(e.model.feeds[2].name == "Feed (upper left)");
    CHECK(e.model.wires[10].part == "Yagi (upper left), reflector");
    WireModel byHand;
    for (const auto& [y, z] : {std::pair{2.5, 0.0}, {-2.5, 0.0}, {2.5, 4.0}, {-2.5, 4.0}}) {
        const auto first = byHand.wires.size();
        for (auto w : yagi().wires) {
            w.startM += Vec3(0.0, y, z);
            w.endM += Vec3(0.0, y, z);
            byHand.wires.push_back(w);
        }
        addFeed(byHand, first + 1, 0.5);
    }
    const Solved a = solve(e.model, kHz);
    const Solved b = solve(byHand, kHz);
    for (std::size_t f = 0; f < 4; ++f)
        CHECK(std::abs(a.reading.feedImpedance[f] - b.reading.feedImpedance[f]) < 1e-6);
    CHECK(a.gain(0, 0) == Approx(b.gain(0, 0)).margin(1e-6));
    // A change of the part changes every copy; switched off, there is one again.
    rowOf(d).elements[0].length = "1.5 m";
    for (const std::size_t w : {0U, 5U, 10U, 15U}) CHECK(expand(d).model.wires[w].lengthM() == Approx(3.0));
    d.copies[0].enabled = false;
    CHECK(expand(d).model.wires.size() == 5);
    // A feed on one copy alone.
    d.copies[0].enabled = true;
    d.feeds[0].part = "Yagi (upper right)";
    REQUIRE(expand(d).model.feeds.size() == 1);
    CHECK(expand(d).model.feeds[0].place.wire == 16);
    d.feeds[0].part = "Yagi (third)";
    CHECK(firstError(d).find("\"Yagi (third)\", which is not there") != std::string::npos);
}

TEST_CASE("mirrored, rotated and shifted copies, nested and of a group") {
    auto d = dipoleDesign("2 m");
    Part mast;
    mast.name = "Mast";
    mast.shape = StraightWire{{"3 m", "0 m", "0.1 m"}, {"3 m", "0 m", "6 m"}};
    d.parts.push_back(mast);
    d.site.height = "1 m";
    Copy mirror;
    mirror.name = "Mirror";
    mirror.kind = CopyKind::Mirror;
    mirror.plane = MirrorPlane::UpDown;
    mirror.at = "3 m";
    mirror.parts = {"Dipole"};
    d.copies = {mirror};
    auto e = expand(d);
    REQUIRE(e.model.wires.size() == 3);
    // The mirror is 3 m up in the design, which hangs 1 m higher.
    CHECK(e.model.wires[2].startM.z() == Approx(5.0));
    CHECK(e.model.wires[2].part == "Dipole (mirrored)");
    CHECK(e.model.feeds[1].name == "Feed (mirrored)");
    Copy turn;
    turn.name = "Turn";
    turn.kind = CopyKind::Rotate;
    turn.count = "4";
    turn.centre = {"3 m", "0 m", "0 m"};
    turn.parts = {"Dipole"};
    d.copies.push_back(turn);
    e = expand(d);
    REQUIRE(e.model.wires.size() == 9);
    CHECK(e.model.feeds.size() == 8);
    CHECK(e.units.at(3) == "Dipole (original 2)");
    CHECK(e.units.at(4) == "Dipole (mirrored 2)");
    // A quarter to the right of one that stands behind the axis is one to the left of it.
    const Vec3 middle = 0.5 * (e.model.wires[3].startM + e.model.wires[3].endM);
    CHECK((middle - Vec3(3.0, 3.0, 3.0)).norm() < 1e-9);
    Copy shift;
    shift.name = "Shift";
    shift.kind = CopyKind::Shift;
    shift.count = "3";
    shift.step = {"20 m", "0 m", "0 m"};
    d.copies.push_back(shift);
    e = expand(d);
    CHECK(e.model.wires.size() == 27);
    CHECK(e.model.feeds.size() == 24);
    CHECK((e.model.wires[9].startM - e.model.wires[0].startM - Vec3(20, 0, 0)).norm() < 1e-9);
    // Loads and lines follow within each copy.
    Load load;
    load.part = "Dipole";
    load.place = {PlaceKind::Percent, "20"};
    load.resistance = "5";
    d.loads = {load};
    CHECK(expand(d).model.loads.size() == 24);
    d.copies[0].parts = {"Nobody"};
    CHECK(firstError(d).find("Mirror: Mirror is of \"Nobody\"") != std::string::npos);
    d.copies = {shift};
    d.copies[0].count = "1.5";
    CHECK(firstError(d).find("whole number") != std::string::npos);
}

TEST_CASE("copies become loose wires when asked, and stay the same antenna") {
    auto d = yagiDesign();
    d.copies = {stack("2", "1", "3.5 m", "0 m")};
    d.site.height = "4 m";
    d.site.ground = GroundKind::Real;
    Load load;
    load.part = "Yagi";
    load.place = {PlaceKind::Middle, "", "reflector"};
    load.inductance = "0.05";
    d.loads = {load};
    const auto loose = loosened(d);
    CHECK(loose.copies.empty());
    CHECK(loose.parts.size() == 10);
    CHECK(loose.feeds.at(1).name == "Feed (upper)");
    const Solved a = solved(d);
    const Solved b = solved(loose);
    CHECK(std::abs(a.z() - b.z()) < 1e-5);
    CHECK(a.gain(10, 0) == Approx(b.gain(10, 0)).margin(1e-5));
}

TEST_CASE("two far apart gain 3 dB; a half turned round leaves nothing broadside") {
    auto d = dipoleDesign();
    const double one = solved(d).gain(0, 0);
    d.copies = {stack("2", "1", "3000 m", "0 m")};
    CHECK(solved(d).gain(0, 0) - one == Approx(10.0 * std::log10(2.0)).margin(0.01));
    d.copies = {stack("4", "4", "70 m", "70 m")};
    CHECK(solved(d).gain(0, 0) - one == Approx(10.0 * std::log10(16.0)).margin(0.1));
    // Upper half reversed: nothing along the horizon, and lobes above and below it.
    d.copies = {stack("4", "1", "4 m", "0 m")};
    const auto e = expand(d);
    d.driveSets = study::driveSetsBy(study::DrivePattern::UpperHalfReversed, e, kHz);
    REQUIRE(d.driveSets.size() == 1);
    d.driveSet = 0;
    CHECK(solved(d).gain(0, 0) < -100.0);
    const auto a = study::analyse(expand(d), kHz);
    CHECK(std::abs(a.figures.peak.direction.elevationDeg) > 8.0);
}

TEST_CASE("idle feeds are open, shorted or terminated, as if built so") {
    auto d = dipoleDesign("0 m");
    d.copies = {stack("2", "1", "2 m", "0 m")};
    const auto onlyLower = [&](IdleKind idle, const std::string& ohm) {
        auto one = d;
        one.driveSets = {driving("lower", {{"Feed (lower)"}}, idle)};
        one.driveSets[0].termination = ohm;
        one.driveSet = 0;
        return solved(one);
    };
    // The same with the upper dipole as a plain wire with a load in its middle.
    const auto built = [&](std::optional<double> ohm) {
        WireModel m = expand(d).model;
        m.feeds.resize(1);
        LumpedCircuit circuit;
        circuit.kind = ohm ? LoadKind::Series : LoadKind::Parallel;
        circuit.resistanceOhm = ohm;
        m.loads.push_back({{1, 0.5}, circuit, "Idle"});
        return solve(m, kHz);
    };
    const std::tuple<IdleKind, std::string, std::optional<double>> cases[] = {
        {IdleKind::Open, "50", std::nullopt},
        {IdleKind::Shorted, "50", 0.0},
        {IdleKind::Terminated, "73", 73.0}};
    for (const auto& [idle, text, ohm] : cases) {
        const Solved a = onlyLower(idle, text);
        const Solved b = built(ohm);
        CHECK(std::abs(a.z() - b.z()) < 1e-6);
        CHECK(a.gain(30, 0) == Approx(b.gain(30, 0)).margin(1e-6));
        CHECK(a.reading.lostPowerW() / a.reading.inputPowerW ==
              Approx(b.reading.lostPowerW() / b.reading.inputPowerW).margin(1e-9));
        CHECK(std::abs(a.powerBalance()) < 1e-3);
        CHECK(a.reading.feedImpedance[1] == Complex(0.0));
    }
    // Driven by the set, the first feed of the design may be idle: the radio sees the one that is driven.
    d.driveSets = {driving("upper", {{"Feed (upper)"}})};
    d.driveSet = 0;
    const auto a = study::analyse(expand(d), kHz);
    CHECK(std::abs(a.figures.antennaOhm - onlyLower(IdleKind::Open, "50").z()) < 1e-6);
    CHECK(expand(d).driveSet == "upper");
    d.driveSets[0].driven[0].feed = "Feed (cellar)";
    CHECK(firstError(d).find("upper drives \"Feed (cellar)\", which is not there") != std::string::npos);
    d.driveSets[0].driven.clear();
    CHECK(firstError(d).find("drives no feed") != std::string::npos);
}

TEST_CASE("a delay line is a phase that grows with frequency") {
    auto d = dipoleDesign("0 m");
    Copy side = stack("1", "2", "0 m", "3 m");
    d.copies = {side};
    const double lambda = wavelengthM(kHz);
    d.driveSets = {
        driving("phase", {{"Feed (left)"}, {"Feed (right)", "1", "-70 deg"}}),
        driving("delay",
                {{"Feed (left)"}, {"Feed (right)", "1", "0 deg", std::to_string(lambda * 70 / 360) + " m"}})};
    d.driveSet = 0;
    const double byPhase = solved(d).gain(0, 30);
    const double phaseAbove = solved(d, 1.1 * kHz).gain(0, 30);
    d.driveSet = 1;
    CHECK(solved(d).gain(0, 30) == Approx(byPhase).margin(1e-4));
    CHECK(std::abs(solved(d, 1.1 * kHz).gain(0, 30) - phaseAbove) > 0.05);
    d.driveSets[0].driven[1].phase = "-77 deg";
    d.driveSet = 0;
    const double grown = solved(d, 1.1 * kHz).gain(0, 30);
    d.driveSet = 1;
    CHECK(solved(d, 1.1 * kHz).gain(0, 30) == Approx(grown).margin(1e-4));
}

TEST_CASE("steering by phase turns the lobe where it is asked to") {
    auto d = dipoleDesign("0 m");
    std::get<StraightWire>(d.parts[0].shape) = {{"0", "0", "-1.4 m"}, {"0", "0", "1.4 m"}};
    d.copies = {stack("1", "6", "0 m", "2.5 m")};
    d.site.heading = "90 deg";
    const auto e = expand(d);
    for (const double bearing : {90.0, 110.0, 65.0}) {
        d.driveSets = study::driveSetsBy(study::DrivePattern::Steered, e, kHz, bearing);
        REQUIRE(d.driveSets.size() == 1);
        d.driveSet = 0;
        const auto a = study::analyse(expand(d), kHz);
        const double peak = 90.0 - a.figures.peak.direction.azimuthDeg;
        // A row fires to both sides; the one in front is the one asked for.
        const double mirrored = 90.0 - (180.0 - a.figures.peak.direction.azimuthDeg);
        CHECK(std::min(std::abs(std::remainder(peak - bearing, 360.0)),
                       std::abs(std::remainder(mirrored - bearing, 360.0))) < 3.0);
    }
    CHECK(study::driveSetsBy(study::DrivePattern::UpperHalfReversed, e, kHz).empty());
    CHECK(study::driveSetsBy(study::DrivePattern::LeftHalfReversed, e, kHz).size() == 1);
    CHECK(study::driveSetsBy(study::DrivePattern::EachPair, e, kHz).size() == 5);
    CHECK(study::driveSetsBy(study::DrivePattern::SingleOnes, e, kHz).size() == 6);
}

TEST_CASE("a harness: cables to a common point, mutual coupling and all") {
    auto d = dipoleDesign("0 m");
    d.copies = {stack("2", "1", "2 m", "0 m")};
    d.harness.enabled = true;
    d.harness.line.line = kCustomLine;
    d.harness.line.lineOhm = "70";
    d.harness.line.velocityFactor = "0.8";
    d.harness.line.length = "3.3 m";
    const Solved open = solved([&] {
        auto plain = d;
        plain.harness.enabled = false;
        return plain;
    }());
    {
        // Equal arms: each feed as it is in phase, through its cable, both side by side.
        const Solved s = solved(d);
        const Complex z = open.reading.feedImpedance[0];
        const Complex t(0.0, std::tan(2.0 * kPi * kHz / (0.8 * kSpeedOfLight) * 3.3));
        const Complex through = 70.0 * (z + 70.0 * t) / (70.0 + z * t);
        CHECK(std::abs(s.reading.antennaOhm - 0.5 * through) < 1e-6 * std::abs(through));
        CHECK(s.reading.harnessPowerW == Approx(0.0).margin(1e-12));
        CHECK(s.gain(20, 0) == Approx(open.gain(20, 0)).margin(1e-6));
    }
    {
        // No cable to one feed: a line from there to the other.
        d.harness.arms = {{"Feed (lower)", "0 m", false}, {"Feed (upper)", "2.6 m", true}};
        const Solved s = solved(d);
        auto lined = d;
        lined.harness.enabled = false;
        lined.feeds[0].part = "Dipole (lower)";
        PhasingLine line;
        static_cast<LineText&>(line) = d.harness.line;
        line.length = "2.6 m";
        line.crossed = true;
        line.fromPart = "Dipole (lower)";
        line.toPart = "Dipole (upper)";
        lined.lines = {line};
        const Solved other = solved(lined);
        CHECK(std::abs(s.reading.antennaOhm - other.z()) < 1e-6 * std::abs(other.z()));
        CHECK(s.gain(20, 0) == Approx(other.gain(20, 0)).margin(1e-6));
    }
    {
        // Loss in the cables is no loss of the antenna, but it is there.
        d.harness.line.lossRoot = "1";
        const auto a = study::analyse(expand(d), kHz);
        CHECK(a.figures.efficiency == Approx(1.0).margin(1e-6));
        CHECK(a.figures.harnessLossDb > 0.05);
        CHECK(a.figures.joints.back().totalLossDb == Approx(a.figures.harnessLossDb));
        const auto sweep = study::sweep(expand(d), kHz, 1.01 * kHz, 3);
        CHECK(sweep.points[0].harnessLossDb == Approx(a.figures.harnessLossDb));
        CHECK(std::abs(sweep.points[0].antennaOhm - a.figures.antennaOhm) < 0.05);
    }
    {
        // A drive set with one half turned round crosses its arms.
        d.harness.line.lossRoot = "0";
        d.harness.arms.clear();
        d.driveSets = study::driveSetsBy(study::DrivePattern::UpperHalfReversed, expand(d), kHz);
        d.driveSet = 0;
        CHECK(solved(d).gain(0, 0) < -100.0);
    }
    d.harness.line.line = "string";
    CHECK(firstError(d).find("\"string\" is not a known line") != std::string::npos);
}

TEST_CASE("coupling between feeds: of a pair by hand, and reciprocal") {
    // Two resistors of 50 ohm with 25 ohm in common: Z = 75 25; 25 75.
    em::MatrixXc z(2, 2);
    z << 75.0, 25.0, 25.0, 75.0;
    em::MatrixXc y(2, 2);
    y << 0.015, -0.005, -0.005, 0.015;
    const auto c = study::couplingOf(y, 50.0);
    CHECK((c.impedanceOhm - z).norm() < 1e-9);
    // S21 = 2 Z21 Z0/((Z11 + Z0)(Z22 + Z0) - Z12 Z21).
    CHECK(c.couplingDb(1, 0) == Approx(20.0 * std::log10(2.0 * 25.0 * 50.0 / (125.0 * 125.0 - 625.0))));
    auto d = yagiDesign();
    d.copies = {stack("2", "1", "4 m", "0 m")};
    const auto sweep = study::sweep(expand(d), 50e6, 51e6, 21);
    REQUIRE(sweep.points.size() == 21);
    for (const auto& p : sweep.points) {
        const auto pair = study::couplingOf(p.feedAdmittance, 50.0);
        CHECK(pair.couplingDb(0, 1) == Approx(pair.couplingDb(1, 0)).margin(1e-6));
        CHECK(pair.couplingDb(0, 1) < -10.0);
    }
    // Both driven alike each sees the sum of a row of Z.
    const auto& p = sweep.points[10];
    const auto pair = study::couplingOf(p.feedAdmittance, 50.0);
    CHECK(std::abs(p.impedanceOhm[0] - pair.impedanceOhm(0, 0) - pair.impedanceOhm(0, 1)) < 1e-6);
}

TEST_CASE("stacking advice: a pair at that spacing has its first nulls where one has lost 3 dB") {
    // lambda/(2 sin 30 deg) for 60 degrees.
    CHECK(study::stackingSpacingM(60.0, 6.0) == Approx(6.0));
    auto d = yagiDesign();
    d.copies = {stack("2", "1", "2 m", "0 m")};
    const auto advice = study::adviseStacking(d, 0, kHz);
    REQUIRE(advice.rowSpacingM);
    auto one = d;
    one.copies.clear();
    const auto single = study::readCut(study::analyse(expand(one), kHz).elevation);
    CHECK(advice.rowBeamwidthDeg == Approx(*single.beamwidthDeg()));
    d.copies[0].rowSpacing = std::to_string(*advice.rowSpacingM) + " m";
    const auto pair = study::analyse(expand(d), kHz);
    CHECK(pair.elevation.at(0.5 * advice.rowBeamwidthDeg) < pair.figures.peak.gainDbi - 20.0);
    // The scan: wider spacing brings gain at first and larger side lobes.
    const auto scan = study::scanStacking(d, 0, kHz, 1.5, 6.0, 10);
    REQUIRE(scan.size() == 10);
    CHECK(scan[5].gainDbi > scan[0].gainDbi + 1.0);
    REQUIRE(scan[9].sideLobeDb);
    REQUIRE(scan[4].sideLobeDb);
    CHECK(*scan[9].sideLobeDb > *scan[4].sideLobeDb);
    CHECK_THROWS_AS(study::adviseStacking(one, 0, kHz), Error);
}

TEST_CASE("the drive sets side by side rest on one field solution") {
    auto d = yagiDesign();
    d.copies = {stack("2", "2", "4 m", "5 m")};
    d.site.ground = GroundKind::Real;
    d.site.height = "6 m";
    const auto e = expand(d);
    for (const auto pattern : {study::DrivePattern::AllInPhase, study::DrivePattern::UpperHalfReversed,
                               study::DrivePattern::EachPair, study::DrivePattern::SingleOnes})
        for (auto& set : study::driveSetsBy(pattern, e, kHz)) d.driveSets.push_back(set);
    CHECK(d.driveSets.size() == 8);
    CHECK(d.driveSets[2].name == "lower left and lower right");
    study::FieldStore fields;
    const auto rows = study::studyDrives(d, kHz, 0.0, 10.0, &fields);
    CHECK(fields.solutions() == 1);
    REQUIRE(rows.size() == 9);
    for (const auto& row : rows) REQUIRE(row.known());
    CHECK(rows[0].elevation.maximum.gainDbi == Approx(rows[1].elevation.maximum.gainDbi));
    // Reversed, the lobe is higher; a single one has less gain than all.
    CHECK(rows[2].elevation.maximum.angleDeg > rows[1].elevation.maximum.angleDeg + 5.0);
    CHECK(rows[5].elevation.maximum.gainDbi < rows[1].elevation.maximum.gainDbi - 3.0);
}

TEST_CASE("guys are broken by their insulators, and a mast in two pieces carries less") {
    Design d = dipoleDesign("6 m");
    Part guys;
    guys.name = "Guys";
    Fan fan;
    fan.hub = {"-2 m", "0 m", "9 m"};
    fan.count = "3";
    fan.length = "11 m";
    fan.slope = "50 deg";
    fan.insulators = "3";
    guys.shape = fan;
    d.parts.push_back(guys);
    const auto e = expand(d);
    REQUIRE(e.model.wires.size() == 1 + 3 * 4);
    double length = 0.0;
    for (std::size_t w = 1; w <= 4; ++w) length += e.model.wires[w].lengthM();
    CHECK(length == Approx(11.0 - 3 * 0.1));
    CHECK((e.model.wires[4].endM - e.model.wires[1].startM).norm() == Approx(11.0));
    std::get<Fan>(d.parts[1].shape).insulators = "200";
    CHECK(firstError(d).find("insulators") != std::string::npos);
}

TEST_CASE("renamed things keep what is said of them, on every copy and on no other part") {
    auto d = yagiDesign();
    auto other = d.parts[0];
    other.name = "Second";
    std::get<ElementRow>(other.shape).start[2] = "20 m";
    d.parts.push_back(other);
    d.copies = {stack("2", "1", "4 m", "0 m")};
    d.copies[0].parts = {"Yagi"};
    d.feeds[0].part = "Yagi (upper)";
    Feed second;
    second.name = "Other";
    second.part = "Second";
    second.place.element = "driven";
    d.feeds.push_back(second);
    d.driveSets = {driving("one", {{"Feed"}, {"Other"}})};
    d.harness.arms = {{"Feed", "2 m", false}};
    d.driveSet = 0;
    REQUIRE(expand(d).usable());
    renamePart(d, 0, "Long one");
    renameElement(d, 0, 1, "split");
    renameFeed(d, 0, "Main");
    CHECK(d.feeds[0].part == "Long one (upper)");
    CHECK(d.feeds[0].place.element == "split");
    CHECK(d.feeds[1].place.element == "driven");
    CHECK(d.copies[0].parts.at(0) == "Long one");
    CHECK(d.driveSets[0].driven[0].feed == "Main");
    CHECK(d.driveSets[0].driven[1].feed == "Other");
    CHECK(d.harness.arms[0].feed == "Main");
    CHECK(firstError(d).empty());
    CHECK(expand(d).usable());
    // Copies of a renamed feed keep their labels.
    d.feeds[0].part = "Long one";
    d.driveSets[0].driven[0].feed = "Main (lower)";
    renameFeed(d, 0, "Feed");
    CHECK(d.driveSets[0].driven[0].feed == "Feed (lower)");
    CHECK(expand(d).usable());
    CHECK(partMeant(d, "Long one (upper)") == &d.parts[0]);
    CHECK(partMeant(d, "Nobody") == nullptr);
    CHECK(labelOf("Feed (lower left)") == "lower left");
    CHECK(labelOf("Feed") == "Feed");
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
