// The studies beside tuning in the real window: what matters, tolerance, scans.
#include <QImage>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/stages/tune/plan_rows.h"
#include "app/stages/tune/plan_words.h"
#include "tune_window.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("what matters: a row for every dimension, sorted by what is clicked, leading to the dimension") {
    TuneWindow w;
    w.click(w.find<app::TunePages>()->tab(1));
    auto* plot = w.find<app::MattersView>()->plot();
    REQUIRE(waitFor([&] { return !plot->rows().empty(); }));
    w.settle();
    CHECK(plot->rows().size() == 10);
    CHECK(std::abs(plot->rows()[0].swr) >= std::abs(plot->rows()[9].swr));
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->headRect(app::MattersPlot::Rear).center());
    CHECK(std::abs(plot->rows()[0].frontToRearDb) >= std::abs(plot->rows()[1].frontToRearDb));
    const auto first = plot->rows()[0];
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->rowRect(0).center());
    const auto selected = w.session().selection();
    CHECK(selected.type == app::Selection::Type::Dimension);
    CHECK(edit::nameOf(w.document().design(), selected) == first.dimension);
    // Ten times the step, ten times the change.
    auto* steps = w.find<app::MattersView>()->steps();
    steps->setCurrentIndex(1);
    Q_EMIT steps->activated(1);
    w.settle();
    for (const auto& row : plot->rows())
        if (row.dimension == first.dimension)
            CHECK(row.gainDb == Approx(10.0 * first.gainDb).epsilon(0.2).margin(0.005));
    // It follows the design.
    const double before = plot->rows()[0].swr;
    w.typeDimension("driven", "1900 mm");
    w.settle();
    CHECK(plot->rows()[0].swr != before);
}

TEST_CASE(
    "tolerance: builds with errors of a stated size, the share that meets the goals, fields that say why") {
    TuneWindow w;
    w.easyPlan();
    w.document().editDesign("Plan", [](model::Design& d) { d.tune.goals[0].limit = "1.5"; });
    w.settle();
    w.click(w.find<app::TunePages>()->tab(2));
    auto& view = *w.find<app::ToleranceView>();
    w.typeInto(view.field("errBuilds"), "2");
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("between 5 and 5000"));
    w.typeInto(view.field("errBuilds"), "20");
    w.settle();
    CHECK(view.plot()->result().builds == 20);
    CHECK(view.sentence().contains("of 20 builds meet every goal"));
    const auto careless = view.plot()->result();
    w.typeInto(view.field("errLength"), "wide");
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("error of the lengths"));
    // Well measured, the curves lie closer together.
    w.typeInto(view.field("errLength"), "0.2 mm");
    w.typeInto(view.field("errDiameter"), "0 %");
    const auto careful = view.plot()->result();
    CHECK(careful.meeting == 20);
    CHECK(careful.meeting >= careless.meeting);
    CHECK(careful.highSwr[10] - careful.lowSwr[10] < careless.highSwr[10] - careless.lowSwr[10]);
    CHECK(careful.drawnSwr[10] == Approx(w.sweep()->points[20].swr).margin(0.01));
    // Which dimensions err.
    QAction* every = TuneWindow::actionOf(view.which()->menu(), "every dimension");
    REQUIRE(every != nullptr);
    CHECK(every->isChecked());
    TuneWindow::actionOf(view.which()->menu(), "refl")->trigger();
    CHECK(view.which()->text() == "on 9 of them");
    CHECK_FALSE(TuneWindow::actionOf(view.which()->menu(), "refl")->isChecked());
    TuneWindow::actionOf(view.which()->menu(), "every dimension")->trigger();
    CHECK(view.which()->text() == "on every dimension");
    // Other errors, another design: said to be old, until it is as it was.
    const QString fresh = view.sentence();
    view.field("errHeight")->setText("1 m");
    CHECK(view.sentence().startsWith("Of other errors"));
    CHECK_FALSE(view.plot()->isEnabled());
    view.field("errHeight")->setText("0.1 m");
    CHECK(view.sentence() == fresh);
    w.typeDimension("driven", "1900 mm");
    w.settle();
    CHECK(view.sentence().startsWith("Of an older design"));
    w.undo();
    w.settle();
    CHECK(view.sentence() == fresh);
    CHECK(view.plot()->isEnabled());
}

TEST_CASE("a scan over one dimension and a map over two; a click sets what was clicked") {
    TuneWindow w("Inverted V, 60 m");
    w.click(w.find<app::TunePages>()->tab(3));
    auto& view = *w.find<app::ScanView>();
    const auto choose = [&](QComboBox* combo, const QString& text) {
        const int index = combo->findText(text);
        REQUIRE(index >= 0);
        combo->setCurrentIndex(index);
        Q_EMIT combo->activated(index);
    };
    choose(view.dimension(0), "leg");
    w.typeInto(view.from(0), "12 m");
    w.typeInto(view.to(0), "15 m");
    w.click(view.run());
    w.settle();
    const auto& scan = view.plot()->scan();
    REQUIRE(scan.value.size() == 41);
    // Its middle is the antenna with that leg.
    const auto there = study::analyse(model::expand(study::withDimension(w.document().design(), "leg", 13.5)),
                                      w.session().frequencyHz());
    CHECK(scan.value[20] == Approx(there.figures.swr).epsilon(1e-6));
    QTest::mouseClick(view.plot(), Qt::LeftButton, {}, view.plot()->at(20, 0).toPoint());
    w.settle();
    CHECK(model::scopeOf(w.document().design()).values.at("leg") == Approx(13.5).margin(0.02));
    w.undo();
    // Two: a map.
    choose(view.dimension(1), "leg");
    w.click(view.run());
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("Both dimensions are the same"));
    choose(view.dimension(1), "spread");
    choose(view.figures(), "R");
    w.typeInto(view.from(1), "90 deg");
    w.typeInto(view.to(1), "150 deg");
    w.settle();
    REQUIRE(view.plot()->scan().y.count == 21);
    QTest::mouseClick(view.plot(), Qt::LeftButton, {}, view.plot()->at(10, 20).toPoint());
    w.settle();
    const auto values = model::scopeOf(w.document().design()).values;
    CHECK(values.at("spread") == Approx(150.0).margin(0.5));
    CHECK(values.at("leg") == Approx(13.5).margin(0.02));
    // R has no best; the gain at a watch angle is one of the figures.
    choose(view.figures(), "gain at 10°");
    choose(view.dimension(1), "nothing else");
    w.click(view.run());
    w.settle();
    const auto live = w.analysis()->elevation.at(10.0);
    const auto& gains = view.plot()->scan().value;
    CHECK(live >= *std::min_element(gains.begin(), gains.end()) - 0.1);
    CHECK(live <= *std::max_element(gains.begin(), gains.end()) + 0.1);
    // It is of the design with any leg, but of no other one.
    const auto* said = view.findChild<QLabel*>("scanSaid");
    w.typeDimension("leg", "13 m");
    w.settle();
    CHECK(view.plot()->isEnabled());
    w.typeDimension("spread", "100 deg");
    w.settle();
    CHECK_FALSE(view.plot()->isEnabled());
    CHECK(said->text().startsWith("Of an older design"));
    w.undo();
    w.settle();
    CHECK(view.plot()->isEnabled());
    CHECK(said->text().startsWith("gain at 10"));
    w.typeInto(view.to(0), "11 m");
    CHECK(w.bench.findChild<app::NoticeBar*>()->sentence().contains("from a lower to a higher value"));
}

TEST_CASE("tuning refuses a time or a seed that is none, says so, and takes it back when it is mended") {
    TuneWindow w;
    const auto field = [&](const char* name) { return w.view().findChild<QLineEdit*>(name); };
    field("tuneSeconds")->setText("abc");
    w.click(w.view().start());
    CHECK(w.notice()->sentence().contains("number of seconds"));
    CHECK_FALSE(w.view().pause()->isVisible());
    field("tuneSeconds")->setText("1");
    field("tuneSeed")->setText("-3");
    w.click(w.view().start());
    CHECK(w.notice()->sentence().contains("whole number"));
    // What is said of the project as it is goes with the next change.
    w.typeDimension("d1", "1960 mm");
    CHECK(w.notice()->sentence().isEmpty());
}

TEST_CASE("a verdict on a goal is whole, however long it is") {
    app::PlanRows rows;
    rows.resize(560, app::PlanRows::kRowHeight);
    app::PlanRow row;
    row.sentence = "SWR at the radio at most 1.5 on every band";
    row.note = "important";
    row.now = "> 99 on 40 m";
    const auto inkFrom = [&](const QString& verdict) {
        row.verdict = verdict;
        rows.setRows({row});
        const QImage image = rows.grab().toImage();
        const QColor clay = app::Theme::light().clay;
        for (int x = 0; x < image.width(); ++x)
            for (int y = 20; y < 34; ++y) {
                const QColor c = image.pixelColor(x, y);
                if (std::abs(c.red() - clay.red()) + std::abs(c.green() - clay.green()) < 40) return x;
            }
        return image.width();
    };
    for (const QString verdict : {"far too much, on 4 of 4 bands", "0.12 too much", "met"}) {
        INFO(verdict.toStdString());
        const int advance = QFontMetrics(app::textFont(app::kTinyPt, true)).horizontalAdvance(verdict);
        CHECK(inkFrom(verdict) == Approx(rows.width() - 4 - advance).margin(4.0));
    }
}

TEST_CASE("limits of what is built are read in the unit of the project") {
    model::BuildLimit limit;
    limit.kind = model::LimitKind::HighestPoint;
    limit.value = "10 m";
    app::writeInFeet(true);
    const auto feet = app::limitRow(limit, 10.0, 12.0, std::nullopt);
    app::writeInFeet(false);
    CHECK(feet.now == "39' 4 1/2\"");
    CHECK(feet.verdict == "6' 6 3/4\" too much");
    CHECK(app::limitRow(limit, 10.0, 12.0, std::nullopt).now == "12.000 m");
}
