// The plan of the site and supports in the yard: real mouse and keys.
#include <QImage>
#include <QLineEdit>
#include <QTemporaryDir>
#include <QToolButton>
#include <QWheelEvent>

#include "app/stages/shape/support_tool.h"
#include "app/stages/site/site_stage.h"
#include "hands.h"

using namespace rm;
using namespace rm::test;
using app::SiteCanvas;

namespace {

struct SitePlan : Window {
    SitePlan() : Window() {
        menu("New project");
        menu("Plan of the site");
        settle();
    }
    void menu(const QString& text) { action(text)->trigger(); }
    app::SiteFrame& frame() { return *viewIn<app::SiteFrame>(bench); }
    SiteCanvas& canvas() { return *frame().canvas(); }
    QToolButton* button(const QString& name) {
        auto* found = frame().findChild<QToolButton*>(name);
        REQUIRE(found != nullptr);
        return found;
    }
    QPoint at(double east, double north) { return canvas().at({east, north}).toPoint(); }
    void click(double east, double north) {
        QTest::mouseClick(&canvas(), Qt::LeftButton, {}, at(east, north));
        settle();
    }
    void drag(const QPoint& from, const QPoint& to) {
        QTest::mousePress(&canvas(), Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i) {
            const QPointF now = QPointF(from) + 0.25 * i * QPointF(to - from);
            QMouseEvent event(QEvent::MouseMove, now, canvas().mapToGlobal(now), Qt::NoButton, Qt::LeftButton,
                              {});
            QApplication::sendEvent(&canvas(), &event);
        }
        QTest::mouseRelease(&canvas(), Qt::LeftButton, {}, to);
        settle();
    }
    void put(model::SupportKind kind, double east, double north) {
        canvas().setTool(SiteCanvas::Tool::Put, kind);
        click(east, north);
    }
    const std::vector<model::Support>& supports() { return document().design().site.supports; }
    double value(const std::string& length) { return quantity::evaluate(length, quantity::Kind::Length, {}); }
};

}  // namespace

TEST_CASE("supports are put up by a click on the plan, and dragged there") {
    SitePlan w;
    w.put(model::SupportKind::Mast, -8.0, 2.0);
    REQUIRE(w.supports().size() == 1);
    CHECK(w.value(w.supports()[0].east) == Approx(-8.0).margin(0.3));
    CHECK(w.value(w.supports()[0].north) == Approx(2.0).margin(0.3));
    CHECK(w.canvas().tool() == SiteCanvas::Tool::Look);
    // What is new is selected, and its fields are there.
    CHECK(w.editor()->field("Height") != nullptr);
    const auto east = w.value(w.supports()[0].east);
    const auto north = w.value(w.supports()[0].north);
    w.drag(w.at(east, north), w.at(east + 3.0, north - 1.0));
    CHECK(w.value(w.supports()[0].east) == Approx(east + 3.0).margin(0.3));
    CHECK(w.value(w.supports()[0].north) == Approx(north - 1.0).margin(0.3));
    // One drag, one step.
    w.document().undo();
    CHECK(w.value(w.supports()[0].east) == Approx(east));
    // Arrow keys push it by a tenth of a metre.
    w.canvas().setFocus();
    QTest::keyClick(&w.canvas(), Qt::Key_Right);
    QTest::keyClick(&w.canvas(), Qt::Key_Up, Qt::ShiftModifier);
    CHECK(w.value(w.supports()[0].east) == Approx(east + 0.1));
    CHECK(w.value(w.supports()[0].north) == Approx(north + 1.0));
}

TEST_CASE("in feet and inches supports stand on marks of the tape, put, dragged and pushed") {
    SitePlan w;
    w.editing().setFeetAndInches(true);
    w.settle();
    const auto onMark = [&](const std::string& text) {
        INFO(text);
        CHECK(text.find('"') != std::string::npos);
        const double inches = w.value(text) / 0.0254;
        CHECK(inches == Approx(std::round(inches)).margin(1e-6));
        return w.value(text);
    };
    w.put(model::SupportKind::Mast, -8.0, 2.0);
    REQUIRE(w.supports().size() == 1);
    const double east = onMark(w.supports()[0].east);
    const double north = onMark(w.supports()[0].north);
    CHECK(east == Approx(-8.0).margin(0.3));
    w.drag(w.at(east, north), w.at(east + 3.0, north - 1.0));
    const double dragged = onMark(w.supports()[0].east);
    CHECK(dragged == Approx(east + 3.0).margin(0.3));
    onMark(w.supports()[0].north);
    w.canvas().setFocus();
    QTest::keyClick(&w.canvas(), Qt::Key_Right);
    CHECK(onMark(w.supports()[0].east) == Approx(dragged + 3.0 * 0.0254));
    QTest::keyClick(&w.canvas(), Qt::Key_Left, Qt::ShiftModifier);
    CHECK(onMark(w.supports()[0].east) == Approx(dragged + 3.0 * 0.0254 - 0.9144));
}

TEST_CASE("a roof edge is drawn from end to end, and each end moves alone") {
    SitePlan w;
    w.canvas().setTool(SiteCanvas::Tool::Put, model::SupportKind::RoofEdge);
    w.drag(w.at(-2.0, -6.0), w.at(6.0, -6.0));
    REQUIRE(w.supports().size() == 1);
    CHECK(w.value(w.supports()[0].east) == Approx(-2.0).margin(0.3));
    CHECK(w.value(w.supports()[0].toEast) == Approx(6.0).margin(0.3));
    // One drag, one step.
    w.document().undo();
    CHECK(w.supports().empty());
    w.document().redo();
    const double first = w.value(w.supports()[0].east);
    const double other = w.value(w.supports()[0].toEast);
    w.drag(w.at(other, w.value(w.supports()[0].toNorth)), w.at(other - 3.0, -6.0));
    CHECK(w.value(w.supports()[0].toEast) == Approx(other - 3.0).margin(0.3));
    CHECK(w.value(w.supports()[0].east) == Approx(first));
    // Between its ends both move.
    const double length = w.value(w.supports()[0].toEast) - first;
    w.drag(w.at(first + 0.5 * length, -6.0), w.at(first + 0.5 * length, -3.0));
    CHECK(w.value(w.supports()[0].toEast) - w.value(w.supports()[0].east) == Approx(length).margin(1e-6));
    CHECK(w.value(w.supports()[0].north) == Approx(-3.0).margin(0.4));
}

TEST_CASE("a wire is hung by clicking support after support; Escape hangs nothing") {
    SitePlan w;
    w.put(model::SupportKind::Mast, -9.0, 0.0);
    w.put(model::SupportKind::Tree, 9.0, 0.0);
    const auto before = w.document().design().parts.size();
    QTest::mouseClick(w.button("Hang a wire"), Qt::LeftButton);
    REQUIRE(w.canvas().tool() == SiteCanvas::Tool::Hang);
    w.click(w.value(w.supports()[0].east), w.value(w.supports()[0].north));
    CHECK(w.frame().line().contains("Mast"));
    QTest::keyClick(&w.canvas(), Qt::Key_Escape);
    CHECK(w.canvas().tool() == SiteCanvas::Tool::Look);
    CHECK(w.document().design().parts.size() == before);
    QTest::mouseClick(w.button("Hang a wire"), Qt::LeftButton);
    w.click(w.value(w.supports()[0].east), w.value(w.supports()[0].north));
    w.click(w.value(w.supports()[1].east), w.value(w.supports()[1].north));
    QTest::keyClick(&w.canvas(), Qt::Key_Return);
    w.settle();
    REQUIRE(w.document().design().parts.size() == before + 1);
    const auto& hung = std::get<model::HungWire>(w.document().design().parts.back().shape);
    CHECK(hung.points[0].support == "Mast");
    CHECK(hung.points[1].support == "Tree");
    // One support alone holds no wire: that is said.
    QTest::mouseClick(w.button("Hang a wire"), Qt::LeftButton);
    w.click(w.value(w.supports()[0].east), w.value(w.supports()[0].north));
    QTest::keyClick(&w.canvas(), Qt::Key_Return);
    CHECK(w.notice()->sentence().contains("two supports"));
}

TEST_CASE("distances are measured on the plan in the project's unit") {
    SitePlan w;
    QTest::mouseClick(w.button("Measure"), Qt::LeftButton);
    w.drag(w.at(0.0, 0.0), w.at(3.0, 4.0));
    CHECK(w.frame().line().section(' ', 0, 0).toDouble() == Approx(5.0).margin(0.15));
    CHECK(w.frame().line().contains(" m, 03"));
    w.editing().setFeetAndInches(true);
    w.settle();
    CHECK(w.frame().line().contains("'"));
}

TEST_CASE("a picture of the garden is laid so that two of its places are where they belong") {
    SitePlan w;
    QTemporaryDir folder;
    QImage picture(400, 300, QImage::Format_RGB32);
    picture.fill(Qt::darkGreen);
    const QString path = folder.filePath("garden.png");
    REQUIRE(picture.save(path));
    w.document().editDesign("picture", [&](model::Design& d) { d.site.backdrop.file = path.toStdString(); });
    w.settle();
    REQUIRE(w.canvas().problem().isEmpty());
    w.canvas().setTool(SiteCanvas::Tool::Scale);
    w.click(-5.0, 0.0);
    w.click(5.0, 0.0);
    auto* distance = w.frame().findChild<QLineEdit*>();
    REQUIRE(distance != nullptr);
    REQUIRE(distance->isVisible());
    // Half typed or wrong, it says what to type.
    QTest::keyClicks(distance, "far");
    QTest::keyClick(distance, Qt::Key_Return);
    CHECK(w.document().design().site.backdrop.secondEastM == Approx(10.0));
    distance->clear();
    QTest::keyClicks(distance, "25 m");
    QTest::keyClick(distance, Qt::Key_Return);
    w.settle();
    const auto& laid = w.document().design().site.backdrop;
    CHECK(std::hypot(laid.secondEastM - laid.firstEastM, laid.secondNorthM - laid.firstNorthM) ==
          Approx(25.0));
    CHECK(laid.firstEastM == Approx(-5.0).margin(0.3));
    // The place of the picture under the first click stays under it.
    const QTransform onto = [&] {
        app::BackdropPicture loaded;
        loaded.load(path.toStdString(), {});
        return loaded.onto(w.canvas().look().map, laid);
    }();
    const QPointF now = onto.map(QPointF(laid.secondX * 400, laid.secondY * 300));
    CHECK(QLineF(now, w.canvas().at({laid.secondEastM, laid.secondNorthM})).length() < 0.01);
    // A device, a folder and what is no picture are refused in a sentence.
    for (const char* file : {"/dev/zero", "/tmp", "/nowhere/garden.png", RM_SOURCE_DIR "/README.md"}) {
        w.document().editDesign("picture", [&](model::Design& d) { d.site.backdrop.file = file; });
        w.settle();
        INFO(file);
        CHECK(w.canvas().problem().contains(file));
    }
}

TEST_CASE("a support is taken hold of in the yard: its foot on the ground, its top up and down") {
    SitePlan w;
    w.put(model::SupportKind::Tree, 6.0, 0.0);
    w.menu("Back to the yard");
    w.settle();
    Hands h{static_cast<Window&>(w)};
    w.document().editDesign("ground", [](model::Design& d) { d.site.ground = model::GroundKind::Perfect; });
    w.settle();
    h.yardOf().fitTo(true);
    auto* tool = h.shape().supports();
    REQUIRE(tool->handleAt("foot").has_value());
    const QPointF top = *tool->handleAt("top");
    const double before = w.value(w.supports()[0].height);
    h.pull(top, top + QPointF(0, -20));
    CHECK(w.value(w.supports()[0].height) > before + 0.2);
    const QPointF foot = *tool->handleAt("foot");
    const std::string east = w.supports()[0].east;
    h.pull(foot, foot + QPointF(30, 4));
    CHECK((w.supports()[0].east != east || w.supports()[0].north != "0 m"));
    CHECK(w.value(w.supports()[0].height) > before + 0.2);
    // Escape in mid-drag takes it back.
    const auto site = w.document().design().site;
    h.press(*tool->handleAt("foot"));
    h.move(*tool->handleAt("foot") + QPointF(40, 0));
    QTest::keyClick(&h.yardOf(), Qt::Key_Escape);
    h.held = false;
    w.settle();
    CHECK(w.document().design().site == site);
    // Removed, it is gone; what hangs on nothing says nothing.
    w.menu("Remove selected");
    w.settle();
    CHECK(w.supports().empty());
    CHECK_FALSE(tool->handleAt("foot").has_value());
}

TEST_CASE("the plan lives through everything that can happen to its design") {
    SitePlan w;
    w.put(model::SupportKind::Tree, 6.0, 0.0);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, w.at(6.0, 0.0));
    w.document().undo();
    QTest::mouseMove(&w.canvas(), w.at(9.0, 3.0));
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, w.at(9.0, 3.0));
    CHECK(w.supports().empty());
    w.document().redo();
    w.canvas().setTool(SiteCanvas::Tool::Hang);
    w.click(w.value(w.supports()[0].east), w.value(w.supports()[0].north));
    w.document().undo();
    QTest::keyClick(&w.canvas(), Qt::Key_Return);
    w.menu("New project");
    w.settle();
    QWheelEvent wheel(QPointF(5, 5), w.canvas().mapToGlobal(QPointF(5, 5)), {}, {0, 12000}, Qt::NoButton, {},
                      Qt::NoScrollPhase, false);
    for (int i = 0; i < 30; ++i) QApplication::sendEvent(&w.canvas(), &wheel);
    w.canvas().grab();
    QTest::mouseDClick(&w.canvas(), Qt::LeftButton, {}, {40, 40});
    CHECK_FALSE(w.canvas().grab().isNull());
}
