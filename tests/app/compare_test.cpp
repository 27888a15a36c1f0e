// Compare mode in the real window: the matrix, its figures, baseline and difference, and opening a cell.
#include <QComboBox>
#include <QFile>
#include <QToolButton>

#include "app/look/painted_words.h"
#include "app/look/picture.h"
#include "app/stages/compare/compare_view.h"
#include "app/stages/compare/overlay_plots.h"
#include "app/stages/currents/current_view.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

struct CompareWindow : Window {
    CompareWindow() {
        auto* mode = bench.findChild<QToolButton*>("modeCompare");
        REQUIRE(mode != nullptr);
        QTest::mouseClick(mode, Qt::LeftButton);
        settle();
        REQUIRE(matrix().isVisible());
    }
    app::CompareMatrix& matrix() { return *find<app::CompareView>()->matrix(); }
    int rowOf(const std::string& name) {
        const auto& rows = find<app::CompareView>()->comparison()->rows;
        for (std::size_t r = 0; r < rows.size(); ++r)
            if (rows[r].name == name && !rows[r].pin) return static_cast<int>(r);
        return -1;
    }
    void click(QPointF at) {
        QTest::mouseClick(&matrix(), Qt::LeftButton, {}, at.toPoint());
        settle();
    }
};

}  // namespace

TEST_CASE("every design and pin stands against every band with the figures of the bench") {
    CompareWindow w;
    const auto comparison = w.find<app::CompareView>()->comparison();
    const auto& project = w.document().project();
    REQUIRE(comparison->rows.size() == project.designs.size() + project.pins.size());
    const int loop = w.rowOf("End-fed, sloper");
    CHECK(w.matrix().cellText(loop, 5).isEmpty());  // not for 4 m
    // The cell of the live design is what the band strip says.
    const int live = w.rowOf(project.active().name);
    CHECK(w.matrix().cellText(live, 0) == w.bandStrip()->chip(0)->swrText().mid(4));
    // Other figures.
    w.find<app::CompareView>()->quantity()->setCurrentIndex(5);
    Q_EMIT w.find<app::CompareView>()->quantity()->activated(5);
    CHECK(std::abs(w.matrix().cellText(live, 0).replace("−", "-").toDouble() -
                   w.analysis()->figures.peak.gainDbi) < 0.1);
}

TEST_CASE("a baseline turns the matrix into differences and draws them against elevation") {
    CompareWindow w;
    w.find<app::CompareView>()->quantity()->setCurrentIndex(2);  // gain at 10 degrees
    Q_EMIT w.find<app::CompareView>()->quantity()->activated(2);
    const int sloper = w.rowOf("End-fed, sloper");
    const int invertedL = w.rowOf("End-fed, inverted L");
    const double a = w.matrix().cellText(sloper, 2).replace("−", "-").toDouble();
    const double b = w.matrix().cellText(invertedL, 2).replace("−", "-").toDouble();
    w.click(w.matrix().nameRect(sloper).center());
    CHECK(w.matrix().baseline() == sloper);
    CHECK(std::abs(w.matrix().cellText(invertedL, 2).replace("−", "-").toDouble() - (b - a)) < 0.11);
    // The patterns below are those of the band that was clicked.
    w.click(QPointF(w.matrix().cellRect(0, 2).center().x(), 8));
    CHECK(w.matrix().band() == 2);
    const auto difference = w.find<app::CompareView>()->plots()->differenceDb(invertedL, 10.0);
    REQUIRE(difference);
    CHECK(*difference == Approx(b - a).margin(0.11));
    CHECK_FALSE(w.find<app::CompareView>()->plots()->differenceDb(w.rowOf("Yagi, 70 MHz"), 10.0));
    // Its scale is in whole decibels.
    QStringList words;
    for (const auto& row : app::paintedRows(*w.find<app::CompareView>()->plots())) words << row.text;
    INFO(words.join(" | ").toStdString());
    CHECK(words.join("|").contains("against elevation|10|5|0|−5|−10|"));
}

TEST_CASE("a click on a cell opens that antenna on that band; a change is compared again") {
    CompareWindow w;
    w.click(w.matrix().cellRect(w.rowOf("End-fed, inverted L"), 2).center());
    CHECK(w.document().design().name == "End-fed, inverted L");
    CHECK(w.document().project().workingBand == 2);
    CHECK(w.yard()->isVisible());
    w.bench.openStage("compare");
    w.settle();
    const int row = w.rowOf("End-fed, inverted L");
    const QString before = w.matrix().cellText(row, 2);
    w.typeDimension("run", "23 m");
    w.settle();
    CHECK(w.matrix().cellText(row, 2) != before);
    w.undo();
    CHECK(w.matrix().cellText(row, 2) == before);
}

TEST_CASE("the lobe stands in the yard, coloured by gain, and goes into a mesh") {
    Window w;
    CHECK_FALSE(w.yard()->lobe());
    w.bench.findChild<QAction*>("lobe")->trigger();
    w.settle();
    REQUIRE(w.yard()->lobe());
    const auto& lobe = *w.yard()->lobe();
    CHECK(*std::max_element(lobe.gainDbi.begin(), lobe.gainDbi.end()) ==
          Approx(w.analysis()->figures.peak.gainDbi).margin(0.05));
    QTemporaryDir folder;
    w.bench.files().exportPatternTo(folder.filePath("lobe.obj"));
    QFile mesh(folder.filePath("lobe.obj"));
    REQUIRE(mesh.open(QIODevice::ReadOnly));
    CHECK(mesh.readAll().contains("o lobe"));
    w.bench.files().exportPatternTo(folder.filePath("cuts.csv"));
    QFile cuts(folder.filePath("cuts.csv"));
    REQUIRE(cuts.open(QIODevice::ReadOnly));
    CHECK(cuts.readAll().contains("cut,angle_deg,gain_dBi"));
    w.bench.files().exportPatternTo("/nowhere/at/all.csv");
    CHECK(w.notice()->sentence().contains("cannot be written"));
}

TEST_CASE("parts that nobody feeds are named in the yard; the current along one is a curve") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    CHECK(w.yard()->remarks().isEmpty());
    w.addRail();
    REQUIRE(w.yard()->remarks().size() == 1);
    CHECK(w.yard()->remarks().front().contains("Rail carries"));
    w.session().select(w.item(app::Selection::Type::Part, 1));
    w.bench.openStage("currents");
    CHECK(w.find<app::CurrentView>()->parts()->currentText() == "Rail");
    // The elements of a Yagi are fed as a whole, and each has a curve of its own.
    w.session().select(w.item(app::Selection::Type::Part, 0));
    w.find<app::CurrentView>()->choose("Yagi, reflector");
    CHECK(w.find<app::CurrentView>()->parts()->currentText() == "Yagi, reflector");
    w.find<app::CurrentView>()->choose("Yagi, director 1");
    const auto& points = w.find<app::CurrentView>()->plot()->points();
    REQUIRE(points.size() > 10);
    CHECK(points.back().alongM == Approx(1.968));
    w.typeDimension("d1", "1.9 m");
    w.settle();
    CHECK(w.find<app::CurrentView>()->plot()->points().back().alongM == Approx(1.9));
}

TEST_CASE("every view is written as a picture in three formats") {
    Window w;
    QTemporaryDir folder;
    for (const char* ending : {"svg", "pdf", "png"}) {
        const QString path = folder.filePath(QString("view.") + ending);
        app::writePicture(*w.elevation(), path);
        QFile file(path);
        REQUIRE(file.open(QIODevice::ReadOnly));
        const QByteArray head = file.read(400);
        CHECK(head.contains(QString(ending) == "svg" ? "<svg" : QString(ending) == "pdf" ? "%PDF" : "PNG"));
        CHECK(file.size() > 2000);
    }
    CHECK_THROWS_WITH(app::writePicture(*w.elevation(), folder.filePath("view.gif")),
                      Catch::Contains("view.gif: pictures are written as"));
}
