// Antennas with their feet on the earth: a vertical on radials and on a rod, a counterpoise on the lawn, a
// mast.
#include "app/stages/radials/radial_view.h"
#include "journey.h"

using namespace rm;
using namespace rm::test;

namespace {

/// A quarter wave for 40 m that stands on average soil.
void standVertical(Journey& w) {
    w.clear();
    w.designFrequency("7.1 MHz");
    w.band("40 m");
    w.menu("Straight wire");
    w.type("Name", "Vertical");
    w.type("Start, left", "0 m");
    w.type("Start, up", "0 m");
    w.type("End, left", "0 m");
    w.type("End, up", "10.2 m");
    w.site("average", "0 m");
    w.select(w.item(Journey::Type::Feed));
    w.choose("Place", "start");
    w.settle();
}

}  // namespace

TEST_CASE("journey: a vertical on the lawn gets radials, more of them, and a rod instead") {
    Journey w;
    standVertical(w);
    // On its own it holds on to nothing, and the mend is named.
    CHECK(w.notice()->sentence().contains("nothing in it to hold on to"));
    w.menu("Radial system under the antenna");
    w.type("Radials", "16");
    w.type("Length", "10 m");
    w.type("Depth", "5 cm");
    w.sound();
    const auto ohm = [&] { return w.analysis()->figures.antennaOhm.real(); };
    const double sixteen = ohm();
    CHECK(sixteen == Approx(45.9).margin(1.0));  // 45.3 and the copper
    const double sky = w.figure("to the sky");
    const double atTen = w.analysis()->elevation.at(10.0);
    w.type("Radials", "4");
    CHECK(ohm() > sixteen + 10.0);
    CHECK(w.figure("to the sky") < sky);
    CHECK(w.analysis()->elevation.at(10.0) < atTen - 0.5);
    w.type("Radials", "64");
    CHECK(ohm() < sixteen);
    CHECK(w.figure("to the sky") > sky);
    w.type("Depth", "30 cm");
    w.sound();
    w.type("Length", "5 m; 10 m");
    w.sound();
    // Half of a radial system is typed: nothing is lost, and the mend is named.
    w.type("Length", "5 m; ten");
    CHECK_FALSE(w.live());
    w.type("Length", "10 m");
    w.sound();
    // A rod instead is not the same.
    w.menu("Remove selected");
    w.menu("Ground rod under the antenna");
    w.type("Length", "2 m");
    w.sound();
    CHECK(ohm() > 2.0 * sixteen);
    CHECK(w.figure("to the sky") < 0.6 * sky);
    w.thereAndBack();
}

TEST_CASE("journey: how many radials pay is studied, and a click lays them") {
    Journey w;
    standVertical(w);
    // Without radials the study says what is missing.
    w.menu("Radials study");
    w.settle();
    CHECK(w.notice()->sentence().contains("no radial system"));
    w.menu("Radial system under the antenna");
    w.type("Length", "10 m");
    w.sound();
    w.menu("Radials study");
    auto* view = w.find<app::RadialView>();
    REQUIRE(waitFor([&] { return view->isVisible() && view->plots()->study() != nullptr; }));
    w.settle();
    CHECK(view->line().contains("more of them hardly pay"));
    auto* plots = view->plots();
    // The pointer reads the values where it is; a click lays the radials.
    REQUIRE(study::radialCounts()[8] == 32);
    const QPoint place = plots->placeOf(1, 8).toPoint();
    QTest::mouseMove(plots, place);
    CHECK(plots->reading().startsWith(QString("32 %1 10 m, 320 m of wire").arg(QChar(0xd7))));
    QTest::mouseClick(plots, Qt::LeftButton, Qt::NoModifier, place);
    w.settle();
    const auto& system = std::get<model::RadialSystem>(w.design().parts[1].shape);
    CHECK(system.count == "32");
    CHECK(system.length == "10 m");
    CHECK_FALSE(view->stale());
    CHECK(w.analysis()->figures.antennaOhm.real() ==
          Approx(plots->study()->curves[1].points[8].ohm.real()).margin(0.01));
    // Another antenna makes it old.
    w.select(w.item(Journey::Type::Part));
    w.type("End, up", "9.8 m");
    CHECK(view->stale());
    w.thereAndBack();
}

TEST_CASE("journey: an end-fed wire's counterpoise is laid on the lawn") {
    Journey w;
    w.clear();
    w.designFrequency("7.1 MHz");
    w.menu("Bent wire");
    w.type("Name", "Sloper");
    w.type("Point 1, forward", "0 m");
    w.type("Point 1, up", "0 m");
    w.type("Point 2, up", "0.5 m");
    w.type("Point 3, forward", "17 m");
    w.type("Point 3, up", "8 m");
    w.menu("Straight wire");
    w.type("Name", "Counterpoise");
    w.type("Start, left", "0 m");
    w.type("Start, up", "0 m");
    w.type("End, left", "4 m");
    w.type("End, up", "0 m");
    w.site("average", "0 m");
    w.select(w.item(Journey::Type::Feed));
    w.choose("Place", "start");
    w.sound();
    // It lies a little above the ground, and what it would make to tread it in is said, not guessed.
    const auto remarks = w.session().results()->remarks.join(' ');
    INFO(remarks.toStdString());
    CHECK(remarks.contains("Counterpoise lies on the ground"));
    CHECK(remarks.contains("Pressed"));
    CHECK(w.figure("to ground") > 20.0);
    w.thereAndBack();
}

TEST_CASE("journey: a mast with its foot in the soil beside a vertical, with and without") {
    Journey w;
    standVertical(w);
    w.menu("Radial system under the antenna");
    w.settle();
    w.sound();
    // On a radial the mast would touch it: that is said, and a turn of the radials mends it.
    w.menu("Nearby: mast or tower");
    w.settle();
    CHECK(w.notice()->sentence().contains("touch"));
    w.undo();
    w.select(w.item(Journey::Type::Part, 1));
    w.type("First", "11.25 deg");
    w.sound();
    REQUIRE(w.analysis() != nullptr);
    const double alone = w.analysis()->figures.antennaOhm.real();
    w.menu("Nearby: mast or tower");
    w.settle();
    w.sound();
    REQUIRE(w.analysis() != nullptr);
    const auto wires = w.session().expansion()->model.wires;
    CHECK(wires.back().startM.z() == -1.0);
    const double beside = w.analysis()->figures.antennaOhm.real();
    CHECK(std::abs(beside - alone) > 1.0);
    w.menu("Remove selected");
    w.settle();
    CHECK(w.analysis()->figures.antennaOhm.real() == Approx(alone));
    w.undo();
    CHECK(w.analysis()->figures.antennaOhm.real() == Approx(beside));
    w.thereAndBack();
}
