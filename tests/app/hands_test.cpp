// Parts taken hold of in the yard with the mouse: grips, the tag, numbers typed into it, several parts, the
// feed, and the pen.
#include "hands.h"

#include <QToolButton>

#include "app/look/lengths.h"
#include "core/model/expand.h"

using namespace rm;
using namespace rm::test;

namespace {

using Type = app::Selection::Type;

struct Yard : Window, Hands {
    explicit Yard(const char* design = "Inverted V, 60 m") : Window(), Hands{static_cast<Window&>(*this)} {
        chooseDesign(design);
        select(item(Type::Part));
    }
    model::Part& part() { return const_cast<model::Part&>(document().design().parts.front()); }
    std::string dimension(const char* name) { return dimensionText(name).toStdString(); }
    Vec3 end(std::size_t wire) { return session().expansion()->model.wires.at(wire).endM; }
};

/// A new project's dipole, seen from above.
struct Meadow : Window, Hands {
    Meadow() : Window(), Hands{static_cast<Window&>(*this)} {
        action("New project")->trigger();
        settle();
        yardOf().viewFromAbove();
        select(item(Type::Part));
        settle();
    }
};

}  // namespace

TEST_CASE(
    "the selected part shows its grips, and dragging one moves the dimensions behind it, live, in one step") {
    Yard y;
    y.yardOf().viewFromFront();
    const int steps = y.document().undoStack()->count();
    const auto before = y.document().share();
    const QPointF tip = y.grip("left tip");
    y.press(tip);
    y.move(tip + QPointF(0, 12));
    y.move(tip + QPointF(0, 24));
    CHECK(y.tag().contains("λ"));
    CHECK(y.tag().contains("moves"));
    CHECK(waitFor([&] { return y.live(); }));  // figures follow while the button is down
    y.release(tip + QPointF(0, 24));
    CHECK((y.grip("left tip") - (tip + QPointF(0, 24))).manhattanLength() < 12.0);
    CHECK(y.document().undoStack()->count() == steps + 1);
    CHECK(y.document().undoStack()->undoText().contains("left tip"));
    CHECK(y.dimension("apex") == "11.5 m");
    y.undo();
    CHECK(y.document().project() == *before);
}

TEST_CASE("a number typed beside a grip sets the length, and Escape in a drag takes it back") {
    Yard y;
    y.set("left tip", "14.2");
    CHECK(y.dimension("leg") == "14.2 m");
    y.set("apex", "10.5");
    CHECK(y.dimension("apex") == "10.5 m");
    // Nonsense is answered where it was typed, and nothing has changed.
    const auto before = y.document().share();
    y.set("left tip", "3 horses");
    CHECK_FALSE(y.tag().isEmpty());
    CHECK(y.document().project() == *before);
    QTest::keyClick(&y.yardOf(), Qt::Key_Escape);
    const QPointF tip = y.grip("left tip");
    y.press(tip);
    y.move(tip + QPointF(30, 10));
    QTest::keyClick(&y.yardOf(), Qt::Key_Escape);
    y.release(tip + QPointF(30, 10));
    CHECK(y.document().project() == *before);
}

TEST_CASE("keys of a held grip are no shortcuts of the window") {
    Yard y;
    const auto pins = y.document().project().pins.size();
    y.click(y.grip("left tip"));
    y.keys("5");
    CHECK(y.tag().startsWith("5"));
    QTest::keyClick(&y.yardOf(), Qt::Key_Escape);
    QTest::keyClick(&y.yardOf(), Qt::Key_Escape);
    CHECK(y.tag().isEmpty());
    y.keys("p");
    y.settle();
    CHECK(y.document().project().pins.size() == pins + 1);
}

TEST_CASE("a dragged end clicks into the end of another wire and joins it") {
    Meadow m;
    m.document().editDesign("Add", [](model::Design& d) {
        model::Part other;
        other.name = "Other";
        other.shape = model::StraightWire{{"4 m", "3 m", "0 m"}, {"9 m", "3 m", "0 m"}};
        d.parts.front().shape = model::StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "5 m", "0 m"}};
        d.parts.push_back(other);
    });
    m.settle();
    m.yardOf().viewFromAbove();
    m.select(m.item(Type::Part));
    const QPointF other = m.at(m.session().expansion()->model.wires[1].startM);
    m.press(m.grip("end"));
    m.move(0.5 * (m.grip("end") + other));
    m.move(other + QPointF(4, 3));
    CHECK(m.tag().contains("end of Other"));
    m.release(other + QPointF(4, 3));
    CHECK(m.session().expansion()->joints.size() == 1);
    // Without snapping it stays where it is put.
    m.document().undo();
    m.settle();
    m.press(m.grip("end"));
    m.keys("n");
    m.move(0.5 * (m.grip("end") + other));
    m.move(other + QPointF(4, 3));
    m.release(other + QPointF(4, 3));
    CHECK(m.session().expansion()->joints.empty());
}

TEST_CASE("three sloping radials by turning one twice") {
    Meadow m;
    m.document().editDesign("Radial", [](model::Design& d) {
        d.parts.front().shape = model::StraightWire{{"0 m", "0 m", "0 m"}, {"5 m", "0 m", "-2 m"}};
        d.feeds.front().place.kind = model::PlaceKind::Middle;
    });
    m.settle();
    for (int i = 0; i < 2; ++i) {
        m.action("Duplicate selected")->trigger();
        m.settle();
        // About its other end: the hub.
        m.click(m.grip("end"));
        m.keys("r");
        m.keys("120");
        m.enter();
    }
    const auto& wires = m.session().expansion()->model.wires;
    REQUIRE(wires.size() == 3);
    Vec3 sum = Vec3::Zero();
    for (const auto& wire : wires) {
        CHECK(wire.lengthM() == Approx(std::sqrt(29.0)).margin(1e-3));
        CHECK((wire.startM - wires[0].startM).norm() < 1e-3);
        sum += wire.endM - wire.startM;
    }
    CHECK(std::hypot(sum.x(), sum.y()) < 1e-2);
}

TEST_CASE("several parts are chosen with Ctrl and scaled, turned and moved together") {
    Meadow m;
    m.document().editDesign("Add", [](model::Design& d) {
        model::Part other;
        other.name = "Other";
        other.shape = model::StraightWire{{"4 m", "-5 m", "0 m"}, {"4 m", "5 m", "0 m"}};
        d.parts.front().shape = model::StraightWire{{"0 m", "-5 m", "0 m"}, {"0 m", "5 m", "0 m"}};
        d.parts.push_back(other);
    });
    m.settle();
    m.yardOf().viewFromAbove();
    const auto wire = [&](std::size_t i) { return m.session().expansion()->model.wires.at(i); };
    m.click(m.at(0.7 * wire(1).startM + 0.3 * wire(1).endM), Qt::ControlModifier);
    CHECK(m.shape().grips()->parts().size() == 2);
    m.set("scale", "0.5");
    CHECK(wire(0).lengthM() == Approx(5.0));
    CHECK(wire(1).lengthM() == Approx(5.0));
    CHECK(wire(1).startM.x() - wire(0).startM.x() == Approx(2.0));
    m.set("turn", "90");
    CHECK(std::abs(wire(0).startM.y() - wire(0).endM.y()) < 1e-3);
    const Vec3 before = wire(1).startM;
    const QPointF middle = m.grip("Other: whole part");
    m.pull(middle, middle + QPointF(40, 0));
    CHECK((wire(1).startM - before).norm() > 0.2);
    CHECK((wire(0).startM - wire(1).startM).norm() == Approx(2.0).margin(0.02));
    // One of them is chosen alone again.
    m.select(m.item(Type::Part, 1));
    CHECK(m.shape().grips()->parts().size() == 1);
}

TEST_CASE("the feed is dragged along the conductors and clicks into corners and middles") {
    Window w;
    Hands h{w};
    w.chooseDesign("Delta loop, 17 m, fed in the middle");
    h.yardOf().viewFromFront();
    const auto feed = h.shape().feeds()->markAt("Feed");
    REQUIRE(feed.has_value());
    const auto& wires = w.session().expansion()->model.wires;
    const QPointF corner = h.at(wires[1].startM);
    h.press(*feed);
    h.move(*feed + QPointF(10, 2));
    h.move(corner + QPointF(3, 3));
    h.release(corner + QPointF(3, 3));
    const auto& placed = w.document().design().feeds.front();
    CHECK(placed.place.kind == model::PlaceKind::Corner);
    CHECK(placed.place.value == "2");
    CHECK(w.document().undoStack()->undoText().contains("Feed"));
    w.undo();
    // A click without a drag selects it.
    h.click(*h.shape().feeds()->markAt("Feed"));
    CHECK(w.session().selection().type == Type::Feed);
}

TEST_CASE(
    "two inverted Vs on one apex: the feed says between what it sits, and takes both halves on request") {
    Yard y;
    y.document().editDesign("Cross", [](model::Design& d) {
        d.parts.resize(1);
        d.parts.push_back(d.parts.front());
        d.parts.back().id = 0;
        d.parts.back().name = "Across";
        std::get<model::InvertedV>(d.parts.back().shape).turn = "90 deg";
        d.feeds.front().place = {model::PlaceKind::Corner, "1", "", {}};
    });
    y.settle();
    CHECK(y.notice()->sentence().contains("passes through"));
    y.select(y.item(Type::Feed));
    auto* sides = y.editor()->findChild<QLabel*>("sides");
    REQUIRE(sides != nullptr);
    CHECK(sides->text().contains("Across (2 wires)"));
    y.choose("Together with", "Across");
    CHECK(y.document().design().feeds.front().with == std::vector<std::string>{"Across"});
    CHECK_FALSE(y.notice()->sentence().contains("passes through"));
    CHECK(y.session().expansion()->model.feeds.front().together.size() == 1);
}

TEST_CASE("a removed part takes its feed, or hands it on by an answer") {
    Yard y("End-fed, sloper");
    y.action("Remove selected")->trigger();
    y.settle();
    CHECK(y.document().design().feeds.empty());
    CHECK(y.notice()->sentence().contains("Feed with it"));
    auto* answer = y.notice()->findChild<QToolButton*>("firstAnswer");
    REQUIRE(answer != nullptr);
    CHECK(answer->text() == "Put it on Counterpoise");
    QTest::mouseClick(answer, Qt::LeftButton);
    y.settle();
    REQUIRE(y.document().design().feeds.size() == 1);
    CHECK(y.document().design().feeds.front().part == "Counterpoise");
    y.undo();
    y.undo();
    CHECK(y.document().design().parts.size() == 2);
    CHECK(y.document().design().feeds.front().part == "Radiator");
}

TEST_CASE("the pen draws corner after corner, on the level and upright, with lengths typed") {
    Meadow m;
    m.action("Remove selected")->trigger();
    m.settle();
    m.yardOf().viewFromAbove();
    m.action("Draw a wire with the pen")->trigger();
    REQUIRE(m.shape().pen()->active());
    const QPointF middle(0.5 * m.yardOf().width(), 0.5 * m.yardOf().height());
    m.move(middle);
    m.click(middle);
    m.move(middle + QPointF(0, -80));
    m.keys("7.5");
    m.enter();
    REQUIRE(m.shape().pen()->points().size() == 2);
    CHECK((m.shape().pen()->points()[1] - m.shape().pen()->points()[0]).norm() == Approx(7.5).margin(1e-6));
    // A number alone is in the unit of the project.
    app::writeInFeet(true);
    m.move(middle + QPointF(0, -160));
    m.keys("10");
    m.enter();
    app::writeInFeet(false);
    REQUIRE(m.shape().pen()->points().size() == 3);
    CHECK((m.shape().pen()->points()[2] - m.shape().pen()->points()[1]).norm() == Approx(3.048).margin(1e-6));
    QTest::keyClick(&m.yardOf(), Qt::Key_Backspace);
    m.keys("v");
    m.move(middle + QPointF(60, -100));
    m.click(middle + QPointF(60, -100));
    m.enter();
    CHECK_FALSE(m.shape().pen()->active());
    REQUIRE(m.document().design().parts.size() == 1);
    const auto& bent = std::get<model::BentWire>(m.document().design().parts.front().shape);
    CHECK(bent.points.size() == 3);
    REQUIRE(m.document().design().feeds.size() == 1);
    CHECK(m.live());
    // Its lengths get names.
    m.action("Make dimensions of it")->trigger();
    m.settle();
    CHECK(m.dimensionText("side1") == "7.5 m");
    CHECK_FALSE(model::hasError(m.session().expansion()->findings));
}

TEST_CASE("the yard is looked at from below, and what is in the soil is in front there") {
    Window w;
    w.chooseDesign("Vertical on radials, 60 m");
    const QImage above = w.yard()->grab().toImage();
    w.yard()->setFocus();
    for (int i = 0; i < 15; ++i) QTest::keyClick(w.yard(), Qt::Key_Down);
    CHECK(w.yard()->camera().elevationDeg < -20.0);
    CHECK(w.yard()->grab().toImage() != above);
}

TEST_CASE("a small antenna high up is fitted by itself, the site on request") {
    Window w;
    w.document().editDesign("Up", [](model::Design& d) {
        d.parts.resize(1);
        d.parts.front().shape = model::StraightWire{{"0 m", "-1 m", "0 m"}, {"0 m", "1 m", "0 m"}};
        d.site.height = "14 m";
    });
    w.settle();
    w.yard()->fit();
    const auto pixels = [&] {
        const auto& wire = w.session().expansion()->model.wires.front();
        return QLineF(w.yard()->screenPoint(wire.startM), w.yard()->screenPoint(wire.endM)).length();
    };
    const double alone = pixels();
    CHECK(alone > 0.3 * w.yard()->width());
    w.action("Fit the site")->trigger();
    CHECK(pixels() < 0.5 * alone);
}

TEST_CASE("a number half typed beside a grip is dropped by every way out, and nothing has changed") {
    Yard y;
    const auto before = y.document().share();
    const auto halfTyped = [&] {
        y.chooseDesign("Inverted V, 60 m");
        y.select(y.item(Type::Part));
        y.click(y.grip("left tip"));
        y.keys("7");
        REQUIRE(y.tag().startsWith("7"));
    };
    const std::pair<const char*, std::function<void()>> ways[] = {
        {"Escape", [&] { QTest::keyClick(&y.yardOf(), Qt::Key_Escape); }},
        {"a field of the plan", [&] { y.editor()->field("Leg")->setFocus(); }},
        {"another place in the yard", [&] { y.click(QPointF(20, 60)); }},
        {"another design", [&] { y.action("Next design")->trigger(); }},
        {"another part", [&] { y.select(y.item(Type::Part, 1)); }},
        {"a feed", [&] { y.select(y.item(Type::Feed)); }},
        {"another grip", [&] { y.click(y.grip("right tip")); }},
        {"a stage", [&] { y.bench.showStage("build"); }}};
    for (const auto& [name, leave] : ways) {
        halfTyped();
        leave();
        y.settle();
        INFO(name);
        CHECK_FALSE(y.tag().startsWith("7"));
        CHECK(y.document().project().designs == before->designs);
        y.bench.showStage("shape");
    }
    // An edit from elsewhere: it was typed for the antenna as it was.
    halfTyped();
    y.document().editDesign("Higher", [](model::Design& d) { d.site.height = "1 m"; });
    CHECK_FALSE(y.tag().startsWith("7"));
    y.undo();
    CHECK(y.document().project().designs == before->designs);
}

TEST_CASE("a second button does not take over a drag, and an undo in the middle of one lets go") {
    Yard y;
    const auto before = y.document().share();
    const QPointF tip = y.grip("left tip");
    y.press(tip);
    y.move(tip + QPointF(10, 8));
    QTest::mouseClick(&y.yardOf(), Qt::RightButton, {}, QPoint(200, 200));
    y.move(tip + QPointF(20, 16));
    CHECK(y.tag().contains("λ"));  // still in hand
    y.document().undo();
    y.settle();
    CHECK(y.tag().isEmpty());
    y.move(tip + QPointF(40, 30));
    y.release(tip + QPointF(40, 30));
    CHECK(y.document().project().designs == before->designs);
    // The next one is whole again.
    y.pull(y.grip("left tip"), tip + QPointF(0, 20));
    CHECK_FALSE(y.document().project().designs == before->designs);
    y.undo();
    CHECK(y.document().project().designs == before->designs);
}

TEST_CASE("corners drawn on one design are offered again when another one came to the bench") {
    Yard y;
    y.action("Draw a wire with the pen")->trigger();
    for (const QPointF& at : {QPointF(200, 300), QPointF(300, 320), QPointF(320, 250)}) {
        y.move(at);
        y.click(at);
    }
    REQUIRE(y.shape().pen()->points().size() == 3);
    const auto parts = y.document().design().parts.size();
    y.action("Next design")->trigger();
    y.settle();
    CHECK_FALSE(y.shape().pen()->active());
    CHECK(y.notice()->sentence().contains("3 corners drawn belong to Inverted V, 60 m"));
    QTest::mouseClick(y.notice()->findChild<QToolButton*>("firstAnswer"), Qt::LeftButton);
    y.settle();
    CHECK(y.document().design().name == "Inverted V, 60 m");
    CHECK(y.document().design().parts.size() == parts + 1);
}
