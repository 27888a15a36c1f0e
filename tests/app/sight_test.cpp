// What is in the yard stays in sight, and what is said stays true, whatever is typed.
#include "hands.h"

using namespace rm;
using namespace rm::test;

namespace {

struct EmptySite : Window, Hands {
    EmptySite() : Window(), Hands{static_cast<Window&>(*this)} {
        action("New project")->trigger();
        settle();
    }
    /// The wires on the screen.
    QRectF shadow() {
        QPolygonF ends;
        for (const auto& wire : session().expansion()->model.wires) ends << at(wire.startM) << at(wire.endM);
        return ends.boundingRect();
    }
    bool inSight() { return QRectF(yardOf().rect()).contains(shadow()); }
};

}  // namespace

TEST_CASE("an antenna that outgrows the view or shrinks in it is fitted again") {
    EmptySite w;
    const double before = w.shadow().width();
    // A little longer: nobody wants the picture to move for that.
    const auto camera = w.yardOf().camera();
    w.typeDimension("span", "10.9 m");
    w.settle();
    CHECK(w.yardOf().camera() == camera);
    w.typeDimension("span", "80 m");
    w.settle();
    CHECK(w.inSight());
    w.typeDimension("span", "1 m");
    w.settle();
    CHECK(w.inSight());
    // The compass and the ground below ten metres of height are in the picture too.
    CHECK(w.shadow().width() > 0.04 * before);
    w.typeDimension("span", "1e9 m");
    w.settle();
    w.typeDimension("span", "10.35 m");
    w.settle();
    CHECK(w.inSight());
    CHECK(w.shadow().width() > 0.5 * before);
}

TEST_CASE("a view that someone chose is left alone while anything of the antenna is in it") {
    EmptySite w;
    QTest::keyClick(w.yard(), Qt::Key_Plus);
    const auto camera = w.yardOf().camera();
    w.typeDimension("span", "30 m");
    w.settle();
    CHECK_FALSE(w.inSight());
    CHECK(w.yardOf().camera() == camera);
    w.typeDimension("span", "10 km");
    w.settle();
    w.yardOf().fit();
    QTest::keyClick(w.yard(), Qt::Key_Plus);
    w.typeDimension("span", "10 m");
    w.settle();
    CHECK(w.inSight());
    // Zooming by keys ends where that of the wheel does.
    for (int i = 0; i < 300; ++i) QTest::keyClick(w.yard(), Qt::Key_Plus);
    CHECK(w.yardOf().camera().distanceM > 0.01);
}

TEST_CASE("the handle that turns and the one that raises are never taken one for the other") {
    EmptySite w;
    w.session().select(w.item(app::Selection::Type::Part));
    for (const char* span : {"10.35 m", "6 m", "20 m"}) {
        w.typeDimension("span", span);
        w.session().select(w.item(app::Selection::Type::Part));
        w.yardOf().fit();
        for (double turned = 0.0; turned < 180.0; turned += 5.0) {
            QTest::keyClick(w.yard(), Qt::Key_Left);
            const QPointF lift = *w.yardOf().heightHandle();
            CHECK(QLineF(lift, w.grip("turn")).length() > 20.0);
            CHECK(QLineF(lift, w.grip("scale")).length() > 20.0);
            for (const char* name : {"turn", "scale"})
                CHECK(QRectF(w.yardOf().rect()).contains(w.grip(name)));
        }
    }
}

TEST_CASE("nothing moves under the hand that raises the antenna out of the view") {
    EmptySite w;
    const auto camera = w.yardOf().camera();
    const QPointF handle = *w.yardOf().heightHandle();
    w.press(handle);
    for (int i = 1; i <= 8; ++i) w.move(handle - QPointF(0, 60.0 * i));
    w.settle();
    CHECK_FALSE(w.inSight());
    CHECK(w.yardOf().camera() == camera);
    w.release(handle - QPointF(0, 480));
    CHECK(w.inSight());
}

TEST_CASE("Undo in a message takes back what the message tells of, or is gone") {
    EmptySite w;
    w.action("Find the nearest resonance")->trigger();
    w.settle();
    CHECK(w.notice()->sentence().contains("Resonant"));
    w.typeDimension("span", "9 m");
    w.settle();
    CHECK(w.notice()->sentence().isEmpty());
    w.action("Undo change span")->trigger();
    w.settle();
    CHECK(w.notice()->sentence().contains("Undone"));
    w.typeDimension("span", "11 m");
    w.settle();
    CHECK(w.notice()->sentence().isEmpty());
    w.session().done("Done so far.");
    CHECK(w.notice()->answer(0)->isVisible());
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    w.settle();
    CHECK(w.dimensionText("span") == "10.35 m");
}

TEST_CASE("what could not be worked out is not said any longer once it can be") {
    EmptySite w;
    w.typeDimension("span", "1e9 m");
    w.settle();
    CHECK(w.notice()->sentence().contains("wavelengths long"));
    w.typeDimension("span", "10.35 m");
    w.settle();
    CHECK(w.notice()->sentence().isEmpty());
    // What was done meanwhile stays to be read.
    w.typeDimension("span", "1e9 m");
    w.settle();
    w.undo();
    w.settle();
    CHECK_FALSE(w.notice()->sentence().contains("wavelengths"));
}
