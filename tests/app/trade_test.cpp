// The page of trade-offs in the real window: swept, looked at, taken, pinned, stopped.
#include "app/session/editing.h"
#include "app/stages/tune/trade_plot.h"
#include "app/stages/tune/trade_view.h"
#include "tune_window.h"

using namespace rm;
using namespace rm::test;

namespace {

struct TradeWindow : TuneWindow {
    TradeWindow() {
        easyPlan();
        // Two answers that differ: less SWR, less gain.
        document().editDesign("Gain", [](model::Design& d) {
            model::Goal gain;
            gain.kind = model::GoalKind::Gain;
            gain.stage = 2;
            d.tune.goals.push_back(gain);
        });
        bench.openStage("tune", 4);
        settle();
        REQUIRE(page().isVisible());
    }
    app::TradeView& page() { return *find<app::TradeView>(); }
    void waitForTrade() {
        QElapsedTimer clock;
        clock.start();
        while (page().run()->text() != "Trade" && clock.elapsed() < 120000)
            QApplication::processEvents(QEventLoop::AllEvents, 20);
        REQUIRE(page().run()->text() == "Trade");
        settle();
    }
};

}  // namespace

TEST_CASE("a trade-off: swept, a point looked at, taken in one step, pinned") {
    TradeWindow w;
    auto& page = w.page();
    CHECK(page.swept()->currentText() == "SWR at the radio at most");
    page.points()->setValue(3);
    page.from()->setText("1.1");
    QTest::keyClick(page.from(), Qt::Key_Return);
    CHECK(page.run()->text() == "Stop");
    CHECK(page.said().contains("antennas found so far"));
    w.waitForTrade();
    REQUIRE(page.trade() != nullptr);
    REQUIRE(page.trade()->points.size() == 3);
    CHECK(page.shown()->currentText().startsWith("gain as high as possible"));
    CHECK(page.said().startsWith("Filled: every goal is met there"));
    CHECK_FALSE(page.take()->isEnabled());
    // A click beside the points chooses nothing, one on a point does.
    QTest::mouseClick(page.plot(), Qt::LeftButton, {}, QPoint(3, 3));
    CHECK(page.chosenPoint() == nullptr);
    QTest::mouseClick(page.plot(), Qt::LeftButton, {}, page.plot()->placeOf(1).toPoint());
    REQUIRE(page.chosenPoint() != nullptr);
    CHECK(page.said().contains("gain "));
    QTest::keyClick(page.plot(), Qt::Key_Right);
    CHECK(page.plot()->chosen() == 2U);
    QTest::keyClick(page.plot(), Qt::Key_Right);
    CHECK(page.plot()->chosen() == 2U);
    const study::TradePoint point = *page.chosenPoint();
    const auto before = w.document().design();
    const auto pins = w.document().project().pins.size();
    w.click(page.pin());
    REQUIRE(w.document().project().pins.size() == pins + 1);
    CHECK(
        QString::fromStdString(w.document().project().pins.back().name).contains("SWR at the radio at most"));
    CHECK(w.document().design().dimensions == before.dimensions);
    w.click(page.take());
    w.settle();
    CHECK(std::stod(w.plan().goals[0].limit) == Approx(point.value));
    const auto values = model::scopeOf(w.document().design()).values;
    for (const auto& [name, value] : point.values) CHECK(values.at(name) == Approx(value).margin(1e-9));
    // What it moves may be anything, the rest not.
    CHECK_FALSE(page.said().startsWith("Of an older design"));
    w.undo();
    CHECK(w.document().design().dimensions == before.dimensions);
    CHECK(w.plan().goals[0].limit == before.tune.goals[0].limit);
    w.document().editDesign("Height", [](model::Design& d) { d.site.height = "31 m"; });
    w.settle();
    CHECK(page.said().startsWith("Of an older design"));
    w.undo();
    w.settle();
    CHECK_FALSE(page.said().startsWith("Of an older design"));
    // Another design is not what the curve is of.
    w.chooseDesign("Ground plane, 30 m");
    w.settle();
    CHECK(page.trade() == nullptr);
    CHECK_FALSE(page.take()->isEnabled());
    CHECK_FALSE(page.run()->isEnabled());
    CHECK(page.run()->toolTip().contains("Add a goal with a number"));
}

TEST_CASE("a trade-off wants a second goal, and says so") {
    TradeWindow w;
    w.document().editDesign("One goal", [](model::Design& d) { d.tune.goals.resize(1); });
    w.settle();
    w.click(w.page().run());
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("add a second goal"));
    CHECK(w.page().run()->text() == "Trade");
}

TEST_CASE("a trade-off can be stopped, and says what it cannot read") {
    TradeWindow w;
    auto& page = w.page();
    w.typeInto(page.to(), "0.5");
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("from a lower to a higher value"));
    w.typeInto(page.to(), "lots");
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("range of the trade-off"));
    CHECK(page.run()->text() == "Trade");
    page.points()->setValue(25);
    page.to()->setText("1.6");
    w.click(page.run());
    REQUIRE(page.run()->text() == "Stop");
    w.click(page.run());
    w.waitForTrade();
    CHECK(page.trade()->stopped);
}
