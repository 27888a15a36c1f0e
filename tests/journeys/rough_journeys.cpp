// A loop tuned by a capacitor beside a vertical, and evenings as they are: the wrong unit, the wrong design,
// a file opened in the middle of a word, dragging while everything still runs.
#include "app/plan/quantity_field.h"
#include "app/stages/tune/tune_stage.h"
#include "journey.h"

#include <QMessageBox>
#include <QTimer>

using namespace rm;
using namespace rm::test;

TEST_CASE("journey: a small loop with its capacitor, and the half-wave vertical beside it that takes part") {
    Journey w;
    w.clear();
    w.designFrequency("14.1 MHz");
    w.menu("Regular loop");
    w.type("Sides", "8");
    w.type("Size", "2.8 m");
    w.site("average", "2 m");
    w.select(w.item(Journey::Type::Part));
    w.type("Diameter", "22 mm");
    w.sound();
    // Far from resonance: nearly all of it comes back.
    CHECK(w.analysis()->figures.swr > 20.0);
    const double bare = w.analysis()->figures.antennaOhm.imag();
    CHECK(bare > 50.0);
    // The capacitor opposite the feed, from what the loop's reactance asks for, then by hand.
    w.menu("Add a load");
    // A new load is a coil; this one is to be a capacitor.
    auto* coil = w.editor()->field("L in µH");
    REQUIRE(coil != nullptr);
    coil->setFocus();
    coil->selectAll();
    QTest::keyClick(coil, Qt::Key_Delete);
    QTest::keyClick(coil, Qt::Key_Return);
    w.type("C in pF", QString::number(1e12 / (2.0 * kPi * 14.1e6 * bare), 'f', 1));
    w.settle();
    w.sound();
    const double tuned = w.analysis()->figures.antennaOhm.imag();
    CHECK(std::abs(tuned) < 0.5 * bare);
    const double efficiency = w.analysis()->figures.efficiency;
    CHECK(efficiency > 0.05);
    CHECK(efficiency < 1.0);
    // A half-wave vertical nearby, not fed, changes what the loop sees and is named for it.
    w.menu("Straight wire");
    // In the plane of the loop: on its axis it would see nothing of it.
    w.type("Start, left", "2.5 m");
    w.type("End, left", "2.5 m");
    w.type("Start, up", "-1.5 m");
    w.type("End, up", "8.4 m");
    w.settle();
    w.sound();
    w.menu("Pin with and without the selected part");
    w.settle();
    CHECK(w.document().project().pins.size() == 2);
    // Without it the loop is as it was; with it another impedance.
    INFO(w.ledger()->figure("R, X in Ω", 1).toStdString() + " / " +
         w.ledger()->figure("R, X in Ω", 2).toStdString() + " / " +
         w.ledger()->figure("peak", 1).toStdString() + " / " + w.ledger()->figure("peak", 2).toStdString());
    CHECK(w.ledger()->figure("peak", 1) != w.ledger()->figure("peak", 2));
    w.thereAndBack();
}

TEST_CASE("journey: a wrong unit, a wrong dimension and a wrong place, each named and mended") {
    Journey w;
    w.select(w.item(Journey::Type::Part));
    const auto before = w.document().share();
    for (const char* wrong : {"10 MHz", "lambdda/4", "1e999 m", "12''", "(3 m", "leg*2"}) {
        INFO(wrong);
        auto* field = dynamic_cast<app::QuantityField*>(w.editor()->field("Start, up"));
        REQUIRE(field != nullptr);
        w.type("Start, up", wrong);
        // What was typed stays to be mended, the sentence says what is wrong, and no figure is of it.
        const auto findings = w.session().expansion()->findings;
        CHECK(field->text() == wrong);
        if (model::hasError(findings)) {
            CHECK_FALSE(w.editor()->sentence().isEmpty());
            CHECK(w.session().results()->analysis == nullptr);
        }
        w.undo();
    }
    CHECK(w.document().project() == *before);
    w.sound();
    // The diameter in metres instead of millimetres: a tube of two metres.
    w.type("Diameter", "3 m");
    CHECK(model::hasError(w.session().expansion()->findings));
    CHECK(w.notice()->sentence().contains("thick"));
    w.type("Diameter", "2 mm");
    w.sound();
}

TEST_CASE("journey: a word half typed when another project is opened, and when the design is left") {
    Journey w;
    w.select(w.item(Journey::Type::Part));
    QLineEdit* name = w.editor()->field("Name");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Half a wo");
    // Another design: what was typed went to the one it was typed for.
    w.menu("New plain dipole");
    w.settle();
    CHECK(w.document().project().designs[0].parts[0].name == "Half a wo");
    CHECK(w.design().parts[0].name != "Half a wo");
    QLineEdit* other = w.editor()->field("Name");
    if (other != nullptr) {
        other->setFocus();
        QTest::keyClicks(other, "x");
    }
    // It counts as a change: the question comes before it is gone.
    w.document().undoStack()->setClean();
    QTimer::singleShot(0, qApp, [] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        REQUIRE(box != nullptr);
        box->button(QMessageBox::Cancel)->click();
    });
    CHECK_FALSE(w.bench.files().mayDiscard());
    CHECK(w.design().name.find('x') != std::string::npos);
    QTest::keyClicks(w.editor()->field("Name"), "yz");
    REQUIRE(w.bench.files().open(kDemo));
    w.settle();
    CHECK(w.document().project().title == "Heron Point");
    for (const auto& design : w.document().project().designs)
        for (const auto& part : design.parts) CHECK(part.name.find("Half") == std::string::npos);
    INFO(w.document().undoStack()->undoText().toStdString());
    for (const auto& design : w.document().project().designs)
        CHECK(design.name.find("yz") == std::string::npos);
    CHECK_FALSE(w.document().modified());
}

TEST_CASE("journey: bands, designs and sliders moved faster than anything can be worked out") {
    Window w;
    w.session().setRange({5.0e6, 6.0e6, 4001});
    const auto& designs = w.document().project().designs;
    std::vector<model::Id> ids;
    for (const auto& design : designs) ids.push_back(design.id);
    for (int round = 0; round < 12; ++round) {
        w.session().chooseDesign(ids[static_cast<std::size_t>(round) % ids.size()]);
        w.session().chooseBand(round % 3);
        QApplication::processEvents(QEventLoop::AllEvents, 2);
        auto& dimensions = w.document().design().dimensions;
        if (dimensions.empty()) continue;
        auto* row = w.outline()->dimensionRow(QString::fromStdString(dimensions[0].name));
        if (row != nullptr && row->slider()->isVisible()) w.drag(row->slider(), round % 2 == 0 ? 6 : -6);
        if (round % 4 == 3) w.bench.stop();
    }
    w.settle();
    // The last round was stopped before it had begun, and says so.
    CHECK((w.live() || w.session().results()->problem.contains("Stopped")));
    w.session().chooseDesign(ids.front());
    w.settle();
    CHECK(w.live());
    // What is shown belongs to what is on the bench.
    CHECK(w.session().results()->design().id == w.document().design().id);
    CHECK(w.ledger()->figure("design") == "live: " + QString::fromStdString(w.document().design().name));
    while (w.document().undoStack()->canUndo()) w.undo();
    CHECK_FALSE(w.document().modified());
}

TEST_CASE("journey: tuning runs while its design is renamed, another is edited, and the window closes") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    w.bench.openStage("tune");
    auto& tune = w.stage<app::TuneStage>("tune");
    tune.tune();
    REQUIRE(waitFor([&] { return tune.tuning(); }));
    w.document().editDesign("Rename design", [](model::Design& d) { d.name = "Another name"; });
    w.session().chooseDesign(w.document().project().designs.front().id);
    w.typeDimension("leg", "13 m");
    CHECK(w.dimensionText("leg") == "13 m");
    tune.stop();
    REQUIRE(waitFor([&] { return !tune.tuning(); }));
    w.settle();
    w.undo();
    w.undo();
    CHECK_FALSE(w.document().modified());
}
