// What the window paints: one frame of the yard, with the wires of a large antenna.
#include <benchmark/benchmark.h>

#include <QApplication>
#include <QImage>
#include <cmath>

#include "app/stages/shape/yard_scene.h"
#include "core/study/figures.h"

namespace {

using namespace rm;

/// `count` wires in rows and columns over the ground, fed in the first, with their currents.
app::YardState yardOf(int count) {
    model::Design d;
    d.designFrequency = "14.1 MHz";
    d.site.ground = model::GroundKind::Perfect;
    for (int i = 0; i < count; ++i) {
        model::Part part;
        part.name = "Wire " + std::to_string(i);
        const std::string x = std::to_string(2 * (i % 20)) + " m";
        const std::string z = std::to_string(5 + 2 * (i / 20)) + " m";
        part.shape = model::StraightWire{{x, "-3 m", z}, {x, "3 m", z}};
        d.parts.push_back(part);
    }
    model::Feed feed;
    feed.part = "Wire 0";
    d.feeds = {feed};
    app::YardState state;
    auto expansion = std::make_shared<model::Expansion>(model::expand(d));
    state.analysis = std::make_shared<study::Analysis>(study::analyse(*expansion, 14.1e6));
    state.expansion = expansion;
    state.size = QSizeF(560, 600);
    const model::Bounds box = expansion->model.bounds();
    state.centreM = state.camera.target = box.centre();
    state.camera.distanceM = box.diagonal();
    return state;
}

void yardFrame(benchmark::State& bench) {
    const app::YardState state = yardOf(static_cast<int>(bench.range(0)));
    app::GroundLayer ground;
    QImage image(560, 600, QImage::Format_ARGB32_Premultiplied);
    for (auto _ : bench) {
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        app::YardScene(state, painter, &ground).paint();
    }
}
BENCHMARK(yardFrame)->Arg(5)->Arg(50)->Arg(200)->Unit(benchmark::kMillisecond);

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QApplication app(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
