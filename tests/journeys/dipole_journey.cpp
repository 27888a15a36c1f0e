// A dipole for 20 m: raised, brought to resonance, its band and its pattern read, compared with itself higher
// up.
#include "journey.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("journey: a dipole is raised, scaled to the band and compared with itself higher up") {
    Journey w;
    w.sound();
    CHECK(w.document().design().name == "Dipole");
    // Read it where it hangs, and raise it.
    const double low = w.figure("takeoff");
    w.select(w.item(Journey::Type::Site));
    w.type("Height", "15 m");
    CHECK(w.figure("takeoff") < low);
    // Where is it resonant? Scale it to where it is wanted.
    w.menu("Find the nearest resonance");
    w.settle();
    REQUIRE(w.session().resonance().has_value());
    CHECK(w.notice()->sentence().contains("Resonant"));
    w.editing().scaleTo({"span"}, 14.2e6);
    w.settle();
    CHECK(w.session().frequencyHz() == Approx(14.2e6));
    CHECK(std::abs(w.analysis()->figures.antennaOhm.imag()) < 1.0);
    CHECK(w.swr() < 1.7);
    // The band: its edges and its width.
    CHECK(w.ledger()->figure("2:1 width") == "all");
    // Pinned, then higher: the pin keeps the old figures, the baseline makes differences of them.
    w.menu("Pin the live result");
    w.settle();
    REQUIRE(w.document().project().pins.size() == 1);
    const double before = w.figure("10°");
    Q_EMIT w.ledger()->baselineChosen(w.document().project().pins[0].id);
    w.select(w.item(Journey::Type::Site));
    w.type("Height", "22 m");
    CHECK(w.figure("10°", 1) == Approx(before).margin(0.11));
    CHECK(w.ledger()->figure("10°").startsWith("+"));
    w.thereAndBack();
    w.sound();
}

TEST_CASE("journey: mistakes on the way are named, kept to be mended, and undone") {
    Journey w;
    w.typeDimension("span", "10.35 parsec");
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("parsec"); }));
    CHECK(w.dimensionText("span") == "10.35 parsec");
    CHECK_FALSE(w.live());
    w.typeDimension("span", "33' 11\"");
    w.settle();
    w.sound();
    CHECK(w.notice()->sentence().isEmpty());
    w.typeDimension("span", "0.48*lambda");
    w.settle();
    w.sound();
    w.select(w.item(Journey::Type::Feed));
    w.choose("Place", "end");
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("open end"); }));
    // The offer leads to the part it is about.
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    CHECK(w.session().selection().type == Journey::Type::Feed);
    w.undo();
    w.sound();
}
