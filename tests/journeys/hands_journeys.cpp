// Designers' ways that go through the hands: drawn, scaled, fed where it suits, started from something good.
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTimer>

#include "app/dialogs/gallery_dialog.h"
#include "app/stages/site/site_stage.h"
#include "app/stages/tune/tune_stage.h"
#include "hands.h"
#include "journey.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("journey: a loop is drawn on the grass, scaled down, raised, and fed in the middle of a side") {
    Journey j;
    Hands h{j};
    j.clear();
    h.yardOf().viewFromAbove();
    j.menu("Draw a wire with the pen");
    const QPointF middle(0.5 * h.yardOf().width(), 0.5 * h.yardOf().height());
    h.move(middle);
    h.keys("g");
    for (const auto& [x, y] : {std::pair{-70, -60}, {70, -60}, {70, 60}, {-70, 60}}) {
        h.move(middle + QPointF(x, y));
        h.click(middle + QPointF(x, y));
    }
    REQUIRE(h.shape().pen()->points().size() == 4);
    h.click(middle + QPointF(-70, -60));
    REQUIRE(j.design().parts.size() == 1);
    const auto& bent = std::get<model::BentWire>(j.design().parts.front().shape);
    CHECK(bent.closed);
    CHECK(bent.points.size() == 4);
    // On the grass it is no antenna yet; raised it is.
    j.site("average", "9 m");
    j.select(j.item(Journey::Type::Part));
    h.yardOf().viewFromAbove();
    j.settle();
    const auto perimeter = [&] {
        double sum = 0.0;
        for (const auto& wire : j.session().expansion()->model.wires) sum += wire.lengthM();
        return sum;
    };
    const double drawn = perimeter();
    const double wanted = 1.05 * wavelengthM(j.session().frequencyHz());
    h.set("scale", QString::number(wanted / drawn, 'f', 4));
    CHECK(perimeter() == Approx(wanted).epsilon(0.002));
    // The feed goes to the middle of the second side.
    const auto& wires = j.session().expansion()->model.wires;
    const QPointF side = h.at(0.5 * (wires[1].startM + wires[1].endM));
    const QPointF feed = *h.shape().feeds()->markAt("Feed");
    h.pull(feed, side + QPointF(2, 2));
    const auto& placed = j.design().feeds.front();
    CHECK(placed.place.kind == model::PlaceKind::Side);
    CHECK(placed.place.value == "2");
    const auto& at = j.session().expansion()->model.feeds.front().place;
    CHECK(at.wire == 1);
    CHECK(at.at == Approx(0.5).margin(1e-6));
    j.sound();
    CHECK(j.analysis()->figures.antennaOhm.real() > 40.0);
    CHECK(j.analysis()->figures.antennaOhm.real() < 250.0);
    j.thereAndBack();
}

TEST_CASE("journey: a starter for two bands, tuned and pinned within a minute") {
    Journey j;
    QElapsedTimer clock;
    clock.start();
    auto* timer = new QTimer(qApp);
    QObject::connect(timer, &QTimer::timeout, qApp, [timer] {
        auto* gallery = qobject_cast<app::GalleryDialog*>(QApplication::activeModalWidget());
        if (gallery == nullptr) return;
        timer->stop();
        timer->deleteLater();
        gallery->choose("fan-dipole");
        for (auto* box : gallery->findChildren<QComboBox*>())
            if (box->accessibleName() == "and") box->setCurrentText("15 m");
        gallery->choose("fan-dipole");
        QTest::mouseClick(gallery->take(), Qt::LeftButton);
    });
    timer->start(5);
    j.menu("New design…");
    j.settle();
    REQUIRE(j.design().name == "Fan dipole");
    CHECK(j.design().feeds.front().with.size() == 1);
    j.sound();
    j.band("15 m");
    CHECK(j.swr() < 2.5);
    j.band("20 m");
    CHECK(j.swr() < 2.0);
    j.menu("Tune");
    auto& tune = j.stage<app::TuneStage>("tune");
    tune.tune();
    while (tune.tuning() && clock.elapsed() < 60000) QApplication::processEvents(QEventLoop::AllEvents, 5);
    REQUIRE_FALSE(tune.tuning());
    j.settle();
    j.menu("Pin the live result");
    j.settle();
    CHECK(j.document().project().pins.size() == 1);
    CHECK(clock.elapsed() < 60000);
}

TEST_CASE("journey: an inverted L from a mast to a tree, with its rope, and the tree is moved") {
    Journey j;
    j.clear();
    j.site("average", "0 m");
    j.menu("Plan of the site");
    auto& canvas = *viewIn<app::SiteFrame>(j.bench)->canvas();
    const auto click = [&](double east, double north) {
        QTest::mouseClick(&canvas, Qt::LeftButton, {}, canvas.at({east, north}).toPoint());
        j.settle();
    };
    using Kind = model::SupportKind;
    for (const auto& [kind, east] : {std::pair{Kind::Peg, 0.4}, {Kind::Mast, 1.2}, {Kind::Tree, 7.0}}) {
        canvas.setTool(app::SiteCanvas::Tool::Put, kind);
        click(east, 0.0);
    }
    REQUIRE(j.design().site.supports.size() == 3);
    // Typed to the place where they stand.
    const struct {
        std::size_t index;
        const char* east;
        const char* height;
    } places[] = {{0, "0 m", "0.5 m"}, {1, "0 m", "12 m"}, {2, "22 m", "9 m"}};
    for (const auto& place : places) {
        j.select({Journey::Type::Support, j.design().site.supports[place.index].id});
        j.type("East", place.east);
        j.type("North", "0 m");
        j.type("Height", place.height);
    }
    canvas.fit();
    QTest::mouseClick(viewIn<app::SiteFrame>(j.bench)->findChild<QToolButton*>("Hang a wire"),
                      Qt::LeftButton);
    // Peg and mast stand on one spot of the plan: the wire goes up from the one to the other by its fields.
    click(0.0, 0.0);
    click(22.0, 0.0);
    QTest::keyClick(&canvas, Qt::Key_Return);
    j.settle();
    REQUIRE(j.design().parts.size() == 1);
    j.press("One more");
    j.choose("From", "Peg");
    j.choose("Over 1", "Mast");
    j.choose("To", "Tree");
    j.choose("Held by", "start");
    j.type("Length", "21 m");
    j.select(j.item(Journey::Type::Feed));
    j.choose("Place", "start");
    j.select(j.item(Journey::Type::Part));
    j.settle();
    const double level = std::hypot(22.0, 3.0);
    const auto rope = [&] {
        REQUIRE(j.session().expansion()->hung.size() == 1);
        return j.session().expansion()->hung.front().ropeEndLengthM;
    };
    CHECK(rope() == Approx(11.5 + level - 21.0));
    auto* note = j.editor()->findChild<QLabel*>("hungNote");
    REQUIRE(note != nullptr);
    CHECK(note->text().contains(QString::number(rope(), 'f', 3)));
    // Radials under its start, and it is an antenna.
    j.menu("Radial system under the antenna");
    j.settle();
    j.sound();
    const double before = j.analysis()->figures.antennaOhm.real();
    // The tree moves out; the wire follows and keeps its length, the rope grows.
    j.menu("Plan of the site");
    canvas.fit();
    const QPoint tree = canvas.at({22.0, 0.0}).toPoint();
    const QPoint to = canvas.at({22.0, 6.0}).toPoint();
    QTest::mousePress(&canvas, Qt::LeftButton, {}, tree);
    for (int i = 1; i <= 4; ++i) {
        const QPointF now = QPointF(tree) + 0.25 * i * QPointF(to - tree);
        QMouseEvent event(QEvent::MouseMove, now, canvas.mapToGlobal(now), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(&canvas, &event);
    }
    QTest::mouseRelease(&canvas, Qt::LeftButton, {}, to);
    j.settle();
    CHECK(rope() > 11.5 + level - 21.0 + 0.5);
    CHECK(j.session().expansion()->hung.front().wireLengthM == Approx(21.0));
    j.sound();
    CHECK(j.analysis()->figures.antennaOhm.real() == Approx(before).epsilon(0.3));
    j.thereAndBack();
}

TEST_CASE("journey: three sloping radials from one by turning it twice") {
    Journey j;
    Hands h{j};
    j.clear();
    j.site("average", "0 m");
    j.menu("Straight wire");
    j.settle();
    const auto ends = [&](const char* point, const char* a, const char* b, const char* c) {
        j.type(QString(point) + ", forward", a);
        j.type(QString(point) + ", left", b);
        j.type(QString(point) + ", up", c);
    };
    ends("Start", "0 m", "0 m", "5 m");
    ends("End", "0 m", "0 m", "10 m");
    j.menu("Straight wire");
    j.settle();
    ends("Start", "0 m", "0 m", "5 m");
    ends("End", "4 m", "0 m", "2.5 m");
    for (int i = 0; i < 2; ++i) {
        j.menu("Duplicate selected");
        j.settle();
        // About its own upper end, which the others share: R turns what is in hand.
        h.click(h.grip("end"));
        h.keys("r");
        h.keys("120");
        h.enter();
    }
    const auto& wires = j.session().expansion()->model.wires;
    REQUIRE(wires.size() == 4);
    Vec3 sum = Vec3::Zero();
    for (std::size_t i = 1; i < 4; ++i) {
        CHECK((wires[i].startM - Vec3(0, 0, 5)).norm() < 1e-6);
        CHECK(wires[i].endM.z() == Approx(2.5).margin(1e-6));
        sum += wires[i].endM - wires[i].startM;
    }
    // Evenly spread: level they cancel.
    CHECK(sum.head<2>().norm() < 0.02);
    j.select(j.item(Journey::Type::Feed));
    j.choose("Place", "start");
    j.sound();
    j.thereAndBack();
}
