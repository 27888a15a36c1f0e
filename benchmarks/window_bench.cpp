// What the window paints: one frame of the yard, with the wires of a large antenna; and how soon after an
// edit its picture is on the screen, for each design of the demo and while a tuning runs.
#include <benchmark/benchmark.h>

#include <QApplication>
#include <QElapsedTimer>
#include <QImage>
#include <QTemporaryDir>
#include <algorithm>
#include <cmath>

#include "app/frame/bench.h"
#include "app/instruments/instruments.h"
#include "app/stages/shape/yard_scene.h"
#include "app/stages/tune/tune_stage.h"
#include "core/project/project_file.h"
#include "core/study/figures.h"
#include "long_yagi.h"

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
    app::YardLayers layers;
    QImage image(560, 600, QImage::Format_ARGB32_Premultiplied);
    for (auto _ : bench) {
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        app::YardScene(state, painter, &layers).paint();
    }
}
/// A window on a project, whose dimensions are dragged.
class Dragged {
  public:
    explicit Dragged(const QString& file) {
        bench.resize(1280, 800);
        bench.show();
        QObject::connect(bench.instruments(), &app::Instruments::painted, &bench,
                         [this](const app::ResultsPtr& results) { painted_ = results->generation; });
        bench.files().open(file);
        waitFor([this] { return bench.settled(); });
    }
    ~Dragged() { bench.session().document().undoStack()->setClean(); }

    static bool waitFor(const std::function<bool()>& ready) {
        QElapsedTimer clock;
        clock.start();
        while (!ready() && clock.elapsed() < 20000) QApplication::processEvents(QEventLoop::AllEvents, 1);
        return ready();
    }
    /// Changes the first dimension that is a plain length a little; returns ms until its picture is there, as
    /// the window itself counts them.
    double drag(int step) {
        bench.session().document().editDesign("Drag", [&](model::Design& d) {
            for (auto& dimension : d.dimensions) {
                if (dimension.kind != model::DimensionKind::Length || !dimension.text.ends_with(" m"))
                    continue;
                const double metres = std::stod(dimension.text);
                dimension.text = std::to_string(metres * (step % 2 == 0 ? 1.002 : 1.0 / 1.002)) + " m";
                return;
            }
        });
        const bool there = waitFor(
            [this] { return bench.session().live() && painted_ == bench.session().results()->generation; });
        return there ? bench.latencyMs() : 1e6;
    }

    app::Bench bench;

  private:
    quint64 painted_ = 0;
};

void reportDrags(benchmark::State& bench, Dragged& window) {
    std::vector<double> all;
    int step = 0;
    for (auto _ : bench) {
        const double ms = window.drag(step++);
        bench.SetIterationTime(1e-3 * ms);
        all.push_back(ms);
        // A hand moves sixty times a second at most.
        QElapsedTimer rest;
        rest.start();
        while (rest.elapsed() < 16) QApplication::processEvents(QEventLoop::AllEvents, 1);
    }
    std::sort(all.begin(), all.end());
    bench.counters["median_ms"] = all[all.size() / 2];
    bench.counters["nine_of_ten_ms"] = all[all.size() * 9 / 10];
    bench.counters["worst_ms"] = all.back();
}

/// From an edit to its picture, for a design of the demo.
void editToPicture(benchmark::State& bench) {
    Dragged window(RM_SOURCE_DIR "/demo/heron_point.json");
    auto& session = window.bench.session();
    const auto designs = session.project().designs;
    const auto which = static_cast<std::size_t>(bench.range(0));
    if (which >= designs.size()) return;
    session.chooseDesign(designs[which].id);
    Dragged::waitFor([&] { return window.bench.settled(); });
    bench.SetLabel(designs[which].name);
    reportDrags(bench, window);
}
BENCHMARK(editToPicture)->DenseRange(0, 9)->Iterations(40)->UseManualTime()->Unit(benchmark::kMillisecond);

/// The whole window painted, as after an edit that changes all of it.
void wholeWindow(benchmark::State& bench) {
    Dragged window(RM_SOURCE_DIR "/demo/heron_point.json");
    auto& session = window.bench.session();
    const auto designs = session.project().designs;
    session.chooseDesign(designs.at(static_cast<std::size_t>(bench.range(0))).id);
    Dragged::waitFor([&] { return window.bench.settled(); });
    bench.SetLabel(session.design().name);
    for (auto _ : bench) window.bench.repaint();
}
BENCHMARK(wholeWindow)->DenseRange(0, 9)->Unit(benchmark::kMillisecond);

/// From an edit to its picture on a dipole while eleven elements are tuned.
void dragWhileTuning(benchmark::State& bench) {
    const QTemporaryDir folder;
    model::Project project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    project.designs.push_back(test::longYagi());
    project.designs.back().name = "Long Yagi";
    const auto file = folder.filePath("tuning.json");
    io::writeProject(project, file.toStdString());
    Dragged window(file);
    auto& session = window.bench.session();
    if (bench.range(0) != 0) {
        session.chooseDesign(session.project().designs.back().id);
        Dragged::waitFor([&] { return window.bench.settled(); });
        window.bench.openStage("tune");
        dynamic_cast<app::TuneStage*>(window.bench.stage("tune"))->tune();
        window.bench.showStage("shape");
    }
    session.chooseDesign(session.project().designs[static_cast<std::size_t>(bench.range(1))].id);
    Dragged::waitFor([&] { return session.live(); });
    bench.SetLabel(session.design().name + (bench.range(0) != 0 ? ", tuning" : ", idle"));
    reportDrags(bench, window);
    window.bench.stop();
    Dragged::waitFor([&] { return !dynamic_cast<app::TuneStage*>(window.bench.stage("tune"))->tuning(); });
}
BENCHMARK(dragWhileTuning)
    ->ArgsProduct({{0, 1}, {0, 6}})
    ->Iterations(60)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);

BENCHMARK(yardFrame)->Arg(5)->Arg(50)->Arg(200)->Unit(benchmark::kMillisecond);

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QApplication app(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
