// Designers' ways that go through the hands: drawn, scaled, fed where it suits, started from something good.
#include <QListWidget>
#include <QPushButton>
#include <QTimer>

#include "app/dialogs/gallery_dialog.h"
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
    CHECK(placed.place.kind == model::PlaceKind::Percent);
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
    REQUIRE(waitFor([&] { return !tune.tuning(); }));
    j.settle();
    j.menu("Pin the live result");
    j.settle();
    CHECK(j.document().project().pins.size() == 1);
    CHECK(clock.elapsed() < 60000);
}
