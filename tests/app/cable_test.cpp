// Cable runs, chokes and the field close to the antenna on the bench, driven as a designer would.
#include <QCheckBox>
#include <QFile>
#include <QLabel>
#include <QTableWidget>
#include <QToolButton>
#include <cmath>

#include "../journeys/journey.h"
#include "app/stages/chokes/choke_view.h"
#include "app/stages/clear/clear_view.h"
#include "app/stages/clear/zone_view.h"
#include "app/stages/field/field_view.h"
#include "app/stages/parts/parts_view.h"
#include "core/model/rename.h"
#include "core/study/balance.h"

using namespace rm;
using namespace rm::test;

namespace {

/// A dipole at 8 m from an empty project, with a cable run hanging from it.
struct Garden : Journey {
    Garden() {
        site("average", "8 m");
        menu("Outside of the feed line: a cable run");
        settle();
    }
    model::CableRun run() { return std::get<model::CableRun>(design().parts.back().shape); }
    app::FieldView* field() {
        bench.openStage("field");
        auto* view = find<app::FieldView>();
        REQUIRE(waitFor([&] { return view->canvas()->map() != nullptr && bench.settled(); }));
        return view;
    }
};

}  // namespace

TEST_CASE("a cable run is added from the menu, bent by hand, and says what it costs") {
    Garden w;
    w.sound();
    REQUIRE(w.session().expansion()->runs.size() == 1);
    CHECK(w.run().feed == "Feed");
    w.type("Down to", "0.5 m");
    CHECK(w.run().level == "0.5 m");
    w.press("Add point");
    REQUIRE(w.run().points.size() == 1);
    w.type("Point 1, forward", "-12 m");
    w.choose("Ends", "1");
    w.type("Rod", "1.2 m");
    CHECK(w.run().end == model::RunEnd::Rod);
    w.sound();
    // In the yard: how much of the current, what it takes, and by how much it detunes.
    REQUIRE(waitFor([&] { return w.yard()->remarks().join(" ").contains("Cable run carries"); }));
    CHECK(w.yard()->remarks().join(" ").contains("% of the feed current"));
    // Above the feed it cannot come down.
    w.type("Down to", "500 m");
    CHECK(w.notice()->sentence().contains("is to come down to 500.00 m"));
    w.undo();
    w.sound();
    w.thereAndBack();
}

TEST_CASE("a choke takes the current off the cable, and its impedance costs no field solution") {
    Garden w;
    w.type("Down to", "2.7 m");
    w.settle();
    const auto share = [&] {
        const auto all = study::balanceOf(*w.session().results()->expansion, *w.analysis());
        REQUIRE(all.size() == 1);
        return all.front().share();
    };
    const double before = share();
    CHECK(before > 0.05);
    w.menu("Add a load");
    w.settle();
    REQUIRE(w.design().loads.size() == 1);
    CHECK(w.design().loads[0].name == "Choke");
    CHECK(w.design().loads[0].part == "Cable run");
    CHECK(share() < 0.2 * before);
    // Another impedance is closed on the same ports.
    const int solutions = w.session().solutions();
    w.type("R in ohm", "50");
    CHECK(share() > 0.3 * before);
    CHECK(w.session().solutions() == solutions);
    w.choose("Elements", "3");
    w.type("Turns", "12");
    CHECK(w.design().loads[0].turns == "12");
    CHECK(share() < 0.3 * before);
    // It says what it gets, and when that is too much.
    w.type("Stands, W", "0.0001");
    CHECK(waitFor([&] { return w.yard()->remarks().join(" ").contains("more than the 0.0001 W"); }));
    w.sound();
    // In the Match mode the balance of the feed stands under the path.
    w.bench.openStage("match");
    w.settle();
    auto* balance = w.bench.findChild<QLabel*>("balance");
    REQUIRE(balance != nullptr);
    CHECK(waitFor([&] { return balance->text().contains("down the outside of Cable run"); }));
    CHECK(balance->text().contains("Choke:"));
    w.thereAndBack();
}

TEST_CASE("a choke takes its impedance from a file; what is none is refused in a sentence") {
    Garden w;
    w.menu("Add a load");
    w.settle();
    const QTemporaryDir folder;
    const auto file = [&](const char* name, const char* words) {
        QFile out(folder.filePath(name));
        REQUIRE(out.open(QIODevice::WriteOnly));
        out.write(words);
        return folder.filePath(name);
    };
    const model::Id load = w.design().loads[0].id;
    w.editing().readTable(load,
                          file("choke.csv", "frequency MHz;R;X\n1;20;300\n14;2500;800\n30;900;-1500\n"));
    w.settle();
    CHECK(w.design().loads[0].form == model::LoadForm::Table);
    CHECK(w.design().loads[0].table.size() == 3);
    CHECK(w.design().loads[0].tableFile == "choke.csv");
    w.sound();
    w.editing().readTable(load, file("choke.s1p", "# MHz Z RI R 50\n1 0.4 6\n30 18 -30\n"));
    w.settle();
    REQUIRE(w.design().loads[0].table.size() == 2);
    CHECK(w.design().loads[0].table[1].ohm.real() == Approx(900.0));
    const auto before = w.document().share();
    w.editing().readTable(load, file("swr.csv", "frequency MHz;SWR\n1;1.5\n30;3\n"));
    CHECK(w.notice()->sentence().contains("no impedances"));
    w.editing().readTable(load, folder.filePath("none.csv"));
    CHECK(w.notice()->sentence().contains("none.csv"));
    w.editing().readTable(load, {});
    CHECK(w.document().project() == *before);
}

TEST_CASE("pinned with and without its cable an antenna is compared with itself") {
    Garden w;
    w.select(w.item(app::Selection::Type::Part, w.design().parts.size() - 1));
    w.editing().pinWithAndWithout();
    w.settle();
    const auto& pins = w.document().project().pins;
    REQUIRE(pins.size() == 2);
    CHECK(pins[0].design.parts.back().enabled != pins[1].design.parts.back().enabled);
    CHECK_FALSE(w.ledger()->figure("SWR", 1).isEmpty());
    CHECK_FALSE(w.ledger()->figure("SWR", 2).isEmpty());
}

TEST_CASE("removing what a run hangs from says so, and a run of another feed follows its name") {
    Garden w;
    auto d = w.document().share();
    w.document().editDesign("Rename", [](model::Design& design) { model::renameFeed(design, 0, "Centre"); });
    w.settle();
    CHECK(w.run().feed == "Centre");
    w.sound();
    w.session().select(w.item(app::Selection::Type::Feed));
    w.menu("Remove selected");
    w.settle();
    CHECK(model::hasError(w.session().expansion()->findings));
    w.undo();
    w.settle();
    w.sound();
}

TEST_CASE("the field close to the antenna: planes, parts, values, and what the pointer reads") {
    Window w;
    w.bench.openStage("field");
    auto* view = w.find<app::FieldView>();
    REQUIRE(waitFor([&] { return view->canvas()->map() != nullptr && w.bench.settled(); }));
    const auto* map = view->canvas()->map();
    CHECK(map->antennaW > 0.0);
    CHECK_FALSE(map->place.upright);
    const auto pointAt = [&](double column, double row) {
        const QPointF at = view->canvas()->placeOf(column, row);
        QMouseEvent move(QEvent::MouseMove, at, view->canvas()->mapToGlobal(at), Qt::NoButton, Qt::NoButton,
                         Qt::NoModifier);
        QApplication::sendEvent(view->canvas(), &move);
        return view->line();
    };
    CHECK(pointAt(80, 80).contains("V/m"));
    CHECK(pointAt(80, 80).contains("rms"));
    CHECK(pointAt(80, 80).contains("1.8 m up"));
    // Peak values are larger.
    const auto first = [](const QString& words) { return words.section(' ', 0, 0).toDouble(); };
    const double rms = first(pointAt(60, 100));
    auto* values = view->findChildren<QComboBox*>().at(2);
    values->setCurrentIndex(1);
    Q_EMIT values->activated(1);
    CHECK(first(pointAt(60, 100)) > 1.2 * rms);
    // Along a line that is drawn with the mouse: its ends are what the pointer reads there.
    auto* canvas = view->canvas();
    CHECK(canvas->alongLine().empty());
    QTest::mousePress(canvas, Qt::LeftButton, {}, canvas->placeOf(40, 60).toPoint());
    QMouseEvent move(QEvent::MouseMove, canvas->placeOf(120, 60),
                     canvas->mapToGlobal(canvas->placeOf(120, 60)), Qt::NoButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(canvas, &move);
    QTest::mouseRelease(canvas, Qt::LeftButton, {}, canvas->placeOf(120, 60).toPoint());
    const auto along = canvas->alongLine();
    REQUIRE(along.size() > 100);
    CHECK(along.back().first == Approx(80.0 * map->plane.rightM.norm()).epsilon(0.02));
    CHECK(along.front().second == Approx(first(pointAt(40, 60))).epsilon(0.05));
    CHECK(along.back().second == Approx(first(pointAt(120, 60))).epsilon(0.05));
    // A part of it beside the whole.
    auto* part = view->findChildren<QComboBox*>().at(1);
    part->setCurrentIndex(3);
    Q_EMIT part->activated(3);
    CHECK(pointAt(60, 100).contains("of it upright"));
    CHECK_FALSE(pointAt(60, 100).contains("estimate"));
    part->setCurrentIndex(0);
    Q_EMIT part->activated(0);
    // Upright, another plane comes.
    auto* plane = view->findChildren<QComboBox*>().at(4);
    plane->setCurrentIndex(1);
    Q_EMIT plane->activated(1);
    REQUIRE(waitFor([&] { return view->canvas()->map()->place.upright; }));
    CHECK(view->canvas()->map()->plane.at(0, 0).z() == 0.0);
    // Nonsense in a number is put back.
    QLineEdit* height = nullptr;
    for (auto* field : view->findChildren<QLineEdit*>())
        if (field->accessibleName() == "Height in m") height = field;
    REQUIRE(height != nullptr);
    height->setText("inf");
    Q_EMIT height->editingFinished();
    CHECK(height->text() == "1.8");
    // Through the period and back, while the antenna changes under it.
    auto* animate = view->findChildren<QCheckBox*>().at(0);
    animate->setChecked(true);
    CHECK(view->canvas()->animated());
    w.session().select({app::Selection::Type::Site});
    const auto* before = view->canvas()->map();
    w.type("Height", "3 m");
    CHECK(waitFor([&] { return view->canvas()->map() != before && w.bench.settled(); }));
    animate->setChecked(false);
    CHECK_FALSE(view->canvas()->animated());
}

TEST_CASE("the field lies in the yard while its switch is on, and follows the antenna") {
    Window w;
    CHECK_FALSE(w.yard()->showsField());
    auto* on = w.bench.findChild<QAction*>("field");
    REQUIRE(on != nullptr);
    on->setChecked(true);
    REQUIRE(waitFor([&] { return w.yard()->showsField() && w.bench.settled(); }));
    CHECK(w.yard()->state().fieldCaption.contains("V/m, at 1.8 m"));
    const QString before = w.yard()->state().fieldCaption;
    w.session().select({app::Selection::Type::Site});
    w.type("Height", "1 m");
    CHECK(waitFor([&] { return w.yard()->state().fieldCaption != before && w.bench.settled(); }));
    on->setChecked(false);
    CHECK_FALSE(w.yard()->showsField());
}

TEST_CASE("keep clear: the zones from above are those of the band that is looked at") {
    Window w;
    w.chooseDesign("End-fed, inverted L");
    w.bench.openStage("clear");
    auto* view = w.find<app::ClearView>();
    REQUIRE(waitFor([&] { return view->table() != nullptr && w.bench.settled(); }));
    int seen = 0;
    const auto bands = w.document().project().bands;
    for (std::size_t b = 0; b < bands.size(); ++b) {
        const auto& rows = view->table()->rows;
        if (std::none_of(rows.begin(), rows.end(), [&](const auto& r) { return r.band == bands[b].name; }))
            continue;
        w.session().chooseBand(static_cast<int>(b));
        REQUIRE(waitFor([&] { return w.bench.settled(); }));
        CHECK(view->zones()->band().toStdString() == bands[b].name);
        CHECK_FALSE(view->zones()->lens().isEmpty());
        ++seen;
    }
    CHECK(seen == 4);
}

TEST_CASE("keep clear: distances on every band, in the strip, in the map, and old when something changes") {
    Window w;
    w.bench.openStage("clear");
    auto* view = w.find<app::ClearView>();
    REQUIRE(waitFor([&] { return view->table() != nullptr && w.bench.settled(); }));
    REQUIRE(view->table()->complete);
    CHECK(view->rows()->rowCount() == static_cast<int>(view->table()->rows.size()));
    CHECK(view->rows()->rowCount() >= 2);
    CHECK(w.session().clear() != nullptr);
    // At another power, which is that of the project.
    QLineEdit* power = nullptr;
    for (auto* field : view->findChildren<QLineEdit*>())
        if (field->accessibleName() == "Power in W") power = field;
    REQUIRE(power != nullptr);
    power->setText("200 and a half");
    Q_EMIT power->editingFinished();
    CHECK(power->text() == "100");
    power->setText("200");
    Q_EMIT power->editingFinished();
    CHECK(w.document().project().powerW == 200.0);
    REQUIRE(waitFor([&] { return w.bench.settled() && view->table()->radioW == 200.0; }));
    // More power reaches farther; the table is worked out again with other rules, as one step of undo.
    const auto farthest = [&] {
        double most = 0.0;
        for (const auto& row : view->table()->rows)
            most = std::max(most, std::max(row.head.fromMiddleM, row.window.fromMiddleM));
        return most;
    };
    const double before = farthest();
    auto* limits = view->findChildren<QComboBox*>().at(0);
    limits->setCurrentIndex(3);
    Q_EMIT limits->activated(3);
    QLineEdit* own = nullptr;
    for (auto* field : view->findChildren<QLineEdit*>())
        if (field->accessibleName() == "V/m") own = field;
    REQUIRE(own != nullptr);
    own->setText("8");
    Q_EMIT own->editingFinished();
    REQUIRE(waitFor([&] {
        return w.bench.settled() && view->table()->rules.limits == model::LimitSet::Own &&
               view->table()->rules.ownVm == 8.0;
    }));
    CHECK(before > 0.0);
    CHECK(farthest() > 1.5 * before);
    // Seen from above, and in the yard.
    CHECK(view->zones()->pieces() > 10);
    CHECK(view->zones()->lens().isEmpty());
    CHECK_FALSE(w.yard()->state().keep.empty());
    // The map draws the line of the limit.
    view->findChild<QToolButton*>("clearMap")->click();
    auto* field = w.find<app::FieldView>();
    REQUIRE(waitFor([&] { return field->canvas()->map() != nullptr && w.bench.settled(); }));
    field->findChildren<QCheckBox*>().at(1)->setChecked(true);
    CHECK(field->canvas()->limitPieces() > 10);
    CHECK(field->line().contains("limits of your own"));
    // Another antenna: the distances in the strip go, and the table says that it is old.
    w.session().select({app::Selection::Type::Site});
    w.type("Height", "5 m");
    CHECK(w.session().clear() == nullptr);
    w.bench.showStage("clear");
    CHECK(view->stale());
}

TEST_CASE("the choke study: a click puts the choke there, or makes it that large") {
    Garden w;
    w.type("Down to", "2.7 m");
    w.bench.openStage("chokes");
    auto* plots = w.find<app::ChokePlots>();
    REQUIRE(waitFor([&] { return plots->study() != nullptr && w.bench.settled(); }));
    CHECK(plots->study()->choke.empty());
    CHECK(w.find<app::ChokeView>()->line().startsWith("Best "));
    QTest::mouseClick(plots, Qt::LeftButton, {}, plots->placeOf(0, 0).toPoint());
    w.settle();
    REQUIRE(w.design().loads.size() == 1);
    CHECK(w.design().loads[0].place.value == "0.00 m");
    CHECK(w.find<app::ChokeView>()->stale());
    w.bench.openStage("chokes");
    REQUIRE(waitFor([&] { return plots->study()->choke == "Choke" && w.bench.settled(); }));
    QTest::mouseClick(plots, Qt::LeftButton, {}, plots->placeOf(1, 15).toPoint());
    w.settle();
    CHECK(w.design().loads.size() == 1);
    CHECK(w.design().loads[0].resistance == "316");
    w.sound();
    w.thereAndBack();
}

TEST_CASE("what each part does: a row for each, and a pin without the ticked ones") {
    Garden w;
    w.menu("Nearby: mast or tower");
    w.settle();
    w.bench.openStage("parts");
    auto* view = w.find<app::PartsView>();
    REQUIRE(waitFor([&] { return view->effects() != nullptr && w.bench.settled(); }));
    // The whole, the cable, the mast, both.
    REQUIRE(view->table()->rowCount() == 4);
    CHECK(view->table()->item(1, 0)->text() == "Cable run");
    CHECK(view->table()->item(3, 0)->text() == "all of these");
    CHECK(view->line().contains("Mast"));
    view->table()->item(2, 0)->setCheckState(Qt::Checked);
    CHECK(view->ticked() == std::vector<std::string>{"Mast"});
    view->findChild<QToolButton*>("pinWithout")->click();
    w.settle();
    REQUIRE(w.document().project().pins.size() == 1);
    CHECK(w.document().project().pins[0].name.find("without Mast") != std::string::npos);
    CHECK_FALSE(w.ledger()->figure("SWR", 1).isEmpty());
}
