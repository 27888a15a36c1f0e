// Every view painted with nothing, with one thing and with more than fits; everything that runs, stopped and
// started again.
#include <QPainter>

#include "app/stages/tune/scan_view.h"
#include "app/stages/tune/tolerance_view.h"
#include "app/stages/tune/tune_stage.h"
#include "core/edit/pins.h"
#include "journey.h"

#include <QPushButton>

using namespace rm;
using namespace rm::test;

namespace {

/// Every stage and page of the Tune mode in front once, painted while it works and when it has settled.
void paintEverything(Journey& w) {
    for (const auto& stage : w.bench.stages()) {
        INFO(stage->name().toStdString());
        w.bench.showStage(stage->name());
        w.bench.grab();
        w.settle();
        const QImage picture = w.bench.grab().toImage();
        CHECK(picture.width() >= 1000);
    }
    for (std::size_t page = 0; page < 4; ++page) {
        w.bench.openStage("tune", page);
        w.bench.grab();
        w.settle();
        w.bench.grab();
    }
    for (const auto quantity :
         {app::BandQuantity::Swr, app::BandQuantity::Impedance, app::BandQuantity::Smith,
          app::BandQuantity::ReturnLoss, app::BandQuantity::Phase, app::BandQuantity::Loss,
          app::BandQuantity::Gain, app::BandQuantity::FrontToBack, app::BandQuantity::Takeoff})
        for (const auto plane : {study::Plane::Radio, study::Plane::Antenna}) {
            w.session().showQuantity(quantity, plane);
            w.bench.grab();
        }
    w.session().showQuantity(app::BandQuantity::Swr, study::Plane::Radio);
    w.settle();
}

}  // namespace

TEST_CASE("every view is painted with nothing") {
    Journey w;
    w.clear();
    w.document().edit("No bands", [](model::Project& p) { p.bands.clear(); });
    w.settle();
    paintEverything(w);
    CHECK_FALSE(w.live());
    w.undo();
}

TEST_CASE("every view is painted with one thing") {
    Journey w;
    paintEverything(w);
    CHECK(w.live());
}

TEST_CASE("every view is painted with more than fits") {
    Journey w;
    w.document().edit("Many", [](model::Project& p) {
        model::Design& d = p.designs[0];
        for (int i = 0; i < 40; ++i) {
            model::Dimension dimension;
            dimension.name = "dimension_with_a_long_name_" + std::to_string(i);
            dimension.text = "0.25*lambda + 0.001*lambda*" + std::to_string(i);
            d.dimensions.push_back(dimension);
            model::Goal goal;
            goal.limit = "1." + std::to_string(i + 1);
            if (i < 12) d.tune.goals.push_back(goal);
            model::FeedBlock block;
            block.kind = model::BlockKind::Cable;
            block.length = "1 m";
            block.name = "Cable with a long name " + std::to_string(i);
            if (i < 12) d.feedPath.push_back(block);
        }
        d.name = "A design with a name that is longer than any list that it could ever stand in";
        p.title = "A project with a title that is longer than any bar";
        for (int i = 0; i < 12; ++i) p = edit::addPin(std::move(p), d.name, p.active());
        for (int i = 0; i < 8; ++i) p = edit::copyDesign(std::move(p));
        p.activeDesign = 0;
    });
    w.settle();
    paintEverything(w);
    CHECK(w.live());
    CHECK(w.bench.minimumSizeHint().width() <= 1280);
}

TEST_CASE("whatever runs can be stopped and started again") {
    Journey w;
    w.document().editDesign("Plan", [](model::Design& d) {
        model::Goal gain;
        gain.kind = model::GoalKind::Gain;
        d.tune.goals = {gain};
        model::Mover mover;
        mover.dimension = "span";
        d.tune.movers = {mover};
    });
    w.settle();
    const auto twice = [&](const char* name, const std::function<void()>& start) {
        INFO(name);
        start();
        w.bench.stop();
        w.settle();
        start();
        w.typeDimension("span", "10.3 m");
        w.settle();
        start();
        w.session().chooseBand(2);
        w.bench.stop();
        w.settle();
        CHECK(w.live());
        w.session().chooseBand(1);
        w.settle();
    };
    twice("heights", [&] { w.bench.openStage("heights"); });
    twice("grounds", [&] { w.bench.openStage("grounds"); });
    twice("compare", [&] { w.bench.openStage("compare"); });
    twice("matters", [&] { w.bench.openStage("tune", 1); });
    twice("tolerance", [&] {
        w.bench.openStage("tune", 2);
        w.find<app::ToleranceView>()->run()->click();
    });
    twice("scan", [&] {
        w.bench.openStage("tune", 3);
        w.find<app::ScanView>()->run()->click();
    });
    twice("resonance", [&] { w.editing().findResonance(); });
    auto& tune = w.stage<app::TuneStage>("tune");
    w.bench.openStage("tune");
    tune.tune();
    w.bench.stop();
    REQUIRE(waitFor([&] { return !tune.tuning(); }));
    tune.tune();
    // Another project while it works.
    w.document().startNew();
    CHECK_FALSE(tune.tuning());
    w.settle();
    CHECK(w.live());
    CHECK_FALSE(w.session().trial().has_value());
}
