// A project in feet and inches is read in them, everywhere at once.
#include "app/look/lengths.h"
#include "app/look/painted_words.h"
#include "app/look/typed_number.h"
#include "app/stages/clear/clear_view.h"
#include "app/stages/currents/current_view.h"
#include "app/stages/heights/height_view.h"
#include "app/stages/radials/radial_view.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

QString wordsOf(QWidget& view) {
    QStringList all;
    for (const auto& row : app::paintedRows(view)) all << row.text;
    return all.join("\n");
}

}  // namespace

TEST_CASE("lengths to be read: exact ones as on a tape, rough ones in tenths of a foot") {
    app::writeInFeet(false);
    CHECK(app::lengthText(11.5, 2) == "11.50 m");
    CHECK(app::lengthText(-1.86, 2) == "−1.86 m");
    CHECK(app::lengthUnit().near(1.8) == "1.8 m");
    app::writeInFeet(true);
    CHECK(app::lengthText(11.5, 2) == "37' 8 3/4\"");
    CHECK(app::lengthText(-1.86, 2) == "−6' 1 1/4\"");
    CHECK(app::lengthText(11.5, 1) == "37.7 ft");
    CHECK(app::lengthText(30.48, 0) == "100 ft");
    CHECK(app::lengthUnit().near(1.8) == "5.9 ft");
    CHECK(app::lengthUnit().text(50.0) == "50 ft");
    app::writeInFeet(false);
}

TEST_CASE("a number alone gets the unit of its kind, feet where the project is read in feet") {
    using quantity::Kind;
    CHECK(app::keptTyped("33", Kind::Length) == "33 m");
    CHECK(app::keptTyped(" 2 ", Kind::Diameter) == "2 mm");
    CHECK(app::keptTyped("30", Kind::Angle) == "30 deg");
    CHECK(app::keptTyped("14.1", Kind::Frequency) == "14.1 MHz");
    CHECK(app::keptTyped("3", Kind::Number) == "3");
    CHECK(app::keptTyped("33 m", Kind::Length) == "33 m");
    CHECK(app::keptTyped("leg/2", Kind::Length) == "leg/2");
    CHECK(app::keptTyped("", Kind::Length).empty());
    CHECK(app::keptTyped("5; 8 m;10", Kind::Length, ';') == "5 m; 8 m;10 m");
    app::writeInFeet(true);
    CHECK(app::keptTyped("33", Kind::Length) == "33 ft");
    CHECK(app::keptTyped("2", Kind::Diameter) == "2 mm");
    app::writeInFeet(false);
}

TEST_CASE("a number alone is in feet wherever a length is typed, and one that was there stays what it was") {
    Window w;
    w.document().editDesign("A number alone", [](model::Design& d) { d.site.height = "2"; });
    w.bench.findChild<QAction*>("feet")->trigger();
    w.chooseDesign("Vertical on radials, 60 m");
    const auto type = [&](QLineEdit* field, const QString& typed) {
        REQUIRE(field != nullptr);
        field->selectAll();
        QTest::keyClicks(field, typed);
        QTest::keyClick(field, Qt::Key_Return);
        w.settle();
    };
    w.session().select(w.item(app::Selection::Type::Part, 1));
    type(w.editor()->field("Length"), "20; 30");
    CHECK(std::get<model::RadialSystem>(w.document().design().parts[1].shape).length == "20 ft; 30 ft");
    type(w.outline()->dimensionRow("radial")->field(), "33");
    CHECK(w.dimensionText("radial") == "33 ft");
    w.chooseDesign("Inverted V, 60 m");
    w.session().select({app::Selection::Type::Site});
    auto* height = w.editor()->field("Height");
    REQUIRE(height != nullptr);
    CHECK(height->text() == "2");
    QTest::keyClick(height, Qt::Key_Return);
    w.settle();
    CHECK(w.document().design().site.height == "2");
    type(height, "3");
    CHECK(w.document().design().site.height == "3 ft");
    w.bench.findChild<QAction*>("feet")->trigger();
}

TEST_CASE("feet and inches: yard, band and studies on the screen follow at once, and back") {
    Window w;
    auto* feet = w.bench.findChild<QAction*>("feet");
    REQUIRE(feet != nullptr);
    CHECK(wordsOf(*w.yard()).contains("11.50 m up"));
    CHECK(wordsOf(*w.yard()).contains("grid 5 m"));
    feet->trigger();
    w.settle();
    const QString yard = wordsOf(*w.yard());
    CHECK(yard.contains("37' 8 3/4\" up"));
    CHECK(yard.contains("lowest 15' 8\""));
    CHECK(yard.contains("grid 20 ft"));
    CHECK_FALSE(yard.contains(" m up"));
    // What stands in the way is said in feet at once, and again in metres.
    w.document().editDesign("Too low", [](model::Design& d) {
        d.site.ground = model::GroundKind::Perfect;
        d.site.height = "-20 m";
    });
    w.settle();
    const auto* notice = w.bench.findChild<app::NoticeBar*>();
    CHECK(notice->sentence().contains("' "));
    feet->trigger();
    w.settle();
    CHECK(notice->sentence().contains(" m below the ground"));
    feet->trigger();
    w.settle();
    CHECK_FALSE(notice->sentence().contains(" m below the ground"));
    w.undo();
    w.undo();
    w.undo();
    w.settle();
    CHECK(app::inFeet());
    w.action("Height study")->trigger();
    auto* heights = viewIn<app::HeightPlots>(w.bench);
    REQUIRE(waitFor([&] { return wordsOf(*heights).contains("now "); }));
    CHECK(wordsOf(*heights).contains("now 37.7 ft"));
    CHECK(wordsOf(*heights).contains("ft up"));
    w.action("Current along a part")->trigger();
    CHECK(wordsOf(*viewIn<app::CurrentPlot>(w.bench)).contains("feet from the start of the part"));
    w.action("Keep clear: how far people stay")->trigger();
    auto* clear = viewIn<app::ClearView>(w.bench);
    REQUIRE(waitFor([&] { return clear->rows()->rowCount() > 0; }));
    const auto head = [&] { return clear->rows()->horizontalHeaderItem(6)->text(); };
    CHECK(head() == "at 5.9 ft");
    feet->trigger();
    w.settle();
    CHECK(head() == "at 1.8 m");
    CHECK(wordsOf(*heights).contains("now 11.5 m"));
    // A line of words is written anew, too.
    w.chooseDesign("Vertical on radials, 60 m");
    w.settle();
    w.action("Radials study")->trigger();
    auto* radials = viewIn<app::RadialView>(w.bench);
    REQUIRE(waitFor([&] { return radials->line().contains(" m of wire"); }));
    feet->trigger();
    w.settle();
    CHECK(radials->line().contains(" ft of wire"));
    feet->trigger();
    CHECK_FALSE(app::inFeet());
}
