// Pins in the real window: one key, names, baseline, overlays, restoring, and the directions that matter.
#include <QMenu>

#include "app/dialogs/angles_dialog.h"
#include "core/quantity/format.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// The demo without its pins.
struct Bare : Window {
    Bare() {
        document().edit("No pins", [](model::Project& p) { p.pins.clear(); });
        settle();
    }
};

void pressPin(Window& w) {
    w.yard()->setFocus();
    REQUIRE(w.action("Pin the live result")->shortcut() == QKeySequence("P"));
    w.action("Pin the live result")->trigger();
    w.settle();
}

}  // namespace

TEST_CASE("one key pins the live result; the next pin is called after what changed") {
    Bare w;
    pressPin(w);
    w.typeDimension("apex", "9 m");
    w.settle();
    pressPin(w);
    const auto& pins = w.document().project().pins;
    REQUIRE(pins.size() == 2);
    CHECK(pins[0].name == "Inverted V, 60 m");
    CHECK(pins[1].name == "apex 11.5 m → 9 m");
    auto* ledger = w.ledger();
    CHECK(ledger->rowCount() == 3);
    CHECK(ledger->figure("design", 2).startsWith("apex 11.5 m"));
    CHECK(ledger->height() >= 3 * 22);
    // The last pin is the live design: its figures are the same; the first one's are those of before.
    for (const char* column : {"peak", "SWR", "R, X in Ω", "efficiency", "10°"}) {
        CHECK(ledger->figure(column, 2) == ledger->figure(column));
        CHECK_FALSE(ledger->figure(column, 1).isEmpty());
    }
    CHECK(ledger->figure("R, X in Ω", 1) != ledger->figure("R, X in Ω"));
    // At the cursor the instruments say how far the live pattern is above each.
    CHECK(w.elevation()->differencesText().size() == 2);
    CHECK(w.elevation()->differencesText()[1] == "+0.0");
    // Undo takes the pin away again.
    w.undo();
    CHECK(ledger->rowCount() == 2);
}

TEST_CASE("a baseline turns the figures into differences; pins are hidden, renamed, moved and removed") {
    Bare w;
    pressPin(w);
    w.typeDimension("apex", "9 m");
    w.settle();
    pressPin(w);
    auto* ledger = w.ledger();
    const double live = w.analysis()->figures.peak.gainDbi;
    const double first = ledger->figure("peak", 1).section(' ', 0, 0).replace("−", "-").toDouble();
    Q_EMIT ledger->baselineChosen(w.document().project().pins.at(0).id);
    w.settle();
    CHECK(ledger->figure("design", 1).endsWith("(baseline)"));
    CHECK(ledger->figure("peak").startsWith(live < first ? "−" : "+"));
    CHECK(std::abs(ledger->figure("peak").mid(1).toDouble() - std::abs(live - first)) < 0.011);
    CHECK(ledger->figure("peak", 1).endsWith("dBi"));  // the baseline itself keeps its own
    // The curve of the band is a difference, too, and the rings may be labelled so.
    const auto* chart = w.band()->chart();
    CHECK(chart->axisTitle() == "SWR − baseline");
    w.session().showQuantity(app::BandQuantity::Gain, study::Plane::Radio);
    w.settle();
    CHECK(chart->axisTitle() == "gain, dB − baseline");
    CHECK(chart->valueRange().low <= live - first);
    CHECK(chart->valueRange().high >= live - first);
    w.session().showQuantity(app::BandQuantity::Swr, study::Plane::Radio);
    w.settle();
    w.elevation()->setLabels(app::PolarView::Labels::Dbi);
    CHECK(w.elevation()->ringText(0.0) ==
          QString::fromStdString(quantity::formatDb(std::max(live, first), 0)));
    w.elevation()->setLabels(app::PolarView::Labels::OverBaseline);
    CHECK(w.elevation()->ringText(0.0) ==
          QString::fromStdString(quantity::formatDb(std::max(live, first) - first, 0)));
    // As differences: the baseline is the middle ring all round, the live cut beside it by its dB.
    const double base = w.elevation()->shareAt(-3.0, 90.0) - w.elevation()->shareAt(-5.0, 90.0);
    CHECK(base == Approx(2.0 / 40.0));
    CHECK(w.elevation()->shareAt(w.analysis()->elevation.at(90.0), 90.0) ==
          Approx(0.5 + (live - first) / 40.0).margin(0.01));
    Q_EMIT ledger->pinColoured(w.document().project().pins.at(0).id, 3);
    w.settle();
    CHECK(w.document().project().pins[0].colour == 3);
    Q_EMIT ledger->pinRenamed(w.document().project().pins.at(1).id, "low one");
    Q_EMIT ledger->pinMoved(w.document().project().pins.at(1).id, -1);
    w.settle();
    CHECK(w.document().project().pins[0].name == "low one");
    CHECK(w.document().project().baseline == 1);
    Q_EMIT ledger->pinToggled(w.document().project().pins.at(0).id);
    w.settle();
    CHECK(ledger->figure("design", 1) == "low one  (hidden)");
    CHECK(ledger->figure("peak", 1).isEmpty());
    Q_EMIT ledger->pinRemoved(w.document().project().pins.at(1).id);
    w.settle();
    CHECK(w.document().project().pins.size() == 1);
    CHECK(w.document().project().baseline == -1);
}

TEST_CASE("the ledger sorts pins by a column and shows the columns that are chosen") {
    Bare w;
    for (const char* apex : {"7 m", "12 m", "9 m"}) {
        w.typeDimension("apex", apex);
        w.settle();
        pressPin(w);
    }
    auto* ledger = w.ledger();
    ledger->sortBy("peak");
    double before = 99.0;
    for (int row = 1; row <= 3; ++row) {
        const double peak = ledger->figure("peak", row).section(' ', 0, 0).toDouble();
        CHECK(peak <= before);
        before = peak;
    }
    CHECK(ledger->rowOf(1) != 2);
    CHECK(ledger->isColumnHidden(0) == false);
    ledger->setColumnShown("RDF", true);
    CHECK(ledger->figure("RDF").endsWith("dB"));
}

TEST_CASE("one cursor moves in both cuts and in the yard") {
    Bare w;
    const QImage before = w.yard()->grab().toImage();
    Q_EMIT w.elevation()->cursorMoved(30.0);
    CHECK(w.elevation()->cursorText().startsWith("30°"));
    CHECK(w.azimuth()->cursorText().startsWith("040°"));  // the bearing of the elevation cut
    CHECK(w.yard()->grab().toImage() != before);
    Q_EMIT w.azimuth()->cursorMoved(0.0);
    CHECK(w.elevation()->cursorText().startsWith("45°"));  // the elevation of the azimuth cut
    Q_EMIT w.azimuth()->cursorMoved(std::numeric_limits<double>::quiet_NaN());
    CHECK(w.elevation()->cursorText().isEmpty());
    CHECK(w.yard()->grab().toImage() == before);
    // The phase of the current as a colour is another picture.
    w.yard()->setShowPhase(true);
    CHECK(w.yard()->grab().toImage() != before);
}

TEST_CASE("a pin is restored, and branched into a design of its own") {
    Bare w;
    pressPin(w);
    w.typeDimension("apex", "9 m");
    w.settle();
    Q_EMIT w.ledger()->pinRestored(w.document().project().pins.at(0).id);
    w.settle();
    CHECK(w.dimensionText("apex") == "11.5 m");
    w.undo();
    CHECK(w.dimensionText("apex") == "9 m");
    const auto designs = w.document().project().designs.size();
    Q_EMIT w.ledger()->pinBranched(w.document().project().pins.at(0).id);
    w.settle();
    CHECK(w.document().project().designs.size() == designs + 1);
    CHECK(w.dimensionText("apex") == "11.5 m");
}

TEST_CASE("with and without a part: one action, two pins") {
    Bare w;
    w.chooseDesign("Yagi, 70 MHz");
    w.addRail();
    w.session().select(w.item(app::Selection::Type::Site, 0));
    w.action("Pin with and without the selected part")->trigger();
    CHECK(w.notice()->sentence().contains("Select the part first"));
    w.session().select(w.item(app::Selection::Type::Part, 1));
    w.action("Pin with and without the selected part")->trigger();
    w.settle();
    const auto& pins = w.document().project().pins;
    REQUIRE(pins.size() == 2);
    CHECK(pins[0].name == "with Rail");
    CHECK(pins[0].design.parts[1].enabled);
    CHECK_FALSE(pins[1].design.parts[1].enabled);
    CHECK(w.ledger()->figure("peak", 1) == w.ledger()->figure("peak"));
    CHECK(w.ledger()->figure("peak", 1) != w.ledger()->figure("peak", 2));
}

TEST_CASE("bearings, angles and components: the cuts go where they are asked") {
    Bare w;
    w.chooseDesign("Yagi, 70 MHz");
    w.action("Azimuth at 5°")->trigger();
    w.settle();
    CHECK(w.analysis()->azimuth.fixedAngleDeg == Approx(5.0));
    w.action("Azimuth at the takeoff angle")->trigger();
    w.settle();
    CHECK(w.analysis()->azimuth.fixedAngleDeg == Approx(w.analysis()->figures.peak.direction.elevationDeg));
    // A click to the north of the azimuth instrument.
    auto* azimuth = w.azimuth();
    QTest::mouseClick(azimuth, Qt::LeftButton, {}, QPoint(azimuth->width() / 2, azimuth->height() / 2 - 40));
    w.settle();
    INFO(w.elevation()->headline().toStdString());
    // North, to the pixel.
    CHECK((w.elevation()->headline().contains("bearing 000°") ||
           w.elevation()->headline().contains("bearing 359°") ||
           w.elevation()->headline().contains("bearing 001°")));
    const double across = w.analysis()->elevation.at(10.0);
    CHECK(across < w.analysis()->figures.peak.gainDbi - 10.0);
    QTest::mouseDClick(azimuth, Qt::LeftButton, {}, QPoint(azimuth->width() / 2, azimuth->height() / 2 - 40));
    w.settle();
    CHECK(w.elevation()->headline().contains("bearing 120°"));
    // Linear over 20 dB: half of the radius for half of the range, nothing beyond it.
    w.action("Linear over 20 dB")->trigger();
    CHECK(w.azimuth()->shareOf(-10.0) == Approx(0.5));
    CHECK(w.azimuth()->shareOf(-25.0) == 0.0);
    w.action("For lobes: root of the field strength")->trigger();
    CHECK(w.azimuth()->shareOf(-20.0) == Approx(std::sqrt(0.1)));
    // A Yagi of level elements sends nothing vertical ahead.
    const double total = w.analysis()->elevation.at(10.0);
    w.session().setComponent(study::Component::Vertical);
    w.settle();
    CHECK(w.analysis()->elevation.at(10.0) < total - 30.0);
    w.session().setComponent(study::Component::RightCircular);
    w.settle();
    CHECK(w.analysis()->elevation.at(10.0) == Approx(total - 3.01).margin(0.05));
}

TEST_CASE("the watch angles, the layer and the distances wanted are the designer's") {
    Bare w;
    app::AnglesDialog dialog(w.document().project().angles);
    dialog.farthest()->setText("500");
    CHECK(dialog.angles().wanted());
    dialog.nearest()->setText("800");
    CHECK_THROWS_WITH(dialog.angles(), Catch::Contains("beyond the nearest"));
    dialog.nearest()->setText("0");
    dialog.watch(1)->setText("ten");
    CHECK_THROWS_WITH(dialog.angles(), Catch::Contains("watch angle"));
    // What is no number in this world is none here: the ledger looked it up in its cuts.
    for (const char* const nonsense : {"nan", "inf", "-inf", "1e999", "0x10", ""}) {
        INFO(nonsense);
        dialog.watch(1)->setText(nonsense);
        CHECK_THROWS_WITH(dialog.angles(), Catch::Contains("watch angle"));
    }
    dialog.watch(1)->setText("20,0");
    const auto angles = dialog.angles();
    w.document().edit("Angles", [&](model::Project& p) { p.angles = angles; });
    w.settle();
    CHECK_FALSE(w.ledger()->figure("20°").isEmpty());
    w.ledger()->setColumnShown("needed", true);
    // Steep angles: an inverted V at 11 m sends most of its power there.
    CHECK(w.ledger()->figure("needed").toDouble() > 2.0);
}
