// What views keep from one picture to the next is what they would paint anew.
#include <QLabel>
#include <QPaintEvent>
#include <QPainter>

#include "app/look/painted_words.h"
#include "app/plot/backdrop.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

QImage pictureOf(QWidget& view) {
    QImage image(view.size(), QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::white);
    view.render(&image);
    return image;
}

/// A view that has painted nothing before, with what the other one shows.
QImage freshPicture(Window& w, app::PolarView::Kind kind, app::PolarView::Scale scale) {
    app::PolarView fresh(kind);
    fresh.resize((kind == app::PolarView::Kind::Elevation ? w.elevation() : w.azimuth())->size());
    const auto results = w.session().results();
    fresh.setAnalysis(results->analysis, results->expansion->headingDeg);
    fresh.setPins(results->pins);
    fresh.setAngles(results->project->angles);
    fresh.setScale(scale);
    return pictureOf(fresh);
}

/// The places of a view that were painted since the last look.
class Painted : public QObject {
  public:
    explicit Painted(QWidget* view) : QObject(view) { view->installEventFilter(this); }
    QRegion take() { return std::exchange(region_, QRegion()); }

  protected:
    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() == QEvent::Paint) region_ += static_cast<QPaintEvent*>(event)->region();
        return false;
    }

  private:
    QRegion region_;
};

}  // namespace

TEST_CASE("a backdrop is painted once for each key, size and device, and is not kept for a printer") {
    app::Backdrop<int> backdrop;
    int painted = 0;
    const auto paintOn = [&](QImage& image, int key, const QColor& behind) {
        QPainter p(&image);
        backdrop(p, QSizeF(image.size()) / image.devicePixelRatio(), behind, key, [&](QPainter& onto) {
            ++painted;
            onto.fillRect(QRect(0, 0, 4, 4), key == 1 ? Qt::red : Qt::blue);
        });
    };
    QImage image(20, 10, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::green);
    paintOn(image, 1, Qt::transparent);
    CHECK(image.pixelColor(1, 1) == QColor(Qt::red));
    CHECK(image.pixelColor(10, 5) == QColor(Qt::green));
    paintOn(image, 1, Qt::transparent);
    CHECK(painted == 1);
    paintOn(image, 2, Qt::transparent);
    CHECK(painted == 2);
    CHECK(image.pixelColor(1, 1) == QColor(Qt::blue));
    QImage larger(40, 10, QImage::Format_ARGB32_Premultiplied);
    larger.fill(Qt::green);
    paintOn(larger, 2, Qt::white);
    CHECK(painted == 3);
    CHECK(larger.pixelColor(30, 5) == QColor(Qt::white));
    QImage fine(40, 10, QImage::Format_ARGB32_Premultiplied);
    fine.setDevicePixelRatio(2.0);
    paintOn(fine, 2, Qt::white);
    CHECK(painted == 4);
    CHECK(fine.pixelColor(7, 7) == QColor(Qt::blue));
    // Painted for reading, there is nothing to copy from.
    app::PolarView view(app::PolarView::Kind::Elevation);
    view.resize(400, 300);
    pictureOf(view);
    CHECK(app::paintedRows(view).size() > 3);
}

TEST_CASE("the instruments show what they would show if nothing were kept") {
    using View = app::PolarView;
    Window w;
    const auto same = [&](View::Scale scale) {
        pictureOf(*w.elevation());
        pictureOf(*w.azimuth());
        CHECK(pictureOf(*w.elevation()) == freshPicture(w, View::Kind::Elevation, scale));
        CHECK(pictureOf(*w.azimuth()) == freshPicture(w, View::Kind::Azimuth, scale));
    };
    same(View::Scale::Lobes);
    w.typeDimension("apex", "9 m");
    w.settle();
    same(View::Scale::Lobes);
    w.document().edit("Other angles", [](model::Project& p) { p.angles.watchDeg = {7.0, 22.0}; });
    w.settle();
    same(View::Scale::Lobes);
    w.document().editDesign("Turn", [](model::Design& d) { d.site.heading = "70"; });
    w.settle();
    same(View::Scale::Lobes);
    for (auto* view : {w.elevation(), w.azimuth()}) view->setScale(View::Scale::LinearDb);
    same(View::Scale::LinearDb);
    // From the ground into the air: the elevation goes all round.
    w.document().editDesign("Lift off",
                            [](model::Design& d) { d.site.ground = model::GroundKind::FreeSpace; });
    w.settle();
    same(View::Scale::LinearDb);
    w.bench.setNight(true);
    same(View::Scale::LinearDb);
    w.bench.setNight(false);
    same(View::Scale::LinearDb);
}

TEST_CASE("a curve of the band is dimmed while its successor is long in coming, and is of no other band") {
    Window w;
    auto* instruments = w.bench.instruments();
    auto* band = instruments->band();
    const auto* title = viewIn<QLabel>(w.bench, "bandTitle");
    const auto* headline = band->findChild<QLabel*>("bandHeadline");
    const app::ResultsPtr whole = w.session().results();
    REQUIRE(whole->sweep != nullptr);
    REQUIRE(title->text() == "60 m");
    app::Results coming = *whole;
    coming.sweep.reset();

    // Nothing flickers where it comes in a moment.
    instruments->show(std::make_shared<const app::Results>(coming));
    CHECK(headline->isEnabled());
    instruments->show(whole);
    QTest::qWait(300);
    CHECK(headline->isEnabled());

    instruments->show(std::make_shared<const app::Results>(coming));
    REQUIRE(waitFor([&] { return !headline->isEnabled(); }));
    CHECK(band->headline().contains("all 2:1"));
    // Figures that come before it do not make it new.
    instruments->setStale(false);
    CHECK_FALSE(headline->isEnabled());
    instruments->show(whole);
    CHECK(headline->isEnabled());

    coming.band = w.document().project().bands.at(2);
    coming.lowHz = coming.band.lowHz;
    coming.highHz = coming.band.highHz;
    instruments->show(std::make_shared<const app::Results>(coming));
    REQUIRE(waitFor([&] { return title->text() == "20 m"; }));
    CHECK(band->headline().isEmpty());
    CHECK(headline->isEnabled());
}

TEST_CASE("the ledger paints the figures that have changed, and leaves the pins alone") {
    Window w;
    auto* ledger = w.ledger();
    REQUIRE(ledger->rowCount() > 1);
    w.settle();
    Painted painted(ledger->viewport());
    const QString before = ledger->figure("R, X in Ω");
    const QRect name = ledger->visualItemRect(ledger->item(0, 0));
    const QRect live(0, name.top(), ledger->viewport()->width(), name.height());
    const QRect pin = ledger->visualItemRect(ledger->item(1, 0));
    REQUIRE(pin.isValid());
    w.typeDimension("leg", "13.6 m");
    w.settle();
    CHECK(ledger->figure("R, X in Ω") != before);
    const QRegion region = painted.take();
    CHECK(region.intersects(live));
    CHECK_FALSE(region.contains(pin.center()));
    // The same once more says nothing new.
    QApplication::processEvents();
    painted.take();
    ledger->show(w.session().results());
    QApplication::processEvents();
    CHECK(painted.take().isEmpty());
}
