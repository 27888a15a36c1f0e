// From the question to the answer: matching, measured over modelled, tuning in stages, a project that comes
// back.
#include <QFile>
#include <QTextStream>

#include "app/stages/match/match_rows.h"
#include "app/stages/match/match_view.h"
#include "app/stages/tune/proposal_table.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/tune/tune_view.h"
#include "journey.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("journey: a short dipole is matched with what the program offers") {
    Journey w;
    w.typeDimension("span", "8 m");
    w.settle();
    CHECK(w.swr() > 5.0);
    w.bench.openStage("match");
    w.settle();
    auto* rows = w.find<app::MatchView>()->rows();
    REQUIRE(rows->count() > 1);
    INFO(rows->title(0).toStdString());
    // The first way under the first heading.
    const int row = 1;
    QTest::mouseClick(rows, Qt::LeftButton, {}, rows->rowRect(row).center());
    w.settle();
    REQUIRE_FALSE(w.design().feedPath.empty());
    CHECK(w.swr() < 1.3);
    CHECK(w.notice()->sentence().contains("Put in"));
    // Undone from the notice, and put in again.
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    w.settle();
    CHECK(w.design().feedPath.empty());
    w.document().redo();
    w.settle();
    CHECK(w.swr() < 1.3);
    w.thereAndBack();
}

TEST_CASE("journey: what was measured lies over what was modelled, and is taken out again") {
    Journey w;
    QTemporaryDir folder;
    const QString file = folder.filePath("shack.s1p");
    w.bench.files().exportSweepTo(file);
    REQUIRE(QFile::exists(file));
    w.typeDimension("span", "10.2 m");
    w.settle();
    w.editing().importMeasured({file});
    w.settle();
    REQUIRE(w.design().measured.size() == 1);
    CHECK(w.session().selection().type == Journey::Type::Measured);
    w.bench.openStage("band");
    w.settle();
    w.bench.grab();
    // Damaged files change nothing and say where they are wrong.
    const QString bad = folder.filePath("bad.s1p");
    QFile out(bad);
    REQUIRE(out.open(QIODevice::WriteOnly));
    QTextStream(&out) << "# MHz S RI R 50\n14.1 nonsense 0\n";
    out.close();
    const auto before = w.document().share();
    w.editing().importMeasured({bad});
    CHECK(w.document().share() == before);
    CHECK(w.notice()->sentence().contains("bad.s1p"));
    w.menu("Remove selected");
    w.settle();
    CHECK(w.design().measured.empty());
    w.sound();
}

TEST_CASE("journey: a dipole is tuned for its band, and only what is ticked is taken over") {
    Journey w;
    w.document().editDesign("Plan", [](model::Design& d) {
        model::Goal swr;
        swr.limit = "1.8";
        swr.bands = {"20 m"};
        d.tune.goals = {swr};
        model::Mover mover;
        mover.dimension = "span";
        d.tune.movers = {mover};
    });
    w.typeDimension("span", "9.4 m");
    w.settle();
    CHECK(w.swr() > 2.0);
    w.bench.openStage("tune");
    w.settle();
    auto* view = w.find<app::TuneView>();
    QTest::mouseClick(view->start(), Qt::LeftButton);
    auto& stage = w.stage<app::TuneStage>("tune");
    REQUIRE(waitFor([&] { return !stage.tuning(); }));
    w.settle();
    REQUIRE(view->proposal() != nullptr);
    // A proposal: the design is as it was, and its row lies beside it.
    CHECK(w.dimensionText("span") == "9.4 m");
    CHECK(w.ledger()->rowCount() == 2);
    QTest::mouseClick(view->accept(), Qt::LeftButton);
    w.settle();
    CHECK(w.dimensionText("span") != "9.4 m");
    CHECK(w.swr() < 1.8);
    CHECK(w.ledger()->rowCount() == 1);
    // One step of undo.
    w.undo();
    CHECK(w.dimensionText("span") == "9.4 m");
    w.thereAndBack();
}

TEST_CASE("journey: a project is saved, changed, saved elsewhere and opened again") {
    Journey w;
    QTemporaryDir folder;
    const QString file = folder.filePath("mine.json");
    w.typeDimension("span", "10.1 m");
    w.settle();
    CHECK(w.bench.windowTitle().startsWith("•"));
    REQUIRE(w.bench.files().save(file));
    CHECK_FALSE(w.bench.windowTitle().startsWith("•"));
    CHECK(w.bench.windowTitle().contains("mine.json"));
    w.menu("Inverted V");
    w.menu("Copy this design");
    w.menu("Pin the live result");
    w.settle();
    CHECK(w.bench.windowTitle().startsWith("•"));
    const QString other = folder.filePath("other.json");
    REQUIRE(w.bench.files().save(other));
    const auto saved = w.document().share();
    REQUIRE(w.bench.files().open(file));
    w.settle();
    CHECK(w.document().project().designs.size() == 1);
    CHECK(w.dimensionText("span") == "10.1 m");
    REQUIRE(w.bench.files().open(other));
    w.settle();
    CHECK(w.document().project().designs.size() == 2);
    CHECK(w.document().project().pins.size() == saved->pins.size());
    CHECK(w.document().design().name == saved->active().name);
    w.sound();
}
