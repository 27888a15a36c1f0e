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
