// The Tune mode in the real window: goals as sentences, what may move, the work and the proposal.
#include "tune_window.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("goals are sentences that are clicked and typed into, each with how far from met it is") {
    TuneWindow w;
    REQUIRE(w.plan().goals.size() == 4);
    // Looking changes nothing.
    CHECK(w.document().undoStack()->count() == 0);
    CHECK(w.sentence(0) == "SWR at the radio at most 1.3 on every band");
    CHECK(w.verdict(0) == "met");
    CHECK(w.verdict(1).contains("dB too little"));
    CHECK(w.sentence(3) == "Gain as high as possible on every band");
    CHECK(w.verdict(3).contains("dBi"));
    CHECK(w.sentence(4) == "Boom at most 3.5 m");
    CHECK(w.verdict(4) == "kept");
    CHECK(*w.view().rows()->rows()[0].nowMiss < 0.0);
    CHECK(*w.view().rows()->rows()[1].nowMiss > 0.0);

    w.chooseRow(0);
    REQUIRE(w.view().form()->isVisible());
    w.typeInto(w.view().form()->limit(), "1.05");
    CHECK(w.sentence(0) == "SWR at the radio at most 1.05 on every band");
    CHECK(w.verdict(0).contains("too much"));
    w.undo();
    CHECK(w.verdict(0) == "met");
    // Where: one band, or a range that is typed.
    w.trigger(w.view().form()->where()->menu(), "4 m");
    CHECK(w.sentence(0).endsWith("on 4 m"));
    w.trigger(w.view().form()->where()->menu(), "a range of frequencies");
    CHECK(w.sentence(0) == "SWR at the radio at most 1.3 from 70 MHz to 70.5 MHz");
    w.typeInto(w.view().form()->to(), "72");
    CHECK(w.plan().goals[0].to == "72 MHz");
    CHECK(w.verdict(0).contains("too much"));
    w.typeInto(w.view().form()->to(), "69");
    CHECK(w.view().now().problem.contains("lower and a higher frequency"));
    w.trigger(w.view().form()->where()->menu(), "every band of the design");
    // Importance and stage.
    auto* stage = w.view().form()->stage();
    stage->setCurrentIndex(1);
    Q_EMIT stage->activated(1);
    w.settle();
    CHECK(w.plan().goals[0].stage == 2);
    CHECK(w.view().rows()->rows()[0].note == "essential, stage 2");
    // Another kind takes a limit of its own.
    auto* kind = w.view().form()->kind();
    kind->setCurrentIndex(kind->findText("R at the antenna"));
    Q_EMIT kind->activated(kind->currentIndex());
    w.settle();
    CHECK(w.sentence(0) == "R at the antenna between 20 and 60 ohm on every band");
    CHECK(w.view().form()->upper()->isVisible());
    // A goal that is not ticked counts for nothing.
    QTest::mouseClick(w.view().rows(), Qt::LeftButton, {}, w.view().rows()->tickOf(0).center());
    w.settle();
    CHECK_FALSE(w.plan().goals[0].enabled);
    CHECK(w.verdict(0).isEmpty());
    // Add and remove.
    w.trigger(w.view().addGoal()->menu(), "Takeoff angle at most 20°");
    REQUIRE(w.plan().goals.size() == 5);
    CHECK(w.sentence(4) == "Takeoff angle at most 20° on every band");
    CHECK(w.verdict(4) == "met");
    w.click(w.view().form()->remove());
    w.settle();
    CHECK(w.plan().goals.size() == 4);
    w.trigger(w.view().addLimit()->menu(), "Wire in all");
    CHECK(w.sentence(6).startsWith("Wire in all at most"));
    w.typeInto(w.view().form()->limit(), "9 m");
    CHECK(w.verdict(6).contains("too much"));
    w.typeInto(w.view().form()->limit(), "much");
    CHECK(w.verdict(6) == "cannot be read");
}

TEST_CASE("what may move is ticked, limited, or taken from a list; other numbers become dimensions") {
    TuneWindow w;
    auto* table = w.view().movers();
    const int driven = table->rowOf("driven");
    REQUIRE(driven >= 0);
    CHECK(table->item(driven, app::MoverTable::Name)->checkState() == Qt::Checked);
    table->item(driven, app::MoverTable::Name)->setCheckState(Qt::Unchecked);
    w.settle();
    for (const auto& m : w.plan().movers)
        if (m.dimension == "driven") CHECK_FALSE(m.enabled);
    CHECK(table->item(driven, app::MoverTable::Low)->text().isEmpty());
    w.undo();
    w.typeCell(table, driven, app::MoverTable::Low, "1850 mm");
    w.typeCell(table, driven, app::MoverTable::Step, "1/8 in");
    for (const auto& m : w.plan().movers)
        if (m.dimension == "driven") {
            CHECK(m.low == "1850 mm");
            CHECK(m.step == "1/8 in");
        }
    // Limits the wrong way round are said where the eye is.
    w.typeCell(table, driven, app::MoverTable::High, "1800 mm");
    CHECK(w.view().now().problem.contains("driven has no room to move"));
    w.undo();
    CHECK(w.view().now().problem.isEmpty());
    w.typeCell(table, driven, app::MoverTable::Step, "1.86 m, 1.87 m, 1.88 m");
    for (const auto& m : w.plan().movers)
        if (m.dimension == "driven") CHECK(m.choices == "1.86 m, 1.87 m, 1.88 m");
    // The height of the site becomes a dimension, and moves.
    const auto before = model::expand(w.document().design());
    w.trigger(w.view().others()->menu(), "Site: height");
    CHECK(w.document().design().site.height == "Site_height");
    CHECK(table->item(table->rowOf("Site_height"), app::MoverTable::Name)->checkState() == Qt::Checked);
    const auto after = model::expand(w.document().design());
    CHECK(after.model.wires[0].startM == before.model.wires[0].startM);
}

TEST_CASE(
    "tuning runs beside the bench, pauses, and ends in a proposal that changes nothing until accepted") {
    TuneWindow w;
    w.easyPlan();
    const auto untouched = w.dimensionText("driven");
    const auto pins = w.document().project().pins.size();
    w.click(w.view().start());
    REQUIRE(w.stage<app::TuneStage>("tune").tuning());
    CHECK(w.view().pause()->isVisible());
    CHECK_FALSE(w.view().start()->isVisible());
    REQUIRE(waitFor([&] { return !w.view().history()->steps().empty(); }));
    // Paused, nothing is worked out any more.
    w.click(w.view().pause());
    QTest::qWait(700);
    const QString held = w.view().rate();
    CHECK(held.contains("paused"));
    CHECK(held.contains("per second"));
    QTest::qWait(300);
    CHECK(w.view().rate().section(" ", 0, 0) == held.section(" ", 0, 0));
    CHECK(w.stage<app::TuneStage>("tune").tuning());
    w.click(w.view().pause());
    w.waitForTune();
    REQUIRE(w.view().proposal() != nullptr);
    CHECK(w.view().table()->isVisible());
    CHECK(w.document().undoStack()->isClean());
    CHECK(w.dimensionText("driven") == untouched);
    // It lies over the design in the ledger, and in the gauges.
    const int row = static_cast<int>(pins) + 1;
    CHECK(w.ledger()->figure("design", row) == "proposal");
    CHECK(w.ledger()->figure("SWR in band", row) != w.ledger()->figure("SWR in band"));
    REQUIRE(w.view().rows()->rows()[0].bestMiss);
    CHECK(*w.view().rows()->rows()[0].bestMiss < *w.view().rows()->rows()[0].nowMiss);
    CHECK_FALSE(w.view().cost().isEmpty());
    // What it does to every figure, the worse as visible as the better.
    w.settle();
    CHECK(w.view().better().contains("worst SWR on 4 m"));
    CHECK(w.view().better().startsWith("Better: "));
    CHECK((w.view().worse().isEmpty() || w.view().worse().startsWith("Worse: ")));
    // The change of each in millimetres.
    auto* table = w.view().table();
    CHECK(table->rowCount() == 2);
    const QString change = table->item(table->rowOf("s2"), app::ProposalTable::Change)->text();
    CHECK((change.endsWith(" mm") || change == "0"));
    // Leaving one out shows another antenna.
    const double all = *w.view().rows()->rows()[0].bestMiss;
    table->item(table->rowOf("s2"), app::ProposalTable::Name)->setCheckState(Qt::Unchecked);
    w.settle();
    CHECK(table->chosen().size() == 1);
    CHECK(*w.view().rows()->rows()[0].bestMiss != all);
    // The row of the proposal is no pin yet: what is done to pins is refused with a sentence.
    const int laid = w.ledger()->rowOf(static_cast<int>(pins));
    CHECK(w.ledger()->figure("design", laid).contains("proposal"));
    Q_EMIT w.ledger()->pinRemoved(w.ledger()->pinIn(laid));
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("pin it in the Tune mode"));
    CHECK(w.document().project().pins.size() == pins);
    // Not rounded, the values are those that were found.
    w.view().rounded()->click();
    w.settle();
    CHECK(table->chosen().at("driven") == w.view().proposal()->result.best.values.at("driven"));
    w.view().rounded()->click();
    table->item(table->rowOf("s2"), app::ProposalTable::Name)->setCheckState(Qt::Checked);
    w.settle();
    // Pinned, it stays; the design does too.
    w.click(w.view().pinButton());
    w.settle();
    CHECK(w.document().project().pins.size() == pins + 1);
    CHECK(w.document().project().pins.back().name == "Yagi, 70 MHz, tuned");
    CHECK(w.dimensionText("driven") == untouched);
    // Another design comes to the bench and goes: the proposal waits.
    w.chooseDesign("Ground plane, 30 m");
    CHECK(w.view().proposal() == nullptr);
    w.chooseDesign("Yagi, 70 MHz");
    CHECK(w.view().proposal() != nullptr);
    // Accepted as one step.
    const auto chosen = table->chosen();
    w.click(w.view().accept());
    w.settle();
    CHECK(w.view().proposal() == nullptr);
    const auto scope = model::scopeOf(w.document().design());
    CHECK(scope.values.at("driven") == Approx(chosen.at("driven")).margin(1e-6));
    CHECK(scope.values.at("s2") == Approx(chosen.at("s2")).margin(1e-6));
    CHECK(w.verdict(0) == "met");
    w.undo();
    CHECK(w.dimensionText("driven") == untouched);
}

TEST_CASE("a stop keeps the best so far as the proposal; tuned on from there, then discarded") {
    TuneWindow w;
    w.document().undoStack()->setClean();
    w.click(w.view().start());
    REQUIRE(waitFor([&] { return w.view().history()->steps().size() > 2; }));
    w.click(w.view().stop());
    w.waitForTune();
    REQUIRE(w.view().proposal() != nullptr);
    CHECK(w.view().proposal()->result.stopped);
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("best so far"));
    const double reached = w.view().proposal()->result.best.objective;
    w.click(w.view().goOn());
    REQUIRE(waitFor([&] { return !w.view().history()->steps().empty(); }));
    // It begins where it ended.
    CHECK(w.view().history()->steps().front().objective <= reached + 0.01);
    QTest::keyClick(&w.bench, Qt::Key_Escape);
    w.waitForTune();
    w.click(w.view().discard());
    w.settle();
    CHECK(w.view().proposal() == nullptr);
    CHECK(w.document().undoStack()->isClean());
    CHECK(w.ledger()->figure("design", 3).isEmpty());
}

TEST_CASE("Stop ends a reading of goals that takes long, says so, and coming back reads them") {
    Window w;
    w.chooseDesign("Two Yagis stacked, 70 MHz");
    auto* view = w.find<app::TuneView>();
    w.bench.openStage("tune");
    w.settle();
    // So many ranges that it takes seconds.
    constexpr int kGoals = 12;
    w.document().editDesign("Goals", [](model::Design& d) {
        d.tune.goals.clear();
        for (int i = 0; i < kGoals; ++i) {
            model::Goal goal;
            goal.limit = "2";
            goal.from = std::to_string(68.0 + 0.01 * i) + " MHz";
            goal.to = std::to_string(73.0 + 0.013 * i) + " MHz";
            d.tune.goals.push_back(goal);
        }
    });
    REQUIRE(waitFor([&] { return w.session().settled(); }));
    QTest::qWait(1200);
    REQUIRE_FALSE(w.bench.settled());
    w.bench.stop();
    CHECK(w.bench.settled());
    CHECK(view->now().problem.contains("stopped"));
    w.document().editDesign("Fewer", [](model::Design& d) { d.tune.goals.resize(3); });
    w.settle();
    CHECK(view->now().problem.isEmpty());
    CHECK(view->now().goals.size() == 3);
    // Coming back is enough, too.
    w.document().undo();
    REQUIRE(waitFor([&] { return w.session().settled(); }));
    QTest::qWait(1200);
    w.bench.stop();
    REQUIRE(view->now().problem.contains("stopped"));
    w.action("Tune")->trigger();
    CHECK_FALSE(w.bench.settled());
    w.settle();
    CHECK(view->now().goals.size() == kGoals);
}

TEST_CASE("a tuning that ends while another design is on the bench waits there as it was found") {
    TuneWindow w;
    w.easyPlan();
    w.click(w.view().start());
    w.chooseDesign("Ground plane, 30 m");
    w.waitForTune();
    CHECK(w.view().proposal() == nullptr);
    w.chooseDesign("Yagi, 70 MHz");
    REQUIRE(w.view().proposal() != nullptr);
    const int row = static_cast<int>(w.document().project().pins.size()) + 1;
    CHECK(w.ledger()->figure("design", row) == "proposal");
    CHECK(w.ledger()->figure("SWR in band", row) != w.ledger()->figure("SWR in band"));
    const auto built = w.view().proposal()->result.builtValues;
    CHECK(w.view().table()->chosen() == built);
    // What is unticked is ticked again after it has been away, and so is what is shown.
    const QString all = w.ledger()->figure("SWR in band", row);
    w.view()
        .table()
        ->item(w.view().table()->rowOf("driven"), app::ProposalTable::Name)
        ->setCheckState(Qt::Unchecked);
    w.settle();
    CHECK(w.ledger()->figure("SWR in band", row) != all);
    w.chooseDesign("Ground plane, 30 m");
    w.chooseDesign("Yagi, 70 MHz");
    CHECK(w.view().table()->chosen() == built);
    CHECK(w.ledger()->figure("SWR in band", row) == all);
    // What lies over another design leaves the figures of this one alone.
    auto& session = w.bench.session();
    const auto trial = session.trial();
    REQUIRE(trial);
    session.setTrial(trial);
    CHECK_FALSE(session.settled());
    w.chooseDesign("Ground plane, 30 m");
    w.settle();
    session.setTrial(std::nullopt);
    session.setTrial(trial);
    CHECK(session.settled());
    w.document().undoStack()->setClean();
}

TEST_CASE("another project ends the tuning of the old one; a ratio comes with the list that is wound") {
    TuneWindow w;
    w.document().undoStack()->setClean();
    w.click(w.view().start());
    REQUIRE(waitFor([&] { return !w.view().history()->steps().empty(); }));
    REQUIRE(w.bench.files().open(kDemo));
    REQUIRE(waitFor([&] { return !w.stage<app::TuneStage>("tune").tuning(); }));
    w.settle();
    CHECK(w.view().proposal() == nullptr);
    CHECK(w.view().start()->isVisible());
    CHECK_FALSE(w.view().stop()->isVisible());
    w.chooseDesign("End-fed, inverted L");
    w.bench.openStage("tune");
    w.settle();
    // A goal that counts bands shows each of them.
    const auto row = w.view().rows()->rows().at(0);
    CHECK(row.sentence == "SWR at the radio at most 2 on as many bands as possible");
    CHECK(row.bands.size() == 4);
    CHECK(row.verdict.contains("of 4 bands"));
    CHECK(row.tip.contains("on 30 m"));
    w.trigger(w.view().others()->menu(), "Transformer: ratio");
    auto* table = w.view().movers();
    const int ratio = table->rowOf("Transformer_ratio");
    REQUIRE(ratio >= 0);
    CHECK(table->item(ratio, app::MoverTable::Now)->text() == "25");
    CHECK(table->item(ratio, app::MoverTable::Step)->text().contains("16, 25, 36"));
    CHECK(table->item(ratio, app::MoverTable::Low)->text() == "–");
    CHECK(w.document().design().feedPath[0].ratio == "Transformer_ratio");
    // A list of one is refused where the eye is.
    w.typeCell(table, ratio, app::MoverTable::Step, "49,");
    CHECK(w.view().now().problem.contains("fewer than two"));
    w.document().undoStack()->setClean();
}

TEST_CASE("from an empty project: a goal, a dimension, tuned, accepted, and every mistake said on the way") {
    TuneWindow w;
    w.document().undoStack()->setClean();
    w.document().startNew();
    w.bench.openStage("tune");
    w.settle();
    const auto shot = [&](const char* name) {
        const auto folder = qEnvironmentVariable("REEDMAST_TEST_PICTURES");
        if (!folder.isEmpty()) w.bench.grab().save(folder + "/" + name + ".png");
    };
    shot("new");
    // Nothing to tune for, and it says what comes first.
    CHECK_FALSE(w.view().start()->isEnabled());
    CHECK(w.view().start()->toolTip() == "Add a goal first");
    w.trigger(w.view().addGoal()->menu(), "SWR at the radio at most 1.5");
    CHECK_FALSE(w.view().start()->isEnabled());
    CHECK(w.view().start()->toolTip() == "Tick first what may move");
    shot("goal");
    auto* table = w.view().movers();
    REQUIRE(table->rowOf("span") == 0);
    table->item(0, app::MoverTable::Name)->setCheckState(Qt::Checked);
    w.settle();
    CHECK(w.view().start()->isEnabled());
    // A limit of one is no SWR, letters are no number.
    w.typeInto(w.view().form()->limit(), "1");
    CHECK(w.view().now().problem.contains("has to be above 1"));
    w.typeInto(w.view().form()->limit(), "low");
    CHECK(w.view().now().problem.contains("goal for SWR"));
    shot("mistake");
    w.click(w.view().start());
    w.waitForTune();
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("goal for SWR"));
    CHECK(w.view().proposal() == nullptr);
    CHECK(w.view().start()->isVisible());
    w.typeInto(w.view().form()->limit(), "1.3");
    w.trigger(w.view().form()->where()->menu(), "a range of frequencies");
    w.typeInto(w.view().form()->from(), "14.15");
    w.typeInto(w.view().form()->to(), "14.2");
    w.typeDimension("span", "9 m");
    w.settle();
    CHECK(w.verdict(0).contains("too much"));
    w.click(w.view().start());
    w.waitForTune();
    REQUIRE(w.view().proposal() != nullptr);
    shot("proposal");
    w.click(w.view().accept());
    w.settle();
    shot("accepted");
    // In the unit that was typed, on a step that can be built.
    const QString span = w.dimensionText("span");
    CHECK(span.endsWith(" m"));
    const double metres = span.section(' ', 0, 0).toDouble();
    CHECK(std::abs(1000.0 * metres - std::round(1000.0 * metres)) < 1e-6);
    CHECK(w.sweep()->worstSwr() < 10.0);
    // The wish stays, the wire does not: undo takes the lengths back.
    w.undo();
    CHECK(w.dimensionText("span") == "9 m");
    CHECK(w.plan().goals.size() == 1);
}
