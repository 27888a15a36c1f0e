// Wires that hang from one mast: an inverted V, an end-fed wire with its feed path, a ground plane, a delta
// loop.
#include "app/plan/block_choices.h"
#include "app/stages/match/chain_view.h"
#include "app/stages/match/match_view.h"
#include "journey.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("journey: an inverted V on 40 m, its legs as a dimension, its angle tried") {
    Journey w;
    w.clear();
    w.band("40 m");
    w.designFrequency("7.1 MHz");
    w.menu("Inverted V");
    w.settle();
    w.sound();
    // Its leg becomes a dimension that can be slid.
    w.menu("Add a dimension");
    w.type("Name", "leg");
    w.type("Value", "10.2 m");
    w.select(w.item(Journey::Type::Part));
    w.type("Leg", "leg");
    w.type("Apex height", "12 m");
    w.site("average", "0 m");
    w.sound();
    CHECK(w.swr() < 3.0);
    const double flat = w.analysis()->figures.antennaOhm.real();
    w.select(w.item(Journey::Type::Part));
    w.type("Angle", "90 deg");
    CHECK(w.analysis()->figures.antennaOhm.real() < flat);
    w.undo();
    w.editing().scaleTo({"leg"}, 7.1e6);
    w.settle();
    CHECK(std::abs(w.analysis()->figures.antennaOhm.imag()) < 1.0);
    CHECK(w.swr() < 2.0);
    const QString leg = w.dimensionText("leg");
    w.dragSlider("leg", 15);
    w.settle();
    CHECK(w.dimensionText("leg") != leg);
    w.undo();
    CHECK(w.dimensionText("leg") == leg);
    w.thereAndBack();
}

TEST_CASE("journey: an end-fed wire through transformer and cable, with a counterpoise") {
    Journey w;
    w.clear();
    w.designFrequency("14.1 MHz");
    w.menu("Straight wire");
    w.type("Start, up", "1 m");
    w.type("Start, left", "0 m");
    w.type("End, left", "7.4 m");
    w.type("End, up", "8 m");
    w.menu("Straight wire");
    w.type("Start, up", "1 m");
    w.type("Start, left", "0 m");
    w.type("End, left", "-1.0 m");
    w.type("End, up", "1 m");
    w.site("average", "0 m");
    w.select(w.item(Journey::Type::Feed));
    w.choose("Place", "start");
    w.sound();
    // Bare at the feed: thousands of ohms.
    CHECK(w.analysis()->figures.antennaOhm.real() > 1000.0);
    // The path to the radio.
    w.editing().addBlock(app::blockChoices()[0].block);
    w.settle();
    const double matched = w.swr();
    CHECK(matched < 5.0);
    w.editing().addBlock(app::blockChoices()[1].block);
    w.settle();
    CHECK(w.swr() < matched + 0.01);  // the cable's loss flatters it
    // Both blocks in the chain, with what they lose.
    w.bench.openStage("match");
    w.settle();
    auto* chain = w.find<app::MatchView>()->chain();
    CHECK(chain->lossText(0).contains("dB"));
    CHECK(chain->lossText(1).contains("W"));
    // The other ratio, by hand, and the one that suits better stays.
    w.select(w.item(Journey::Type::Block));
    w.type("Ratio", "9:1");
    CHECK(w.swr() > matched);
    w.undo();
    w.sound();
    w.thereAndBack();
}

TEST_CASE("journey: a ground plane with four sloping radials, more and fewer of them") {
    Journey w;
    w.clear();
    w.designFrequency("14.15 MHz");
    w.menu("Straight wire");
    w.type("Start, left", "0 m");
    w.type("Start, up", "0 m");
    w.type("End, left", "0 m");
    w.type("End, up", "0.24*lambda");
    w.select(w.item(Journey::Type::Feed));
    w.choose("Place", "start");
    w.menu("Fan of wires");
    w.type("Hub, up", "0 m");
    w.type("Slope", "40 deg");
    w.site("average", "5 m");
    w.sound();
    CHECK(w.ledger()->figure("beamwidth") == "round");
    CHECK(w.figure("takeoff") < 30.0);
    CHECK(w.swr() < 2.0);
    w.select(w.item(Journey::Type::Part, 1));
    const double four = w.analysis()->figures.antennaOhm.real();
    w.type("Wires", "2");
    CHECK(w.analysis()->figures.antennaOhm.real() != Approx(four).margin(0.01));
    w.type("Wires", "0");
    REQUIRE(waitFor([&] { return !w.notice()->sentence().isEmpty(); }));
    w.undo();
    w.undo();
    w.sound();
    CHECK(w.analysis()->figures.antennaOhm.real() == Approx(four));
}

TEST_CASE("journey: a delta loop, fed at the bottom, at a corner, and turned") {
    Journey w;
    w.clear();
    w.band("15 m");
    w.designFrequency("21.2 MHz");
    w.menu("Regular loop");
    w.type("Sides", "3");
    w.type("Size", "1.05*lambda");
    w.site("average", "0 m");
    w.sound();
    const double bottom = w.analysis()->figures.antennaOhm.real();
    const double horizontal = w.figure("takeoff");
    w.select(w.item(Journey::Type::Feed));
    w.choose("Place", "corner");
    w.type("Corner", "2");
    w.sound();
    // The corner turns it upright: a lower angle, another resistance.
    CHECK(w.figure("takeoff") < horizontal);
    CHECK(w.analysis()->figures.antennaOhm.real() != Approx(bottom).margin(1.0));
    w.menu("Pin the live result");
    w.settle();
    w.select(w.item(Journey::Type::Part));
    w.choose("Stands on", "corner");
    w.sound();
    w.settle();
    CHECK(w.ledger()->rowCount() == 2);
    w.thereAndBack();
}
