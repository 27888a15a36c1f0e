// The site on the bench: ground, height, insulation, and the two studies, driven as a designer would.
#include <QLabel>
#include <QStackedWidget>
#include <QToolButton>
#include <cmath>

#include "app/stages/grounds/ground_view.h"
#include "app/stages/heights/height_view.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Share of the input power that the ledger says heats the ground, in percent.
double toGround(Window& w) {
    return w.ledger()->figure("to ground").section(' ', 0, 0).toDouble();
}

void runStudy(Window& w, const QString& study, QWidget* view) {
    w.bench.openStage(study);
    REQUIRE(waitFor([&] { return w.bench.front()->widget() == view; }));
    w.settle();
}

}  // namespace

TEST_CASE("the demo stands on marsh, and better ground takes less of the power") {
    Window w;
    CHECK(w.document().design().site.soil == "marsh");
    const double marsh = toGround(w);
    CHECK(marsh > 20.0);
    w.session().select({app::Selection::Type::Site});
    w.choose("Ground", "salt water");
    CHECK(toGround(w) < 0.5 * marsh);
    CHECK(w.document().design().site.soil == "salt water");
    w.undo();
    CHECK(toGround(w) == marsh);
}

TEST_CASE("own figures for the ground start from the soil before, and nonsense is refused in words") {
    Window w;
    w.session().select({app::Selection::Type::Site});
    CHECK(w.editor()->field("Permittivity") == nullptr);
    w.choose("Ground", "wet loam");
    const double before = toGround(w);
    w.choose("Ground", "custom");
    REQUIRE(w.editor()->field("Permittivity") != nullptr);
    CHECK(w.editor()->field("Permittivity")->text() == "30");
    CHECK(w.editor()->field("S per metre")->text() == "0.01");
    CHECK(toGround(w) == Approx(before).margin(0.1));
    w.type("S per metre", "5");
    CHECK(toGround(w) < before);
    w.type("Permittivity", "0.2");
    CHECK(w.notice()->sentence().contains("permittivity of the ground is 0.2"));
    w.undo();
    CHECK(w.notice()->sentence().isEmpty());
}

TEST_CASE("the height slider raises the antenna and the pattern follows; the drag is one step") {
    Window w;
    w.chooseDesign(QString::fromStdString(w.document().project().designs[0].name));
    w.session().select({app::Selection::Type::Site});
    QSlider* slider = w.editor()->heightSlider();
    REQUIRE(slider != nullptr);
    const double before = w.elevation()->isStale() ? -99.0 : w.analysis()->elevation.at(15.0);
    Window::drag(slider, 60);
    w.settle();
    CHECK(w.document().design().site.height != "0 m");
    CHECK(w.analysis()->elevation.at(15.0) > before + 1.0);
    CHECK(slider == w.editor()->heightSlider());
    w.undo();
    CHECK(w.document().design().site.height == "0 m");
    CHECK(w.analysis()->elevation.at(15.0) == Approx(before));
}

TEST_CASE("insulation is offered where the conductor is, and detunes the wire") {
    Window w;
    w.session().select(w.item(app::Selection::Type::Part, 0));
    CHECK(w.editor()->field("Its permittivity") == nullptr);
    const double bare = w.analysis()->figures.impedanceOhm.front().imag();
    w.type("Insulation", "0.8 mm");
    REQUIRE(w.editor()->field("Its permittivity") != nullptr);
    CHECK(w.analysis()->figures.impedanceOhm.front().imag() > bare + 10.0);
    w.type("Its permittivity", "50");
    CHECK(w.notice()->sentence().contains("permittivity of the insulation"));
    w.undo();
    w.undo();
    CHECK(w.analysis()->figures.impedanceOhm.front().imag() == Approx(bare));
}

TEST_CASE("a wire laid on the ground is worked out a little above it, and one in the ground there") {
    Window w;
    w.session().select({app::Selection::Type::Site});
    const double up = w.analysis()->figures.skyShare;
    w.type("Height", "-6 m");
    REQUIRE(waitFor([&] { return w.live(); }));
    w.settle();
    CHECK_FALSE(model::hasError(w.session().expansion()->findings));
    CHECK(w.analysis()->figures.skyShare < 0.2 * up);
    w.undo();
    w.settle();
    CHECK(w.analysis()->figures.skyShare == Approx(up));
}

TEST_CASE("height study: the cursor reads it, a click puts the antenna there, another edit makes it old") {
    Window w;
    runStudy(w, "heights", w.find<app::HeightView>());
    auto* plots = w.find<app::HeightView>()->plots();
    REQUIRE(plots->study() != nullptr);
    CHECK(plots->study()->points.size() > 100);
    CHECK_FALSE(w.find<app::HeightView>()->stale());
    const double target = 30.0;
    const QPoint there(static_cast<int>(std::lround(plots->xOf(target))), plots->height() / 2);
    QTest::mouseMove(plots, there);
    QMouseEvent move(QEvent::MouseMove, QPointF(there), plots->mapToGlobal(QPointF(there)), Qt::NoButton,
                     Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(plots, &move);
    CHECK(plots->reading().contains("takeoff"));
    QTest::mouseClick(plots, Qt::LeftButton, {}, there);
    w.settle();
    // The apex, where the feed is, now hangs there; the study still holds.
    CHECK(study::feedHeightM(model::expand(w.document().design()).model) == Approx(target).margin(0.4));
    CHECK_FALSE(w.find<app::HeightView>()->stale());
    w.typeDimension("leg", "13 m");
    w.settle();
    CHECK(w.find<app::HeightView>()->stale());
    w.undo();
    CHECK_FALSE(w.find<app::HeightView>()->stale());
    QTest::mouseClick(w.find<app::HeightView>()->findChild<QToolButton*>("closeStudy"), Qt::LeftButton);
    CHECK(w.bench.front()->widget() == w.yard());
    w.undo();
}

TEST_CASE("ground study: a click on a row changes the ground of the design") {
    Window w;
    runStudy(w, "grounds", w.find<app::GroundView>());
    auto* rows = w.find<app::GroundView>()->rows();
    REQUIRE(rows->points().size() >= 8);
    CHECK(rows->points().front().soil == "salt water");
    QTest::mouseClick(rows, Qt::LeftButton, {}, rows->rowRect(0).center().toPoint());
    w.settle();
    CHECK(w.document().design().site.soil == "salt water");
    w.undo();
    CHECK(w.document().design().site.soil == "marsh");
}

TEST_CASE("in free space a height study says why there is none") {
    Window w;
    w.session().select({app::Selection::Type::Site});
    w.choose("Ground", "free");
    w.bench.openStage("heights");
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("In free space height means nothing"); }));
    CHECK(w.bench.front()->widget() == w.yard());
    w.undo();
}
