// Antennas of several elements: a phased pair, a Yagi from numbers, a stack with drive sets, a mast beside
// it.
#include "app/stages/boom/boom_view.h"
#include "app/stages/drives/drive_patterns.h"
#include "app/stages/drives/drive_view.h"
#include "journey.h"

#include <QTableWidget>

using namespace rm;
using namespace rm::test;

TEST_CASE("journey: two verticals a quarter wave apart, fed in quadrature") {
    Journey w;
    w.clear();
    w.menu("Straight wire");
    w.type("Start, left", "0 m");
    w.type("Start, up", "0.3 m");
    w.type("End, left", "0 m");
    w.type("End, up", "0.48*lambda");
    w.site("perfect", "0 m");
    w.sound();
    w.menu("In steps");
    w.type("Step, left", "0 m");
    w.type("Step, forward", "lambda/4");
    w.settle();
    REQUIRE(w.analysis()->figures.impedanceOhm.size() == 2);
    const double together = w.figure("front-to-back");
    CHECK(std::abs(together) < 1.0);
    app::addDrivePattern(w.session(), w.editing(), study::DrivePattern::Steered, 0.0);
    w.settle();
    REQUIRE(w.design().driveSets.size() == 1);
    CHECK(w.figure("front-to-back") > 3.0);
    // The other way by hand: the phases change places.
    auto sets = w.design().driveSets;
    w.document().editDesign("Reverse", [](model::Design& d) {
        std::swap(d.driveSets[0].driven[0].phase, d.driveSets[0].driven[1].phase);
    });
    w.settle();
    CHECK(w.analysis()->figures.peak.direction.azimuthDeg == Approx(180.0).margin(2.0));
    w.thereAndBack();
}

TEST_CASE("journey: a Yagi from numbers: a director more, a bent driven element, cut lengths on a boom") {
    Journey w;
    w.clear();
    w.session().setFrequency(14.2e6);
    w.menu("Element row: a Yagi");
    w.settle();
    REQUIRE(w.bench.front()->name() == "boom");
    auto* boom = w.find<app::BoomView>();
    const auto cell = [&](int row, int column, const QString& text) {
        auto* table = boom->table();
        table->setCurrentCell(row, column);
        table->editItem(table->item(row, column));
        QApplication::processEvents();
        auto* field = table->viewport()->findChild<QLineEdit*>();
        REQUIRE(field != nullptr);
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        QApplication::processEvents();
        w.settle();
    };
    w.sound();
    const double three = w.figure("peak");
    boom->table()->setCurrentCell(2, 0);
    boom->addElement();
    w.settle();
    REQUIRE(boom->table()->rowCount() == 4);
    cell(3, app::BoomView::Position, "11.5 m");
    cell(3, app::BoomView::Length, "9.05 m");
    w.sound();
    CHECK(w.figure("peak") > three);
    CHECK(w.figure("front-to-back") > 5.0);
    // A metal boom makes the cut lengths longer, not the antenna another one.
    const double resistance = w.analysis()->figures.antennaOhm.real();
    w.session().select(w.item(Journey::Type::Part));
    w.choose("Boom", "2");
    w.type("Boom size", "50 mm");
    CHECK(w.analysis()->figures.antennaOhm.real() == Approx(resistance));
    CHECK(boom->table()->item(0, app::BoomView::Cut)->toolTip().contains("more for the boom"));
    // What is typed wrongly stays and is named.
    cell(1, app::BoomView::Length, "long");
    CHECK(boom->sentence().contains("driven"));
    cell(1, app::BoomView::Length, "9.9 m");
    w.sound();
    w.thereAndBack();
}

TEST_CASE("journey: a stack of two with drive sets, its rows grown and shrunk while they are looked at") {
    Journey w;
    w.clear();
    w.band("10 m");
    w.session().setFrequency(28.5e6);
    w.menu("Element row: a Yagi");
    w.settle();
    w.site("average", "8 m");
    w.session().select(w.item(Journey::Type::Part));
    w.menu("Stack: rows and columns");
    w.settle();
    w.sound();
    app::addDrivePattern(w.session(), w.editing(), study::DrivePattern::AllInPhase, 0.0);
    app::addDrivePattern(w.session(), w.editing(), study::DrivePattern::UpperHalfReversed, 0.0);
    w.settle();
    REQUIRE(w.bench.front()->name() == "drives");
    CHECK(w.find<app::DriveView>()->table()->rowCount() == 3);
    for (const char* rows : {"3", "1", "2"}) {
        w.select(w.item(Journey::Type::Copy));
        w.type("Rows", rows);
    }
    w.sound();
    const double inPhase = w.figure("takeoff");
    w.editing().chooseDriveSet(1);
    w.settle();
    CHECK(w.figure("takeoff") > inPhase + 5.0);
    w.thereAndBack();
}

TEST_CASE("journey: a mast beside a dipole, with and without") {
    Journey w;
    w.site("average", "10 m");
    w.menu("Nearby: mast or tower");
    w.type("Start, up", "-9.8 m");
    w.type("End, up", "0.3 m");
    w.type("Start, forward", "-1 m");
    w.type("End, forward", "-1 m");
    w.sound();
    w.menu("Pin with and without the selected part");
    w.settle();
    REQUIRE(w.document().project().pins.size() == 2);
    CHECK(w.ledger()->figure("design", 1) == "with Mast");
    CHECK(w.ledger()->figure("design", 2) == "without Mast");
    CHECK_FALSE(w.ledger()->figure("peak", 2).isEmpty());
    // Restored, the one without is on the bench and the mast is off, not gone.
    Q_EMIT w.ledger()->pinRestored(w.document().project().pins[1].id);
    w.settle();
    REQUIRE(w.design().parts.size() == 2);
    CHECK_FALSE(w.design().parts[1].enabled);
    CHECK(w.figure("peak") == Approx(w.figure("peak", 2)));
    w.thereAndBack();
}
