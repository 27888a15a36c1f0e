// The threads of the window without its views: document, runner and tasks under edits that come faster than
// they can be worked out. Under the thread sanitizer (preset threads) a race ends it.
#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <algorithm>
#include <catch2/catch.hpp>
#include <cstdio>
#include <cstdlib>
#include <random>
#include <thread>

#include "app/session/guard.h"
#include "app/session/session.h"
#include "core/project/project_file.h"
#include "core/study/sweep.h"
#include "core/study/tuning/tune.h"
#include "run_tests.h"

using namespace rm;

namespace {

/// The sanitizer makes everything ten times slower.
constexpr int kRounds = 60;

void rest(int ms) {
    QElapsedTimer clock;
    clock.start();
    do QApplication::processEvents(QEventLoop::AllEvents, 2);
    while (clock.elapsed() < ms);
}

/// How long what is worked out may take before it counts as hanging.
#ifdef __SANITIZE_THREAD__
constexpr int kPatienceMs = 900000;
#else
constexpr int kPatienceMs = 120000;
#endif

bool waitFor(const std::function<bool()>& ready, int ms = kPatienceMs) {
    QElapsedTimer clock;
    clock.start();
    while (!ready() && clock.elapsed() < ms) QApplication::processEvents(QEventLoop::AllEvents, 5);
    return ready();
}

}  // namespace

TEST_CASE("edits faster than they are worked out: what comes at last is of the last") {
    app::Session session;
    session.document().adopt(io::readProject(RM_SOURCE_DIR "/demo/heron_point.json"), {});
    std::mt19937 chance(7);
    const auto upTo = [&](int n) { return static_cast<int>(chance() % static_cast<unsigned>(n)); };
    int published = 0;
    app::Wants wants;
    QObject::connect(&session, &app::Session::resultsChanged, [&](const app::ResultsPtr& results) {
        published++;
        // Whatever is shown is of one model.
        if (results->analysis) CHECK(results->expansion != nullptr);
    });
    int afterwards = 0;
    for (int round = 0; round < kRounds; ++round) {
        switch (upTo(8)) {
            case 0:
                session.chooseDesign(session.project()
                                         .designs[static_cast<std::size_t>(
                                             upTo(static_cast<int>(session.project().designs.size())))]
                                         .id);
                break;
            case 1:
                session.chooseBand(upTo(static_cast<int>(session.project().bands.size())));
                break;
            case 2:
                session.document().undo();
                break;
            case 3:
                session.stop();
                break;
            case 4:
                wants.lobe = upTo(2) == 0;
                wants.patterns = upTo(2) == 0;
                session.setWants(wants);
                break;
            case 5:
                session.task().start(
                    [design = session.expansion(), hz = session.frequencyHz(), &afterwards](
                        std::stop_token stop, const app::Task::Progress& progress) -> app::Task::After {
                        if (!design->usable()) return [] {};
                        const auto swept = study::sweep(*design, 0.99 * hz, 1.01 * hz, 9, stop, progress);
                        return [&afterwards, n = swept.points.size()] { afterwards += n > 0 ? 1 : 0; };
                    });
                break;
            default:
                session.document().editDesign(
                    "Height", [&](model::Design& d) { d.site.height = std::to_string(6 + upTo(12)) + " m"; },
                    upTo(2) == 0 ? "height" : "");
        }
        if (upTo(3) > 0) rest(upTo(60));
    }
    session.restart();
    REQUIRE(waitFor([&] { return session.settled() && !session.task().running(); }));
    CHECK(published > 0);
    CHECK(session.results()->project == session.document().share());
    REQUIRE(session.results()->analysis);
    // The same, worked out by itself.
    const auto alone = study::analyse(*session.expansion(), session.frequencyHz());
    CHECK(session.results()->analysis->figures.swr == Approx(alone.figures.swr).epsilon(0.02));
}

TEST_CASE("tasks that are dropped, stopped and started anew leave nothing behind") {
    int ended = 0;
    {
        app::Task task;
        QObject::connect(&task, &app::Task::done, [&] { ended++; });
        for (int i = 0; i < kRounds; ++i) {
            task.start([i](std::stop_token stop, const app::Task::Progress& progress) -> app::Task::After {
                for (int step = 0; step < 200 && !stop.stop_requested(); ++step) progress(step / 200.0);
                if (i % 7 == 3) throw Error("This one fails.");
                return [] {};
            });
            if (i % 3 == 0) task.stop();
            if (i % 5 == 0) task.drop();
            if (i % 2 == 0) rest(1);
        }
        REQUIRE(waitFor([&] { return !task.running(); }));
        // One more is let go with its owner.
        task.start([](std::stop_token stop, const app::Task::Progress&) -> app::Task::After {
            while (!stop.stop_requested()) std::this_thread::yield();
            return [] {};
        });
    }
    rest(50);
    CHECK(ended > 0);
}

TEST_CASE("tuning beside a bench that is edited") {
    app::Session session;
    session.document().adopt(io::readProject(RM_SOURCE_DIR "/demo/heron_point.json"), {});
    const auto& designs = session.project().designs;
    const auto tuned =
        std::find_if(designs.begin(), designs.end(), [](const auto& d) { return d.name == "Yagi, 70 MHz"; });
    REQUIRE(tuned != designs.end());
    session.chooseDesign(tuned->id);
    REQUIRE(waitFor([&] { return session.settled(); }));
    double best = 0.0;
    session.task().start([design = session.design(), bands = session.project().bands, &best](
                             std::stop_token stop, const app::Task::Progress& progress) -> app::Task::After {
        study::TuneOptions options;
        options.maxEvaluations = 40;
        options.maxSeconds = 20.0;
        options.stop = stop;
        options.progress = [&progress](const study::TuneState&) { progress(0.5); };
        const auto result = study::tune(design, bands, options);
        return [&best, n = result.best.evaluations] { best = static_cast<double>(n); };
    });
    for (int i = 0; i < 20; ++i) {
        session.document().editDesign(
            "Height", [&](model::Design& d) { d.site.height = std::to_string(5 + i % 4) + " m"; }, "height");
        rest(30);
    }
    REQUIRE(waitFor([&] { return session.settled() && !session.task().running(); }));
    CHECK(best > 0.0);
}

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    const QTemporaryDir recovery;
    qputenv("REEDMAST_RECOVERY", recovery.path().toUtf8());
    app::GuardedApplication application(argc, argv);
    const int code = test::runTests(argc, argv);
    // As in the program: work that was let go may still be under way, and nobody waits for it.
    std::fflush(nullptr);
    std::_Exit(code);
}
