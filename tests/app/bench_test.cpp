// What a designer does at the bench, and what they then see.
#include <QAction>
#include <QComboBox>
#include <QDir>
#include <QFile>
#include <QLabel>
#include <QMenu>
#include <QScrollArea>
#include <QStackedWidget>
#include <QToolButton>
#include <cmath>

#include "app/session/memory_keeper.h"
#include "editor_fits.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("the demo opens with figures, patterns and a band curve") {
    Window w;
    CHECK(w.bench.windowTitle().contains("Heron Point"));
    CHECK(w.bandStrip()->count() == 6);
    CHECK(w.bandStrip()->chip(0)->swrText().startsWith("SWR 1."));
    CHECK(w.ledger()->figure("peak").endsWith("dBi"));
    CHECK(w.ledger()->figure("SWR in band").contains("–"));
    CHECK(w.elevation()->headline().contains("dBi at"));
    CHECK(w.band()->headline().contains("2:1"));
    CHECK_FALSE(w.elevation()->isStale());
    CHECK(w.yard()->heightHandle().has_value());
}

TEST_CASE("every design of the demo is solved without a complaint") {
    Window w;
    const auto project = w.document().share();
    for (const auto& design : project->designs) {
        w.chooseDesign(QString::fromStdString(design.name));
        INFO(design.name << ": " << w.notice()->sentence().toStdString());
        CHECK(w.notice()->sentence().isEmpty());
        CHECK(w.analysis()->figures.peak.gainDbi > -1.0);
    }
}

TEST_CASE("a longer leg moves the resonance down, and undo brings it back") {
    Window w;
    w.session().setRange({4.8e6, 5.9e6, 56});
    w.settle();
    const double before = w.frequencyOfBestSwr();
    const QString text = w.dimensionText("leg");
    w.dragSlider("leg", 12);
    w.settle();
    CHECK(w.dimensionText("leg") != text);
    CHECK(w.frequencyOfBestSwr() < before - 20e3);
    // The whole drag is one step.
    w.undo();
    CHECK(w.dimensionText("leg") == text);
    CHECK(w.frequencyOfBestSwr() == Approx(before));
    w.document().undoStack()->redo();
    w.settle();
    CHECK(w.frequencyOfBestSwr() < before - 20e3);
    w.undo();
}

TEST_CASE("the time from the slider to the picture is measured for every demo design") {
    Window w;
    const auto project = w.document().share();
    for (const auto& design : project->designs) {
        w.chooseDesign(QString::fromStdString(design.name));
        const QString dimension = QString::fromStdString(w.document().design().dimensions.front().name);
        // Best of three moves: another process may take the processor meanwhile.
        double best = 1e9;
        for (int i = 0; i < 3; ++i) {
            w.dragSlider(dimension, i % 2 == 0 ? 6 : -6);
            w.settle();
            best = std::min(best, w.bench.latencyMs());
        }
        // A figure to read, wanted below 50 ms; a bound here only catches a window that waits for the sweeps.
        CHECK(best > 0.0);
        CHECK(best < 1000.0);
        WARN(design.name << ": edit to picture " << best << " ms");
    }
}

TEST_CASE("nonsense gets one sentence, keeps what was typed, and dims the figures") {
    Window w;
    const QString swr = w.ledger()->figure("SWR");
    w.typeDimension("leg", "13.4 x");
    REQUIRE(waitFor([&] { return !w.notice()->sentence().isEmpty(); }));
    CHECK(w.notice()->sentence().contains("leg"));
    CHECK(w.dimensionText("leg") == "13.4 x");
    REQUIRE(waitFor([&] { return w.elevation()->isStale(); }));
    CHECK(w.azimuth()->isStale());
    // "Show me" leads to the dimension.
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    CHECK(w.session().selection() == w.item(app::Selection::Type::Dimension, 1));
    w.undo();
    CHECK(w.notice()->sentence().isEmpty());
    CHECK_FALSE(w.elevation()->isStale());
    CHECK(w.ledger()->figure("SWR") == swr);
}

TEST_CASE("an unknown name is guessed while it is typed") {
    Window w;
    w.session().select(w.item(app::Selection::Type::Part, 0));
    auto* field = w.editor()->field("Leg");
    REQUIRE(field != nullptr);
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "legg");
    CHECK(w.editor()->sentence().contains("did you mean leg"));
    // Nothing has changed until Enter.
    CHECK(std::get<model::InvertedV>(w.document().design().parts[0].shape).leg == "leg");
    field->selectAll();
    QTest::keyClicks(field, "leg*1.01");
    CHECK(w.editor()->sentence().isEmpty());
    QTest::keyClick(field, Qt::Key_Return);
    CHECK(std::get<model::InvertedV>(w.document().design().parts[0].shape).leg == "leg*1.01");
    w.settle();
}

TEST_CASE("the design scaled to a frequency is resonant there, and one undo restores it") {
    Window w;
    const QString before = w.dimensionText("leg");
    w.editing().scaleTo({"leg"}, 5.36e6);
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("Scaled by"); }));
    w.settle();
    CHECK(w.dimensionText("leg") != before);
    CHECK(w.dimensionText("apex") == "11.5 m");
    w.editing().findResonance();
    REQUIRE(waitFor([&] { return w.session().resonance().has_value(); }));
    CHECK(w.session().resonance()->frequencyHz == Approx(5.36e6).margin(500));
    CHECK(w.notice()->sentence().contains("Resonant (X = 0) at 5.360 MHz"));
    w.undo();
    CHECK(w.dimensionText("leg") == before);
}

TEST_CASE("an antenna scaled to another band is for that one, and is looked at there") {
    Window w;
    REQUIRE(w.document().design().bands == std::vector<std::string>{"60 m"});
    w.editing().scaleTo({"leg"}, 14.2e6);
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("Scaled by"); }));
    w.settle();
    CHECK(w.session().band().name == "20 m");
    CHECK(w.session().frequencyHz() == Approx(14.2e6));
    CHECK(w.document().design().bands == std::vector<std::string>{"20 m"});
    CHECK(std::abs(w.analysis()->figures.impedanceOhm[0].imag()) < 0.5);
    w.undo();
    CHECK(w.dimensionText("leg") == "13.45 m");
    CHECK(w.document().design().bands == std::vector<std::string>{"60 m"});
    // A frequency that is in no band of the project: looked at all the same.
    w.editing().scaleTo({"leg"}, 5.2e6);
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("5.200 MHz"); }));
    w.settle();
    CHECK(w.session().frequencyHz() == Approx(5.2e6));
    CHECK(w.document().design().bands == std::vector<std::string>{"60 m"});
}

TEST_CASE("raising the antenna by its handle lowers the takeoff angle") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    const double before = w.analysis()->figures.peak.direction.elevationDeg;
    const QPoint handle = w.yard()->heightHandle()->toPoint();
    QTest::mousePress(w.yard(), Qt::LeftButton, {}, handle);
    QTest::mouseMove(w.yard(), handle - QPoint(0, 60));
    QMouseEvent move(QEvent::MouseMove, QPointF(handle - QPoint(0, 90)),
                     w.yard()->mapToGlobal(QPointF(handle - QPoint(0, 90))), Qt::NoButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(w.yard(), &move);
    QTest::mouseRelease(w.yard(), Qt::LeftButton, {}, handle - QPoint(0, 90));
    w.settle();
    CHECK(w.document().design().site.height != "10 m");
    CHECK(w.analysis()->figures.peak.direction.elevationDeg < before);
}

TEST_CASE("turning, zooming and the standard views move the camera and not the antenna") {
    Window w;
    const auto before = w.document().share();
    const double azimuth = w.yard()->camera().azimuthDeg;
    QTest::mousePress(w.yard(), Qt::LeftButton, {}, {20, 60});
    QMouseEvent move(QEvent::MouseMove, QPointF(90, 80), w.yard()->mapToGlobal(QPointF(90, 80)), Qt::NoButton,
                     Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(w.yard(), &move);
    QTest::mouseRelease(w.yard(), Qt::LeftButton, {}, {90, 80});
    CHECK(w.yard()->camera().azimuthDeg != Approx(azimuth));
    w.yard()->viewFromAbove();
    CHECK(w.yard()->camera().elevationDeg > 80.0);
    w.yard()->viewFromSide();
    CHECK(w.yard()->camera().elevationDeg < 10.0);
    CHECK(w.document().share() == before);
}

TEST_CASE("clicking a wire in the yard selects its part") {
    Window w;
    const auto& wire = w.analysis()->mesh->spans.back();
    const QPoint at = w.yard()->screenPoint(wire.centreM).toPoint();
    w.session().select({});
    QTest::mouseClick(w.yard(), Qt::LeftButton, {}, at);
    CHECK(w.session().selection() == w.item(app::Selection::Type::Part, 0));
    CHECK(w.editor()->field("Apex height")->text() == "apex");
}

TEST_CASE("the cursor of the instruments reads values") {
    Window w;
    QTest::mouseMove(w.elevation(), QPoint(w.elevation()->width() * 3 / 4, w.elevation()->height() - 60));
    QApplication::processEvents();
    CHECK(w.elevation()->cursorText().contains("one hop"));
    CHECK(w.elevation()->cursorText().contains("dBi"));
    QTest::mouseMove(w.azimuth(), QPoint(w.azimuth()->width() / 2 + 40, w.azimuth()->height() / 2));
    QApplication::processEvents();
    CHECK(w.azimuth()->cursorText().startsWith("0"));  // to the east and a little
    Q_EMIT w.band()->chart()->cursorMoved(5.36e6);
    CHECK(w.band()->headline().contains("5.360 MHz  SWR"));
}

TEST_CASE("clicking the elevation instrument cuts the azimuth there") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    const auto* view = w.elevation();
    // 30 degrees on the right-hand side.
    const QPointF centre(0.5 * view->width(), view->height() - 26.0);
    QTest::mouseClick(w.elevation(), Qt::LeftButton, {}, (centre + QPointF(86.6, -50.0)).toPoint());
    w.settle();
    CHECK(w.analysis()->azimuth.fixedAngleDeg == Approx(30.0).margin(1.0));
    CHECK(w.azimuth()->headline().contains("at 30.0°"));
    QTest::mouseDClick(w.elevation(), Qt::LeftButton, {}, (centre + QPointF(86.6, -50.0)).toPoint());
    w.settle();
    CHECK(w.analysis()->azimuth.fixedAngleDeg < 10.0);
}

TEST_CASE("choosing a band by its chip changes everything, a click in the band changes the frequency") {
    Window w;
    w.chooseDesign("End-fed, inverted L");
    QTest::mouseClick(w.bandStrip()->chip(3), Qt::LeftButton);
    w.settle();
    CHECK(w.ledger()->figure("frequency").startsWith("18."));
    Q_EMIT w.band()->chart()->frequencyChosen(18.07e6);
    w.settle();
    CHECK(w.ledger()->figure("frequency") == "18.070 MHz");
    CHECK(w.analysis()->figures.frequencyHz == Approx(18.07e6));
}

TEST_CASE("parts are added, joined, fed, copied and removed, all undoable") {
    QTemporaryDir folder;
    Window w;
    w.document().adopt(edit::starterProject(), {});
    w.settle();
    w.editing().addPart(edit::PartKind::Wire);
    w.settle();
    CHECK(w.document().design().parts.size() == 2);
    CHECK(w.session().selection() == w.item(app::Selection::Type::Part, 1));
    // Bring the new wire to the end of the dipole: the Plan says that they are joined.
    const auto type = [&](const QString& label, const QString& text) {
        auto* field = w.editor()->field(label);
        REQUIRE(field != nullptr);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
    };
    type("Start, forward", "0");
    type("Start, left", "span/2");
    type("Start, up", "0");
    type("End, left", "span/2 + 2");
    type("End, up", "0");
    w.settle();
    CHECK(w.outline()->row(w.item(app::Selection::Type::Part, 1))->second() == "joined to Dipole");
    QTest::mouseClick(w.editor()->findChild<QToolButton*>("Remove"), Qt::LeftButton);
    w.settle();
    CHECK(w.document().design().parts.size() == 1);
    w.undo();
    CHECK(w.document().design().parts.size() == 2);
    for (const auto kind :
         {edit::PartKind::Bent, edit::PartKind::Loop, edit::PartKind::Vee, edit::PartKind::Fan})
        w.editing().addPart(kind);
    w.settle();
    CHECK(w.document().design().parts.size() == 6);
    while (w.document().undoStack()->canUndo()) w.document().undoStack()->undo();
    w.settle();
    CHECK(w.document().design().parts.size() == 1);
}

TEST_CASE("switching a part off by its dot takes it out of the solution") {
    Window w;
    w.outline()->row(w.item(app::Selection::Type::Part, 1))->setFocus();
    const auto before = w.analysis()->figures.unknowns;
    QTest::keyClick(w.outline()->row(w.item(app::Selection::Type::Part, 1)), Qt::Key_Space);
    w.settle();
    CHECK(w.document().design().parts[1].enabled);
    CHECK(w.analysis()->figures.unknowns > before);
}

TEST_CASE("wires that cross are named, and no figure is shown for them") {
    Window w;
    w.document().adopt(edit::starterProject(), {});
    w.settle();
    w.document().editDesign("Cross", [](model::Design& d) {
        model::Part part;
        part.name = "Guy wire";
        part.shape = model::StraightWire{{"-3 m", "1 m", "0 m"}, {"3 m", "1 m", "0 m"}};
        d.parts.push_back(part);
    });
    REQUIRE(waitFor([&] { return !w.notice()->sentence().isEmpty(); }));
    CHECK(w.notice()->sentence().contains("Guy wire"));
    CHECK(w.notice()->sentence().contains("Dipole"));
    REQUIRE(waitFor([&] { return w.elevation()->isStale(); }));
    CHECK_FALSE(w.live());
}

TEST_CASE("saved and opened again, the figures are the same") {
    QTemporaryDir folder;
    const QString file = folder.filePath("mine.json");
    QStringList before;
    const QStringList columns = {"R, X in Ω", "SWR", "peak", "takeoff", "30°", "front-to-back"};
    {
        Window w;
        w.typeDimension("leg", "43' 9 1/2\"");
        w.settle();
        for (const auto& c : columns) before << w.ledger()->figure(c);
        CHECK(w.document().modified());
        REQUIRE(w.bench.files().save(file));
        CHECK_FALSE(w.document().modified());
    }
    Window again(file);
    CHECK(again.dimensionText("leg") == "43' 9 1/2\"");
    for (int i = 0; i < columns.size(); ++i) CHECK(again.ledger()->figure(columns[i]) == before[i]);
}

TEST_CASE("a damaged file is refused in a sentence and the bench keeps what it has") {
    QTemporaryDir folder;
    const QString file = folder.filePath("damaged.json");
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write("{\"format\": \"reed-mast project\",\n\"designs\": [");
    f.close();
    Window w;
    CHECK_FALSE(w.bench.files().open(file));
    CHECK(w.notice()->sentence().contains("damaged.json is damaged"));
    CHECK(w.document().project().title == "Heron Point");
}

TEST_CASE("twenty thousand points are no trouble, and a long study shows progress and can be stopped") {
    Window w;
    w.session().setRange({5.0e6, 6.0e6, 20001});
    w.settle();
    CHECK(w.sweep()->complete);
    CHECK(w.sweep()->points.size() == 20001);
    CHECK(w.sweep()->solutions < 40);

    w.chooseDesign("Two Yagis stacked, 70 MHz");
    w.bench.openStage("heights");
    auto* stop = w.bench.findChild<QToolButton*>("stopWork");
    REQUIRE(stop != nullptr);
    REQUIRE(waitFor([&] { return stop->isVisible(); }));
    QTest::mouseClick(stop, Qt::LeftButton);
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("was stopped"); }));
    CHECK(w.bench.front()->widget() == static_cast<QWidget*>(w.yard()));
    w.settle();
}

TEST_CASE("while something runs the modes are read as before, in a window of 1280") {
    Window w;
    w.bench.resize(1280, 800);
    w.settle();
    Q_EMIT w.session().progress(0.5);
    auto* stop = w.bench.findChild<QToolButton*>("stopWork");
    REQUIRE(stop != nullptr);
    REQUIRE(waitFor([&] { return stop->isVisible(); }));
    for (const char* name : {"modeShape", "modeMatch", "modeTune", "modeCompare", "modeBuild", "stopWork"}) {
        INFO(name);
        auto* button = w.bench.findChild<QToolButton*>(name);
        REQUIRE(button != nullptr);
        CHECK(button->width() >= button->sizeHint().width());
        CHECK(button->mapTo(&w.bench, QPoint(button->width(), 0)).x() <= w.bench.width());
    }
    CHECK(w.bench.findChild<QComboBox*>("designs")->width() >= 96);
    Q_EMIT w.session().progress(1.0);
}

TEST_CASE("every action in the menus has a name, and no shortcut is used twice") {
    Window w;
    QStringList seen;
    int actions = 0;
    for (const auto* action : w.bench.findChildren<QAction*>()) {
        if (action->isSeparator() || action->menu() != nullptr || action->shortcut().isEmpty()) continue;
        ++actions;
        CHECK_FALSE(action->text().isEmpty());
        for (const auto& keys : action->shortcuts()) {
            INFO(action->text().toStdString() << " " << keys.toString().toStdString());
            CHECK_FALSE(seen.contains(keys.toString()));
            seen << keys.toString();
        }
    }
    CHECK(actions > 30);
}

TEST_CASE("memory is given back now and then after something was worked out") {
    Window w;
    auto* keeper = w.session().findChild<app::MemoryKeeper*>();
    REQUIRE(keeper != nullptr);
    keeper->timer()->stop();
    keeper->timer()->setInterval(20);
    const int before = keeper->count();
    w.typeDimension("leg", "13.2 m");
    REQUIRE(waitFor([&] { return keeper->count() > before; }));
    // It may come between two results of one edit; neither is lost by it.
    w.settle();
    CHECK(w.live());
}

TEST_CASE("the headline of the band says as much as fits, at every width") {
    Window w;
    auto* headline = w.band()->findChild<QLabel*>("bandHeadline");
    REQUIRE(headline != nullptr);
    CHECK(headline->text() == w.band()->headline());
    for (const int width : {260, 300, 420, 300}) {
        w.band()->setFixedWidth(width);
        QApplication::processEvents();
        INFO(width << " px: " << headline->text().toStdString());
        CHECK(headline->fontMetrics().horizontalAdvance(headline->text()) <= std::max(headline->width(), 0));
    }
    w.band()->setFixedWidth(420);
    QApplication::processEvents();
    CHECK(headline->text() == w.band()->headline());
}

TEST_CASE("whatever is selected, its fields end where the panel does") {
    Window w;
    checkThatEditorsFit(w);
}
