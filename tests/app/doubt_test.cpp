// How far a figure may be off, as the window shows it.
#include "core/quantity/format.h"
#include "core/study/self_check.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

model::Part straight(const QString& name, const Vec3& from, const Vec3& to, const char* diameter) {
    const auto text = [](const Vec3& p) {
        std::array<std::string, 3> all;
        for (int i = 0; i < 3; ++i) all[static_cast<std::size_t>(i)] = std::to_string(p[i]) + "*lambda";
        return all;
    };
    model::Part part;
    part.name = name.toStdString();
    part.shape = model::StraightWire{text(from), text(to)};
    part.conductor.diameter = diameter;
    return part;
}

model::Feed feedOn(const char* part, model::PlaceKind kind) {
    model::Feed feed;
    feed.name = "Feed";
    feed.part = part;
    feed.place.kind = kind;
    return feed;
}

/// The design on the bench becomes an antenna of these wires at 14.1 MHz.
void lay(Window& w, const std::vector<model::Part>& parts, const model::Feed& feed,
         model::GroundKind ground) {
    w.document().editDesign("another antenna", [&](model::Design& d) {
        model::Design other;
        other.name = d.name;
        other.id = d.id;
        other.designFrequency = "14.1 MHz";
        other.site.ground = ground;
        other.site.height = "0 m";
        other.parts = parts;
        other.feeds = {feed};
        d = other;
    });
    w.session().setFrequency(14.1e6);
}

/// A half wave on sloping radials, fed where they meet: nothing for the quick mesh.
void layHalfWave(Window& w) {
    std::vector<model::Part> parts{straight("Vertical", {0, 0, 0}, {0, 0, 0.5241}, "46 mm")};
    for (int i = 0; i < 5; ++i) {
        const double turn = 2.0 * kPi * i / 5 + 0.1;
        parts.push_back(straight(QString("Radial %1").arg(i + 1), {0, 0, 0},
                                 {0.298 * std::cos(turn), 0.298 * std::sin(turn), -0.072}, "46 mm"));
    }
    lay(w, parts, feedOn("Vertical", model::PlaceKind::Start), model::GroundKind::FreeSpace);
}

/// Elements too thick for any thin-wire program.
void layThickYagi(Window& w) {
    const double at[] = {0.0, 0.2904, 0.4052, 0.7221, 0.8832};
    const double half[] = {0.2492, 0.2367, 0.2222, 0.2366, 0.2136};
    std::vector<model::Part> parts;
    for (int i = 0; i < 5; ++i)
        parts.push_back(straight(QString("Element %1").arg(i + 1), {at[i], -half[i], 0.4804},
                                 {at[i], half[i], 0.4804}, "216 mm"));
    lay(w, parts, feedOn("Element 2", model::PlaceKind::Middle), model::GroundKind::Perfect);
}

}  // namespace

TEST_CASE("what needs a finer mesh gets one by itself, and no hand feels it") {
    Window w;
    layHalfWave(w);
    REQUIRE(waitFor([&] { return w.live(); }));
    const int steps = w.document().undoStack()->count();
    const int expansions = w.session().expansions();
    w.outline()->setFocus();
    w.session().select({app::Selection::Type::Part, w.session().design().parts.front().id});
    QLineEdit* field = w.editor()->field("Name");
    REQUIRE(field != nullptr);
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "Half");
    REQUIRE(waitFor([&] { return w.session().settled(); }));
    // Checked, found wanting, and worked out again.
    REQUIRE(w.session().results()->doubt);
    const int level = w.session().results()->doubt->fineness;
    CHECK(level > 0);
    CHECK(w.session().expansion()->model.fineness == level);
    CHECK(w.session().design().fineness.level == level);
    CHECK(w.session().expansions() == expansions);
    // What was half typed is still there, and there is nothing to undo.
    CHECK(field->hasFocus());
    CHECK(field->text() == "Half");
    CHECK(w.document().undoStack()->count() == steps);
    // Every figure is that of the finer mesh.
    auto finer = model::expand(w.session().design());
    REQUIRE(finer.model.fineness == level);
    const auto figures = study::analyse(finer, w.session().frequencyHz()).figures;
    CHECK(w.ledger()->figure("R, X in Ω").toStdString() == quantity::formatImpedance(figures.antennaOhm));
    finer.model.fineness = 0;
    CHECK(study::analyse(finer, w.session().frequencyHz()).figures.unknowns < figures.unknowns);
    // The next edit begins there.
    w.document().editDesign("longer", [](model::Design& d) {
        std::get<model::StraightWire>(d.parts.front().shape).end[2] = "0.53*lambda";
    });
    CHECK(w.session().expansion()->model.fineness == level);
    w.settle();
    CHECK(w.session().expansion()->model.fineness == level);
}

TEST_CASE("a figure that no mesh settles carries its doubt, also while a length is dragged") {
    Window w;
    layThickYagi(w);
    w.settle();
    REQUIRE(w.session().results()->doubt);
    CHECK_FALSE(w.session().results()->doubt->settled());
    CHECK(w.ledger()->figure("R, X in Ω").contains(" ± "));
    CHECK(w.yard()->remarks().join(" ").contains("is thick for this frequency"));
    for (int step = 1; step <= 5; ++step) {
        w.document().editDesign(
            "length",
            [&](model::Design& d) {
                std::get<model::StraightWire>(d.parts.back().shape).end[1] =
                    std::to_string(0.2136 + 0.001 * step) + "*lambda";
            },
            "drag");
        REQUIRE(waitFor([&] { return w.live(); }));
        CHECK(w.ledger()->figure("R, X in Ω").contains(" ± "));
    }
    // Another design says what it knows of itself.
    w.chooseDesign("End-fed, sloper");
    w.settle();
    CHECK_FALSE(w.ledger()->figure("R, X in Ω").contains("±"));
    const QTableWidgetItem* cell = w.ledger()->item(0, 2);
    CHECK(cell->toolTip().startsWith("Right within 0."));
}

TEST_CASE("what grows too large to be checked goes back to the quick mesh") {
    Window w;
    layHalfWave(w);
    w.settle();
    REQUIRE(w.session().expansion()->model.fineness > 0);
    w.document().editDesign("many more wires", [](model::Design& d) {
        for (int i = 0; i < 36; ++i) {
            const double x = 0.4 + 0.05 * i;
            d.parts.push_back(
                straight(QString("Rail %1").arg(i + 1), {x, -2.0, 0.0}, {x, 2.0, 0.01 * (i % 5)}, "46 mm"));
        }
    });
    // At once, and not when bands have been swept for minutes.
    CHECK(waitFor([&] { return w.session().expansion()->model.fineness == 0; }));
    w.bench.stop();
    w.settle();
}
