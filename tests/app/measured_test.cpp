// Measurements in the real window: import, overlay, the plane, the table, and what is malformed.
#include <QFile>
#include <QTableWidget>
#include <QToolButton>

#include "app/instruments/smith_chart.h"
#include "app/stages/band/band_page.h"
#include "core/project/measured_file.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

QString write(const QTemporaryDir& folder, const QString& name, const QByteArray& text) {
    QFile file(folder.filePath(name));
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write(text);
    return file.fileName();
}

}  // namespace

TEST_CASE("what was exported comes back as a measurement and lies on the model") {
    Window w;
    w.chooseDesign("End-fed, inverted L");
    w.document().editDesign("No measurements", [](model::Design& d) { d.measured.clear(); });
    w.settle();
    QTemporaryDir folder;
    const QString touchstone = folder.filePath("radio.s1p");
    const QString table = folder.filePath("radio.csv");
    w.bench.files().exportSweepTo(touchstone);
    w.bench.files().exportSweepTo(table);
    w.editing().importMeasured({touchstone, table});
    w.settle();
    const auto& design = w.document().design();
    REQUIRE(design.measured.size() == 2);
    CHECK(design.measured[0].data.points.size() == 41);
    CHECK(w.outline()->row(w.item(app::Selection::Type::Measured, 1))->name() == "radio");
    QTest::mouseClick(w.band()->enlarge(), Qt::LeftButton);
    REQUIRE(w.find<app::BandPage>()->isVisible());
    auto* stage = w.find<app::BandPage>();
    REQUIRE(stage->table()->rowCount() >= 5);
    const auto apart = [&](const QString& column = "|Δρ| 1") {
        REQUIRE_FALSE(stage->cell(0, column).isEmpty());
        return stage->cell(0, column).toDouble();
    };
    CHECK(apart() < 0.002);
    CHECK(apart("|Δρ| 2") < 0.002);
    // Seen from the antenna it is moved through the feed path, and still lies there.
    auto* plane = stage->view()->findChild<QToolButton*>("plane");
    QTest::mouseClick(plane, Qt::LeftButton);
    CHECK(stage->view()->plane() == study::Plane::Antenna);
    CHECK(w.band()->plane() == study::Plane::Antenna);
    CHECK(apart() < 0.002);
    // Said to be taken at the antenna it does not.
    w.session().select(w.item(app::Selection::Type::Measured, 0));
    w.choose("Taken at", "yes");
    CHECK(apart() > 0.05);
    // A lead is taken away.
    w.choose("Taken at", "no");
    w.choose("Test lead", "cable");
    w.type("Length", "4 m");
    CHECK(apart() > 0.01);
    w.choose("Test lead", "none");
    CHECK(apart() < 0.002);
    // Hidden and removed.
    w.session().select(w.item(app::Selection::Type::Measured, 1));
    w.editing().removeSelected();
    w.settle();
    CHECK(w.document().design().measured.size() == 1);
    auto* row = w.outline()->row(w.item(app::Selection::Type::Measured, 0));
    row->setFocus();
    QTest::keyClick(row, Qt::Key_Space);
    w.settle();
    CHECK_FALSE(w.document().design().measured[0].shown);
    CHECK(stage->cell(0, "|Δρ|").isEmpty());
}

TEST_CASE("a malformed file is one sentence with its line and changes nothing") {
    Window w;
    QTemporaryDir folder;
    const auto before = w.document().share();
    const QString good = write(folder, "good.csv", "MHz;SWR\n5,352;1,9\n5,360;1,4\n");
    const QString bad = write(folder, "bad.csv", "MHz,R,X\n5.352,40,2\n5.360,forty,2\n");
    w.editing().importMeasured({good, bad});
    CHECK(w.notice()->sentence() == "bad.csv, line 3: \"forty\" is not a number.");
    CHECK(w.document().share() == before);
    w.editing().importMeasured({write(folder, "bad.s1p", "# MHz S RI R 50\n5.352 x 0\n")});
    CHECK(w.notice()->sentence().contains("bad.s1p, line 2"));
    CHECK(w.document().share() == before);
    const std::size_t count = w.document().design().measured.size();
    w.editing().importMeasured({good});
    w.settle();
    CHECK(w.document().design().measured.size() == count + 1);
    w.undo();
    CHECK(w.document().design().measured.size() == count);
}

TEST_CASE("the band shows gain, front-to-back and takeoff against frequency, and a Smith chart") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    for (const auto quantity :
         {app::BandQuantity::Gain, app::BandQuantity::FrontToBack, app::BandQuantity::Takeoff}) {
        w.session().showQuantity(quantity, study::Plane::Radio);
        w.settle();
        const app::Range shown = w.band()->chart()->valueRange();
        const auto& figures = w.analysis()->figures;
        const double value = quantity == app::BandQuantity::Gain      ? figures.peak.gainDbi
                             : quantity == app::BandQuantity::Takeoff ? figures.peak.direction.elevationDeg
                                                                      : figures.frontToBackDb;
        CHECK(shown.low <= value);
        CHECK(shown.high >= value);
    }
    Q_EMIT w.band()->chart()->cursorMoved(70.2e6);
    CHECK(w.band()->headline().contains("dBi at"));
    w.session().showQuantity(app::BandQuantity::Smith, study::Plane::Radio);
    w.settle();
    CHECK(w.band()->smith()->isVisible());
    const auto& trace = w.band()->smith()->traces().back();
    CHECK(trace.ohm.size() == w.sweep()->points.size());
    CHECK(w.band()->smith()->marks().size() == 3);
}

TEST_CASE("bandwidths, the minimum and resonances are written beside the curve; a row sets the frequency") {
    Window w;
    w.bench.openStage("band");
    w.settle();
    const QStringList notes = w.find<app::BandPage>()->view()->chart()->notes();
    CHECK(notes.filter("or less over").size() >= 1);
    CHECK(notes.filter("best").size() == 1);
    auto* table = w.find<app::BandPage>()->table();
    int spot = -1;
    for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 1)->text() == "spot") spot = row;
    REQUIRE(spot >= 0);
    CHECK(w.find<app::BandPage>()->cell(spot, "MHz") == "5.3570");
    Q_EMIT table->cellClicked(spot, 0);
    w.settle();
    CHECK(w.session().frequencyHz() == Approx(5.357e6));
}

namespace {

/// A table in a folder that goes with the test.
struct TableFile {
    QTemporaryDir folder;
    QString path;
    TableFile(const QString& name, const QByteArray& text) : path(folder.filePath(name)) {
        QFile file(path);
        REQUIRE(file.open(QIODevice::WriteOnly));
        file.write(text);
    }
};

QToolButton* answer(Window& window, const QString& text) {
    for (auto* button : window.notice()->findChildren<QToolButton*>())
        if (button->isVisible() && button->text() == text) return button;
    return nullptr;
}

}  // namespace

TEST_CASE("a table is imported with a word on how it was understood") {
    Window window;
    const TableFile file("tower.csv", "7.0, 50, 1\n7.1, 51.5, 2\n");
    window.editing().importMeasured({file.path});
    const QString said = window.notice()->sentence();
    INFO(said.toStdString());
    CHECK(said.contains("tower.csv was read as commas between the columns, points in the numbers"));
    CHECK(said.contains("frequency, R, X"));
    CHECK(said.contains("7.000 MHz 50"));
    const auto& measured = window.document().design().measured;
    REQUIRE(measured.size() == 1);
    CHECK(measured[0].data.points[1].frequencyHz == Approx(7.1e6));
    QToolButton* undo = answer(window, "Undo");
    REQUIRE(undo != nullptr);
    QTest::mouseClick(undo, Qt::LeftButton);
    CHECK(window.document().design().measured.empty());
}

TEST_CASE("a table that can be read in two ways is shown in both, and the answer decides") {
    Window window;
    const TableFile file("two.csv", "7, 1,5\n7,1, 1,25\n");
    const TableFile sure("sure.csv", "7.0;50;1\n");
    for (const bool first : {false, true}) {
        const TableFile twice("two.csv", "7, 1,5\n8, 1,25\n");
        window.editing().importMeasured({twice.path, sure.path});
        CHECK(window.document().design().measured.empty());
        const QString said = window.notice()->sentence();
        INFO(said.toStdString());
        CHECK(said.contains("two.csv can be read in two ways"));
        CHECK(said.contains("SWR 1.5"));
        QToolButton* button = answer(window, first ? "The first" : "The second");
        REQUIRE(button != nullptr);
        QTest::mouseClick(button, Qt::LeftButton);
        const auto& measured = window.document().design().measured;
        REQUIRE(measured.size() == 2);
        if (first)
            CHECK(measured[0].data.points[0].impedanceOhm == Complex(1.0, 5.0));
        else
            CHECK(measured[0].data.points[0].swr == 1.5);
        CHECK(measured[1].data.points[0].impedanceOhm == Complex(50.0, 1.0));
        window.document().undo();
    }
    // Decimal commas in the frequency leave one way only.
    window.editing().importMeasured({file.path});
    REQUIRE(window.document().design().measured.size() == 1);
    CHECK(window.document().design().measured[0].data.points[1].frequencyHz == Approx(7.1e6));
}
