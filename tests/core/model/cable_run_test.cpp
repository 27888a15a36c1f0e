// Cable runs: how they are laid and joined, and the laws of what flows on them.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/build/sheet.h"
#include "core/model/loosen.h"
#include "core/model/without.h"
#include "core/project/project_file.h"
#include "core/study/balance.h"
#include "core/study/currents.h"
#include "findings.h"

using namespace rm;
using namespace rm::model;
using namespace rm::test;

namespace {

/// A half-wave dipole for 14.1 MHz at 10 m, 10.1 m long, broadside to the front.
Design dipoleWithRun(const CableRun& run) {
    Design d;
    d.name = "Dipole";
    d.designFrequency = "14.1 MHz";
    Part wire;
    wire.name = "Wire";
    wire.shape = StraightWire{{"0 m", "-5.05 m", "10 m"}, {"0 m", "5.05 m", "10 m"}};
    d.parts.push_back(wire);
    Feed feed;
    feed.part = "Wire";
    d.feeds.push_back(feed);
    Part cable;
    cable.name = "Cable";
    cable.shape = run;
    d.parts.push_back(cable);
    return d;
}

CableRun runDown(const char* level, ShieldOn shield = ShieldOn::Other) {
    CableRun run;
    run.shield = shield;
    run.level = level;
    return run;
}

study::Analysis analysed(const Design& d, double hz = 14.1e6) {
    const Expansion e = expand(d);
    INFO(allSentences(e.findings));
    REQUIRE(e.usable());
    return study::analyse(e, hz);
}

study::FeedBalance balance(const Design& d, double hz = 14.1e6) {
    const Expansion e = expand(d);
    const auto all = study::balanceOf(e, study::analyse(e, hz));
    REQUIRE(all.size() == 1);
    return all.front();
}

Load choke(const char* ohm, PlaceKind kind = PlaceKind::Start, const char* value = "") {
    Load load;
    load.name = "Choke";
    load.part = "Cable";
    load.place = {kind, value};
    load.resistance = ohm;
    return load;
}

}  // namespace

TEST_CASE("a run hangs from the middle of a wire, which is cut there") {
    CableRun run = runDown("2 m");
    run.points.push_back({"", {"0 m", "6 m", "2 m"}});
    const Expansion e = expand(dipoleWithRun(run));
    REQUIRE(e.usable());
    // Two halves of the wire, then down and along.
    REQUIRE(e.model.wires.size() == 4);
    CHECK(e.model.wires[0].endM.isApprox(Vec3(0.0, 0.0, 10.0)));
    CHECK(e.model.wires[1].startM.isApprox(Vec3(0.0, 0.0, 10.0)));
    CHECK(e.model.wires[2].startM.isApprox(Vec3(0.0, 0.0, 10.0)));
    CHECK(e.model.wires[2].endM.isApprox(Vec3(0.0, 0.0, 2.0)));
    CHECK(e.model.wires[3].endM.isApprox(Vec3(0.0, 6.0, 2.0)));
    REQUIRE(e.model.feeds.size() == 1);
    CHECK(e.model.feeds[0].place.wire == 1);
    CHECK(e.model.feeds[0].place.at == 0.0);
    REQUIRE(e.runs.size() == 1);
    CHECK(e.runs[0].lengthM == Approx(14.0));
    CHECK(e.runs[0].feed == "Feed");
    // Heights of the run count from the ground: the height of the site lifts the feed alone.
    Design lifted = dipoleWithRun(run);
    lifted.site.height = "3 m";
    const Expansion up = expand(lifted);
    REQUIRE(up.usable());
    CHECK(up.model.wires[2].startM.z() == Approx(13.0));
    CHECK(up.model.wires[2].endM.z() == Approx(2.0));
    // Switched off nothing is cut.
    Design off = dipoleWithRun(run);
    off.parts[1].enabled = false;
    CHECK(expand(off).model.wires.size() == 1);
}

TEST_CASE("loads and lines stay where they are when a wire is cut for a shield") {
    Design d = dipoleWithRun(runDown("2 m"));
    Load coil;
    coil.name = "Coil";
    coil.part = "Wire";
    coil.inductance = "2";
    coil.place = {PlaceKind::Distance, "2 m"};
    d.loads.push_back(coil);
    coil.name = "Other coil";
    coil.place = {PlaceKind::Distance, "8.1 m"};
    d.loads.push_back(coil);
    const Expansion with = expand(d);
    REQUIRE(with.usable());
    const auto at = [&](const WirePlace& place) -> Vec3 {
        const auto& wire = with.model.wires[place.wire];
        return wire.startM + place.at * (wire.endM - wire.startM);
    };
    CHECK(at(with.model.loads[0].place).y() == Approx(-3.05));
    CHECK(at(with.model.loads[1].place).y() == Approx(3.05));
    CHECK(with.model.loads[1].place.wire == 1);
}

TEST_CASE("a choke of infinite impedance is a cut cable, one of none a plain one") {
    for (const ShieldOn shield : {ShieldOn::Other, ShieldOn::Own}) {
        // A quarter wave long and open: the feed sees it as a short way out.
        const Design plain = dipoleWithRun(runDown("4.7 m", shield));
        Design none = plain;
        none.loads.push_back(choke("0"));
        Design endless = plain;
        endless.loads.push_back(choke("1e9"));
        Design off = plain;
        off.parts[1].enabled = false;
        const Complex z = analysed(plain).figures.antennaOhm;
        CHECK(std::abs(analysed(none).figures.antennaOhm - z) < 0.005 * std::abs(z));
        // A cable cut at the feed hangs there all the same: what is left of its effect is that of a wire that
        // floats between the halves.
        const auto cut = analysed(endless);
        const Complex bare = analysed(off).figures.antennaOhm;
        CHECK(std::abs(cut.figures.antennaOhm - bare) < 0.01 * std::abs(bare));
        CHECK(std::abs(z - bare) > 0.05 * std::abs(bare));
        CHECK(balance(endless).share() < 0.02);
        CHECK(balance(plain).share() > 0.1);
        // Half way down it is as if the cable ended there.
        Design half = plain;
        half.loads.push_back(choke("1e9", PlaceKind::Distance, "2.5 m"));
        const Design shorter = dipoleWithRun(runDown("7.5 m", shield));
        const Complex there = analysed(shorter).figures.antennaOhm;
        CHECK(std::abs(analysed(half).figures.antennaOhm - there) < 0.03 * std::abs(there));
    }
}

TEST_CASE("a balanced feed with a run in its plane of symmetry carries no common mode") {
    const Design balanced = dipoleWithRun(runDown("1 m", ShieldOn::Middle));
    const auto b = balance(balanced);
    CHECK(b.share() < 1e-4);
    CHECK(std::abs(b.one - b.other) < 1e-4 * std::abs(b.one));
    Design off = balanced;
    off.parts[1].enabled = false;
    const Complex bare = analysed(off).figures.antennaOhm;
    CHECK(std::abs(analysed(balanced).figures.antennaOhm - bare) < 0.005 * std::abs(bare));
    // Led along one half it is no longer symmetric.
    CableRun aside = runDown("8 m", ShieldOn::Middle);
    aside.points.push_back({"", {"0 m", "5 m", "8 m"}});
    const auto lopsided = balance(dipoleWithRun(aside));
    CHECK(lopsided.share() > 0.01);
    CHECK(std::abs(lopsided.common() + lopsided.outside) < 1e-9 + 0.05 * std::abs(lopsided.outside));
    // A shield on one side is not balanced, and what the two sides differ by runs down the cable.
    const auto single = balance(dipoleWithRun(runDown("1 m")));
    CHECK(std::abs(single.one - single.other + single.outside) < 0.02 * std::abs(single.one));
    CHECK(single.sentence(1.0).find("run down the outside of Cable") != std::string::npos);
}

TEST_CASE("power in chokes, wires, soil and sky adds up") {
    CableRun run = runDown("0.5 m");
    run.points.push_back({"", {"-6 m", "0 m", "0.1 m"}});
    run.end = RunEnd::Rod;
    Design d = dipoleWithRun(run);
    d.site.ground = GroundKind::Real;
    Load c = choke("300", PlaceKind::Distance, "1 m");
    c.inductance = "20";
    d.loads.push_back(c);
    const Expansion e = expand(d);
    INFO(allSentences(e.findings));
    REQUIRE(e.usable());
    // The lead goes down to the surface, the rod on from there.
    CHECK(e.model.wires.back().endM.z() == Approx(-1.5));
    const auto a = study::analyse(e, 14.1e6);
    const auto& f = a.figures;
    CHECK(a.reading.eachLoadW.size() == 1);
    CHECK(a.reading.eachLoadW[0] == Approx(a.reading.loadPowerW));
    CHECK(a.reading.loadPowerW > 0.0);
    const double lost = a.reading.lostPowerW() / a.reading.inputPowerW;
    CHECK(lost + f.skyShare + f.groundShare == Approx(1.0).margin(2e-3));
    CHECK(f.groundShare > 0.0);
    // The heat of the choke at full power, with a word where it is too much.
    auto heat = study::loadHeat(e, a, 400.0);
    REQUIRE(heat.size() == 1);
    CHECK(heat[0].watts == Approx(400.0 * a.reading.eachLoadW[0] / a.reading.inputPowerW));
    CHECK(heat[0].warning().empty());
    d.loads[0].rating = "0.1";
    const Expansion rated = expand(d);
    CHECK(study::loadHeat(rated, study::analyse(rated, 14.1e6), 400.0)[0].warning().find(
              "more than the 0.1 W") != std::string::npos);
}

TEST_CASE("the station's earth stands in series with its rod") {
    CableRun run = runDown("0.5 m");
    run.end = RunEnd::Earth;
    run.earthOhm = "25";
    Design d = dipoleWithRun(run);
    d.site.ground = GroundKind::Real;
    const Expansion e = expand(d);
    REQUIRE(e.usable());
    REQUIRE(e.model.loads.size() == 1);
    CHECK(e.model.loads[0].name == "Cable, earth");
    CHECK(e.model.loads[0].circuit.resistanceOhm == 25.0);
    CHECK(study::analyse(e, 14.1e6).reading.eachLoadW[0] > 0.0);
    // Over perfect ground it stands on the ground itself, in free space there is none.
    d.site.ground = GroundKind::Perfect;
    CHECK(expand(d).usable());
    d.site.ground = GroundKind::FreeSpace;
    const Expansion free = expand(d);
    CHECK(free.usable());
    CHECK(hasSentence(free.findings, "no ground in free space"));
    CHECK(free.model.loads.empty());
}

TEST_CASE("the feed path knows the run: its size, its length, what chokes on the way") {
    Design d = dipoleWithRun(runDown("2 m"));
    FeedBlock balun;
    balun.kind = BlockKind::Transformer;
    balun.name = "Balun";
    balun.ratio = "1:1";
    balun.choking = "3000";
    FeedBlock cable;
    cable.kind = BlockKind::Cable;
    cable.name = "Coax";
    cable.line = "coax 50 thick";
    cable.length = "30 m";
    d.feedPath = {balun, cable};
    Expansion e = expand(d);
    REQUIRE(e.usable());
    CHECK(e.model.wires[2].radiusM == Approx(0.5 * findLine("coax 50 thick")->diameterM));
    CHECK(e.model.wires[2].coatM == Approx(findLine("coax 50 thick")->jacketM));
    REQUIRE(e.model.loads.size() == 1);
    CHECK(e.model.loads[0].name == "Balun");
    CHECK(e.model.loads[0].place.at == 0.0);
    CHECK(std::get<Cable>(e.feedPath[1]).lengthM == 30.0);
    std::get<CableRun>(d.parts[1].shape).measures = true;
    e = expand(d);
    CHECK(std::get<Cable>(e.feedPath[1]).lengthM == Approx(8.0));
    CHECK(e.runs[0].block == "Coax");
    // Behind three metres of cable it chokes three metres down.
    FeedBlock lead = cable;
    lead.name = "Lead";
    lead.length = "3 m";
    d.feedPath = {lead, balun};
    std::get<CableRun>(d.parts[1].shape).measures = false;
    e = expand(d);
    REQUIRE(e.model.loads.size() == 1);
    CHECK(e.model.loads[0].place.at == Approx(3.0 / 8.0));
    std::get<CableRun>(d.parts[1].shape).sized = false;
    CHECK(expand(d).model.wires[2].radiusM == Approx(0.001));
}

TEST_CASE("an end-fed wire works against its cable") {
    Design d = dipoleWithRun(runDown("1 m"));
    d.feeds[0].place = {PlaceKind::Start, ""};
    const Expansion e = expand(d);
    INFO(allSentences(e.findings));
    REQUIRE(e.usable());
    const auto all = study::balanceOf(e, study::analyse(e, 14.1e6));
    // All of it flows on the outside of the cable.
    CHECK(std::abs(all[0].one + all[0].outside) < 0.01 * std::abs(all[0].one));
    CHECK(std::abs(all[0].other) < 0.01 * std::abs(all[0].one));
    // Without the cable it cannot be fed there, and no effect can be told.
    CHECK(study::cableEffects(d, e, study::analyse(e, 14.1e6)).empty());
}

TEST_CASE("what a cable costs is said in a sentence") {
    const Design d = dipoleWithRun(runDown("4.7 m"));
    const Expansion e = expand(d);
    const auto effects = study::cableEffects(d, e, study::analyse(e, 14.1e6));
    REQUIRE(effects.size() == 1);
    CHECK(effects[0].run == "Cable");
    CHECK(effects[0].share > 0.1);
    CHECK(effects[0].shiftHz != 0.0);
    CHECK(effects[0].sentence().rfind("Cable carries ", 0) == 0);
    // The shift is that of the resonance: reactance of the bare dipole at hz - shift is that of the whole at
    // hz.
    const Complex with = study::analyse(e, 14.1e6).figures.antennaOhm;
    const auto bare = expand(model::withoutPart(d, "Cable"));
    const Complex moved = study::analyse(bare, 14.1e6 - effects[0].shiftHz).figures.antennaOhm;
    CHECK(moved.imag() == Approx(with.imag()).margin(3.0));
}

TEST_CASE("the outside of a cable is nothing to cut") {
    const auto sheet = build::buildSheet(dipoleWithRun(runDown("1 m")));
    REQUIRE_FALSE(sheet.list.pieces.empty());
    for (const auto& piece : sheet.list.pieces) CHECK(piece.part == "Wire");
}

TEST_CASE("mistakes with cable runs are said in one sentence") {
    CableRun run = runDown("12 m");
    CHECK(hasSentence(expand(dipoleWithRun(run)).findings,
                      "is to come down to 12.00 m, but the feed is at 10.00 m"));
    run = runDown("1 m");
    run.feed = "Nobody";
    CHECK(hasSentence(expand(dipoleWithRun(run)).findings, "hangs from \"Nobody\""));
    run = runDown("1 m");
    run.down = false;
    CHECK(hasSentence(expand(dipoleWithRun(run)).findings, "leads nowhere"));
    run.points.push_back({"Old oak", {"0 m", "0 m", "2 m"}});
    CHECK(hasSentence(expand(dipoleWithRun(run)).findings, "passes \"Old oak\""));
    Design d = dipoleWithRun(runDown("1 m"));
    d.feeds.clear();
    CHECK(hasSentence(expand(d).findings, "hangs from a feed, which is not there"));
}

TEST_CASE("loosened into plain wires a run stays a run, with its balun and its chokes") {
    Design d = dipoleWithRun(runDown("2 m", ShieldOn::Middle));
    d.site.height = "1 m";
    d.loads.push_back(choke("900", PlaceKind::Distance, "2 m"));
    Load ring = choke("");
    ring.name = "Ring";
    ring.part = "Wire";
    ring.place = {PlaceKind::Percent, "20"};
    ring.form = LoadForm::Ring;
    d.loads.push_back(ring);
    FeedBlock balun;
    balun.name = "Balun";
    balun.ratio = "1:1";
    balun.choking = "500";
    d.feedPath.push_back(balun);
    const Design loose = loosened(d);
    const Complex whole = analysed(d).figures.antennaOhm;
    CHECK(std::abs(analysed(loose).figures.antennaOhm - whole) < 0.002 * std::abs(whole));
    CHECK(expand(loose).model.loads.size() == expand(d).model.loads.size());
    CHECK(expand(loose).runs.size() == 1);
    // A table is kept, too.
    d.loads[1].form = LoadForm::Table;
    d.loads[1].table = {{1e6, {10.0, 200.0}}, {30e6, {30.0, 500.0}}};
    CHECK(std::abs(analysed(loosened(d)).figures.antennaOhm - analysed(d).figures.antennaOhm) <
          0.002 * std::abs(analysed(d).figures.antennaOhm));
}

TEST_CASE("a run ends at the station's earth on, in and above every ground") {
    for (const char* level : {"1 m", "0 m", "-0.4 m"})
        for (const GroundKind kind : {GroundKind::Perfect, GroundKind::Real}) {
            CableRun run = runDown(level);
            run.points.push_back({"", {"-5 m", "0 m", level}});
            run.end = RunEnd::Earth;
            Design d = dipoleWithRun(run);
            d.site.ground = kind;
            const Expansion e = expand(d);
            INFO(level << " ground " << static_cast<int>(kind) << "\n" << allSentences(e.findings));
            if (kind == GroundKind::Perfect && level[0] != '1') {
                // Perfect ground has no inside, and what lies on it is none: it is said.
                CHECK_FALSE(e.usable());
                continue;
            }
            REQUIRE(e.usable());
            REQUIRE(e.model.loads.size() == 1);
            const auto a = study::analyse(e, 14.1e6);
            CHECK(a.reading.eachLoadW[0] >= 0.0);
            CHECK(a.reading.lostPowerW() / a.reading.inputPowerW + a.figures.skyShare +
                      a.figures.groundShare ==
                  Approx(1.0).margin(5e-3));
        }
}

TEST_CASE(
    "amperes are what a meter reads: squared and times the resistance they are the power that arrives") {
    const Design d = dipoleWithRun(runDown("2 m", ShieldOn::Middle));
    const Expansion e = expand(d);
    REQUIRE(e.usable());
    const auto a = study::analyse(e, 14.1e6);
    const auto balance = study::balanceOf(e, a);
    REQUIRE(balance.size() == 1);
    const double ampere = study::rmsAtFullPower(a, 100.0) * std::abs(balance[0].differential());
    CHECK(ampere * ampere * a.figures.antennaOhm.real() == Approx(100.0).epsilon(0.01));
}

TEST_CASE("a path that is wrong is said once") {
    Design d = dipoleWithRun(runDown("2 m"));
    FeedBlock cable;
    cable.kind = BlockKind::Cable;
    cable.name = "Coax";
    cable.length = "-3 m";
    FeedBlock unun;
    unun.name = "Unun";
    unun.choking = "500";
    d.feedPath = {cable, unun};
    const auto findings = expand(d).findings;
    CHECK(std::count_if(findings.begin(), findings.end(), [](const auto& f) { return f.part == "Coax"; }) ==
          1);
    d.feedPath[0].length = "3 m";
    d.feedPath[1].choking = "-1";
    CHECK(hasSentence(expand(d).findings, "what it chokes is -1"));
}

TEST_CASE("of a stack every feed can have a run of its own") {
    // Between the two dipoles, aside, and down past the lower one.
    CableRun aside = runDown("2 m");
    aside.down = false;
    aside.points = {{"", {"4 m", "0 m", "13 m"}}, {"", {"4 m", "0 m", "2 m"}}};
    Design d = dipoleWithRun(aside);
    Copy stack;
    stack.name = "Stack";
    stack.kind = CopyKind::Stack;
    stack.parts = {"Wire"};
    stack.rows = "2";
    stack.columns = "1";
    stack.rowSpacing = "5 m";
    d.copies.push_back(stack);
    for (const char* feed : {"Feed (lower)", "Feed (upper)"}) {
        std::get<CableRun>(d.parts[1].shape).feed = feed;
        const Expansion e = expand(d);
        INFO(allSentences(e.findings));
        REQUIRE(e.usable());
        REQUIRE(e.runs.size() == 1);
        CHECK(e.runs[0].feed == feed);
        CHECK(study::analyse(e, 14.1e6).figures.swr >= 1.0);
    }
}

TEST_CASE("runs and chokes are kept in the file") {
    Project p;
    CableRun run = runDown("-0.1 m", ShieldOn::Middle);
    run.points.push_back({"Oak", {"0 m", "0 m", "2 m"}});
    run.end = RunEnd::Earth;
    run.measures = true;
    p.designs = {dipoleWithRun(run)};
    Load ring = choke("");
    ring.form = LoadForm::Ring;
    ring.turns = "14";
    ring.rating = "20";
    p.designs[0].loads.push_back(ring);
    Load table = choke("");
    table.name = "Measured choke";
    table.form = LoadForm::Table;
    table.table = {{1e6, {10.0, 200.0}}, {30e6, {3000.0, -500.0}}};
    p.designs[0].loads.push_back(table);
    FeedBlock unun;
    unun.choking = "500";
    p.designs[0].feedPath.push_back(unun);
    p.keepClear.limits = LimitSet::Fcc;
    p.keepClear.windowM = 6.5;
    const Project back = io::parseProject(io::textOf(p), "It");
    CHECK(back.designs[0].parts[1].shape == p.designs[0].parts[1].shape);
    CHECK(back.designs[0].loads[0].turns == "14");
    CHECK(back.designs[0].loads[0].form == LoadForm::Ring);
    CHECK(back.designs[0].loads[1].table == p.designs[0].loads[1].table);
    CHECK(back.designs[0].feedPath[0].choking == "500");
    CHECK(back.keepClear == p.keepClear);
}

TEST_CASE("a choke of turns on a ring: inductance below, loss above where the ferrite falls off") {
    LumpedCircuit choke;
    choke.ring = FerriteRing{10.0, 0.061, 0.0355, 0.0127, 800.0, snoekRelaxationHz(800.0)};
    // Far below: mu0 mu h N^2/(2 pi) ln(D/d).
    const double henry = kMu0 * 800.0 * 0.0127 * 100.0 / (2.0 * kPi) * std::log(0.061 / 0.0355);
    const Complex low = circuit::lumpedImpedance(choke, 1e5);
    CHECK(low.imag() == Approx(2.0 * kPi * 1e5 * henry).epsilon(0.01));
    CHECK(low.real() < 0.02 * low.imag());
    // Where it falls off loss and storage are equal, but for the one of the air.
    const Complex there = circuit::lumpedImpedance(choke, choke.ring->relaxationHz);
    CHECK(there.real() == Approx(there.imag()).epsilon(0.01));
    // By Snoek's law a material of eight times less falls off eight times higher.
    CHECK(snoekRelaxationHz(101.0) == Approx(8.0 * snoekRelaxationHz(801.0)));
    // A stray capacitance resonates with it, and takes over above.
    choke.capacitanceF = 2e-12;
    choke.kind = LoadKind::Parallel;
    CHECK(circuit::lumpedImpedance(choke, 100e6).imag() < 0.0);
    // From a table, between its points; beyond them as at its ends.
    LumpedCircuit table;
    table.table = {{1e6, {100.0, 0.0}}, {4e6, {300.0, 100.0}}};
    CHECK(std::abs(circuit::lumpedImpedance(table, 2e6) - Complex(200.0, 50.0)) < 1e-9);
    CHECK(circuit::lumpedImpedance(table, 0.5e6) == Complex(100.0, 0.0));
    CHECK(circuit::lumpedImpedance(table, 9e6) == Complex(300.0, 100.0));
}

TEST_CASE("a run goes on in the soil, cut where it passes the surface") {
    CableRun run = runDown("-0.3 m");
    run.points.push_back({"", {"-8 m", "0 m", "-0.3 m"}});
    Design d = dipoleWithRun(run);
    d.site.ground = GroundKind::Real;
    const Expansion e = expand(d);
    INFO(allSentences(e.findings));
    REQUIRE(e.usable());
    // Two halves, down to the surface, into the soil, along.
    REQUIRE(e.model.wires.size() == 5);
    CHECK(e.model.wires[2].endM.z() == 0.0);
    CHECK(e.model.wires[3].endM.z() == Approx(-0.3));
    CHECK(e.runs[0].lengthM == Approx(18.3));
    const auto a = study::analyse(e, 14.1e6);
    CHECK(a.reading.lostPowerW() / a.reading.inputPowerW + a.figures.skyShare + a.figures.groundShare ==
          Approx(1.0).margin(3e-3));
    // In the soil the current on it dies away.
    const auto along = study::currentAlong(e, a, "Cable");
    CHECK(std::abs(along.back().ampere) < 0.1 * std::abs(along.front().ampere));
}
