// The result of a study on the bench: opened, sifted, sorted, pointed at, and one case taken from it.
#include <QHeaderView>
#include <QTableView>
#include <QToolButton>
#include <algorithm>
#include <fstream>

#include "app/stages/wide/wide_stage.h"
#include "app/stages/wide/wide_view.h"
#include "core/wide/run.h"
#include "window.h"

using namespace rm;
using test::Window;

namespace {

/// Twenty apex heights and spreads of the inverted V, worked out as the command line does it.
QString resultIn(const QTemporaryDir& folder) {
    const auto project = folder.filePath("study.json").toStdString();
    std::ofstream(project) << R"({"format": "reed-mast study", "version": 1, "project": ")" << test::kDemo
                           << R"(", "design": "Inverted V, 60 m", "work": "solve",
        "over": [{"vary": "dimension", "name": "apex", "from": "8 m", "to": "12 m", "points": 5},
                 {"vary": "soil", "values": ["marsh", "dry sand"]}],
        "figures": ["SWR", "gain", "takeoff angle"]})";
    const wide::Cases cases(wide::readGiven(project));
    wide::RunOptions options;
    options.out = folder.filePath("study.csv").toStdString();
    REQUIRE(wide::runStudy(cases, options).finished());
    return folder.filePath("study.csv");
}

/// A result of 24,000 cases whose figures are made up: worked out, they would take a quarter of an hour.
QString manyIn(const QTemporaryDir& folder) {
    const auto project = folder.filePath("many.json").toStdString();
    std::ofstream(project) << R"({"format": "reed-mast study", "version": 1, "project": ")" << test::kDemo
                           << R"(", "design": "Inverted V, 60 m", "work": "solve",
        "over": [{"vary": "dimension", "name": "apex", "from": "8 m", "to": "14 m", "points": 200},
                 {"vary": "dimension", "name": "leg", "from": "12 m", "to": "15 m", "points": 120}],
        "figures": ["SWR", "gain"]})";
    const wide::Cases cases(wide::readGiven(project));
    const auto file = folder.filePath("many.jsonl");
    std::ofstream out(file.toStdString());
    out << wide::headOf(cases, wide::Format::JsonLines, {0, cases.count()});
    for (std::size_t n = 0; n < cases.count(); ++n) {
        const auto steps = cases.stepsOf(n);
        const double apex = static_cast<double>(steps[0]) / 199.0;
        const double leg = static_cast<double>(steps[1]) / 119.0;
        wide::Row row{n, {1.0 + 20.0 * (leg - 0.4) * (leg - 0.4), 5.0 + 2.0 * apex}, ""};
        if (n == 77) row = {n, {}, "Leg: it touches the ground."};
        out << wide::lineOf(cases, row, wide::Format::JsonLines) << "\n";
    }
    return file;
}

/// The view, once it has this result.
app::WideView* opened(Window& w, const QString& file) {
    w.stage<app::WideStage>("wide").open(file);
    auto* view = test::viewIn<app::WideView>(w.bench);
    REQUIRE(test::waitFor([&] { return view->table() != nullptr; }));
    return view;
}

/// The colour of a view at a point, as a person would see it.
QColor colourAt(QWidget* view, const QPointF& point) {
    return view->grab().toImage().pixelColor(point.toPoint());
}

}  // namespace

TEST_CASE("the result of a study is opened, sifted and sorted, and a case of it comes to the bench") {
    const QTemporaryDir folder;
    const QString file = resultIn(folder);
    Window w;
    w.action("Results of studies")->trigger();
    auto* view = test::viewIn<app::WideView>(w.bench);
    REQUIRE(view->isVisible());
    CHECK(view->line().contains("reedmast-cli study"));
    CHECK_FALSE(view->take()->isEnabled());
    w.stage<app::WideStage>("wide").open(file);
    REQUIRE(test::waitFor([&] { return view->table() != nullptr; }));
    auto* rows = view->rows();
    CHECK(rows->model()->rowCount() == 10);
    CHECK(view->line().contains("10 of 10"));
    CHECK(rows->model()->headerData(1, Qt::Horizontal).toString() == "apex, m");
    // Two things were varied: a map of the first figure.
    CHECK(view->column(2)->currentText() == "SWR");

    // Half-typed conditions say what is missing and leave the rows as they are.
    view->filter()->setFocus();
    QTest::keyClicks(view->filter(), "soil = marsh and gai");
    CHECK(rows->model()->rowCount() == 5);
    auto* trouble = view->findChild<QLabel*>("filterTrouble");
    CHECK(trouble->isVisible());
    QTest::keyClicks(view->filter(), "n > -50");
    CHECK_FALSE(trouble->isVisible());
    CHECK(rows->model()->rowCount() == 5);

    // By gain, the best first.
    rows->horizontalHeader()->setSortIndicator(4, Qt::DescendingOrder);
    const auto gain = [&](int line) {
        return view->table()->number(
            static_cast<std::size_t>(rows->model()->index(line, 0).data().toInt()) - 1, 4);
    };
    for (int line = 1; line < 5; ++line) CHECK(gain(line) <= gain(line - 1));

    // A mark on the map is its line in the table.
    const auto there = view->plot()->at(6);
    REQUIRE(there);
    QTest::mouseClick(view->plot(), Qt::LeftButton, {}, there->toPoint());
    REQUIRE(view->chosen() == std::size_t{6});
    REQUIRE(view->take()->isEnabled());
    const auto designs = w.document().project().designs.size();
    view->take()->click();
    w.settle();
    REQUIRE(w.document().project().designs.size() == designs + 1);
    CHECK(w.document().design().name == "Inverted V, 60 m, case 7");
    CHECK(w.document().design().site.soil == "marsh");
    // What the study read is what the bench reads.
    CHECK(w.analysis()->figures.peak.gainDbi == Approx(view->table()->number(6, 4)).margin(0.01));
    w.document().undo();
    CHECK(w.document().project().designs.size() == designs);
}

TEST_CASE("a file that is no result of a study is said so, and what was there stays") {
    const QTemporaryDir folder;
    const QString file = resultIn(folder);
    std::ofstream(folder.filePath("other.csv").toStdString()) << "1,2,3\n";
    Window w;
    auto& stage = w.stage<app::WideStage>("wide");
    stage.open(file);
    auto* view = test::viewIn<app::WideView>(w.bench);
    REQUIRE(test::waitFor([&] { return view->table() != nullptr; }));
    stage.open(folder.filePath("other.csv"));
    REQUIRE(test::waitFor([&] { return stage.settled(); }));
    CHECK(test::waitFor([&] { return w.notice()->sentence().contains("no result of a study"); }));
    CHECK(view->table()->rows() == 10);
}

TEST_CASE("tens of thousands of cases are sorted, sifted and drawn while a hand waits for nothing") {
    const QTemporaryDir folder;
    Window w;
    auto* view = opened(w, manyIn(folder));
    auto* rows = view->rows();
    REQUIRE(rows->model()->rowCount() == 24000);
    CHECK(view->line().contains("worked out by reed-mast"));
    QElapsedTimer clock;
    clock.start();
    // The best first; the one without figures last, whichever way.
    rows->horizontalHeader()->setSortIndicator(3, Qt::AscendingOrder);
    CHECK(rows->model()->index(0, 2).data().toString().startsWith("13.2"));
    CHECK(rows->model()->index(23999, 0).data().toString() == "78");
    CHECK(rows->model()->index(23999, 3).data().toString() == QString::fromUtf8("–"));
    rows->horizontalHeader()->setSortIndicator(3, Qt::DescendingOrder);
    CHECK(rows->model()->index(23999, 0).data().toString() == "78");
    CHECK(rows->model()->index(23999, 0).data(Qt::ToolTipRole).toString().contains("touches the ground"));
    // Of equal ones the earlier case stands first.
    CHECK(rows->model()->index(0, 0).data().toInt() < rows->model()->index(1, 0).data().toInt());
    view->filter()->setText("swr < 1.5 and gain > 6.5");
    const int kept = rows->model()->rowCount();
    CHECK(kept > 500);
    CHECK(kept < 6000);
    CHECK(view->line().contains(QString("%1 of 24000").arg(kept)));
    view->grab();
    // Ten times what it takes here: a list that is sorted with a table read anew for every comparison, or a
    // picture drawn for every move of the pointer, takes far longer.
    CHECK(clock.elapsed() < 4000);

    // A map: neighbours in a column have neighbouring colours, and what is sifted out is pale.
    auto* plot = view->plot();
    REQUIRE(view->column(2)->currentText() == "SWR");
    const auto cellOf = [](std::size_t apex, std::size_t leg) { return apex * 120 + leg; };
    const QColor out = colourAt(plot, *plot->at(cellOf(20, 48)));
    const QColor in = colourAt(plot, *plot->at(cellOf(190, 48)));
    CHECK(out != in);
    CHECK(colourAt(plot, *plot->at(cellOf(30, 60))) == out);
    view->filter()->clear();
    CHECK(rows->model()->rowCount() == 24000);
    CHECK(colourAt(plot, *plot->at(cellOf(20, 48))) != out);
    CHECK(colourAt(plot, *plot->at(cellOf(20, 48))) == colourAt(plot, *plot->at(cellOf(190, 48))));
    CHECK(colourAt(plot, *plot->at(cellOf(190, 119))) != in);

    // The pointer reads the case that it is on, and a click finds its line.
    const auto there = plot->at(cellOf(100, 30));
    REQUIRE(there);
    QTest::mouseMove(plot, there->toPoint());
    QMouseEvent move(QEvent::MouseMove, *there, plot->mapToGlobal(*there), Qt::NoButton, Qt::NoButton,
                     Qt::NoModifier);
    QApplication::sendEvent(plot, &move);
    CHECK(view->line().startsWith("case "));
    QTest::mouseClick(plot, Qt::LeftButton, {}, there->toPoint());
    REQUIRE(view->chosen());
    CHECK(std::abs(plot->at(*view->chosen())->x() - there->x()) < 3.0);
    CHECK(rows->model()->index(rows->currentIndex().row(), 0).data().toInt() ==
          static_cast<int>(*view->chosen()) + 1);
}

TEST_CASE("columns are chosen for what a designer asks: a curve, a map, a cloud, all of them painted") {
    const QTemporaryDir folder;
    Window w;
    auto* view = opened(w, resultIn(folder));
    const auto choose = [&](int which, const QString& heading) {
        const int index = view->column(which)->findText(heading);
        REQUIRE(index >= 0);
        view->column(which)->setCurrentIndex(index);
        Q_EMIT view->column(which)->activated(index);
    };
    auto* plot = view->plot();
    const QImage map = plot->grab().toImage();
    choose(0, "apex, m");
    choose(1, "gain, dBi");
    choose(2, "nothing");
    const QImage cloud = plot->grab().toImage();
    CHECK(cloud != map);
    // Higher up stands higher, further right further right.
    const auto low = *plot->at(0);
    const auto high = *plot->at(8);
    CHECK(high.x() > low.x());
    CHECK((high.y() < low.y()) == (view->table()->number(8, 4) > view->table()->number(0, 4)));
    // The same over itself is a line from corner to corner.
    choose(1, "apex, m");
    CHECK(plot->at(0)->y() > plot->at(8)->y());
    plot->grab();
    // Another size, another picture; the chosen case stays marked.
    view->rows()->selectRow(4);
    const QImage before = plot->grab().toImage();
    w.bench.resize(w.bench.width() + 60, w.bench.height());
    QApplication::processEvents();
    CHECK(plot->grab().toImage().size() != before.size());
    view->rows()->selectRow(0);
    CHECK(plot->grab().toImage() != before);
}

TEST_CASE("results are opened one after the other, half way, from nowhere, and while the window closes") {
    const QTemporaryDir folder;
    const QString many = manyIn(folder);
    const QString few = resultIn(folder);
    Window w;
    auto& stage = w.stage<app::WideStage>("wide");
    auto* view = test::viewIn<app::WideView>(w.bench);
    // Only the last one that was asked for comes.
    stage.open(many);
    stage.open(folder.filePath("nowhere.csv"));
    stage.open(few);
    REQUIRE(test::waitFor([&] { return view->table() != nullptr; }));
    CHECK(view->table()->rows() == 10);
    // Stopped, what is there stays, and nothing is said.
    stage.open(many);
    stage.stop();
    REQUIRE(test::waitFor([&] { return stage.settled(); }));
    CHECK(view->table()->rows() == 10);
    stage.open(folder.filePath("nowhere.csv"));
    REQUIRE(test::waitFor([&] { return stage.settled(); }));
    CHECK(test::waitFor([&] { return w.notice()->sentence().contains("nowhere.csv"); }));
    // Conditions of one result do not outlive it.
    view->filter()->setText("soil = marsh");
    CHECK(view->rows()->model()->rowCount() == 5);
    stage.open(many);
    REQUIRE(test::waitFor([&] { return view->table()->rows() == 24000; }));
    CHECK(view->filter()->text().isEmpty());
    CHECK_FALSE(view->findChild<QLabel*>("filterTrouble")->isVisible());
    CHECK_FALSE(view->chosen());
    CHECK_FALSE(view->take()->isEnabled());
    // A case without figures is not taken, and says why.
    view->rows()->selectRow(77);
    CHECK(view->line().contains("touches the ground"));
    CHECK_FALSE(view->take()->isEnabled());
    // Conditions that nothing meets.
    view->filter()->setText("swr < 0.5");
    CHECK(view->rows()->model()->rowCount() == 0);
    view->grab();
    CHECK_FALSE(view->chosen());
    view->filter()->setText("soil = marsh");
    CHECK(view->findChild<QLabel*>("filterTrouble")->text().contains("no column \"soil\""));
    // The project of the study may have gone on: the case is the antenna that the result holds.
    view->filter()->clear();
    view->rows()->selectRow(5);
    w.document().startNew();
    w.settle();
    view->take()->click();
    w.settle();
    CHECK(w.document().design().name == "Inverted V, 60 m, case 6");
    stage.open(few);
}
