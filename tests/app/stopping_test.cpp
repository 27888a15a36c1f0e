// Whatever is worked on: leaving it takes effect at once.
#include <cmath>

#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Hundreds of wires beside the antenna on the bench: seconds of work.
void tangle(Window& w) {
    w.document().edit("Tangle", [](model::Project& p) {
        model::Design& d = p.designs[p.activeDesign];
        model::Part wires;
        wires.name = "Wires";
        wires.shape = model::StraightWire{{"40 m", "-10 m", "20 m"}, {"40 m", "10.1 m", "20.3 m"}, "0"};
        d.parts.push_back(wires);
        model::Copy copies;
        copies.name = "Field of wires";
        copies.kind = model::CopyKind::Stack;
        copies.parts = {"Wires"};
        copies.rows = "20";
        copies.columns = "20";
        copies.rowSpacing = "3 m";
        copies.columnSpacing = "25 m";
        d.copies.push_back(copies);
        d.site.ground = model::GroundKind::FreeSpace;
    });
}

/// Processes events for so long, and answers how long the longest of them took.
double longestEvent(double seconds) {
    QElapsedTimer clock;
    clock.start();
    qint64 longest = 0;
    while (static_cast<double>(clock.elapsed()) < 1000.0 * seconds) {
        QElapsedTimer one;
        one.start();
        QApplication::processEvents(QEventLoop::AllEvents, 5);
        longest = std::max(longest, one.elapsed());
    }
    return 1e-3 * static_cast<double>(longest);
}

}  // namespace

TEST_CASE("another design shows its figures though thousands of unknowns are being worked on") {
    Window w;
    const QString first = QString::fromStdString(w.document().design().name);
    tangle(w);
    // The window lives while it is worked on.
    CHECK(longestEvent(0.6) < 0.3);
    REQUIRE_FALSE(w.live());
    REQUIRE(w.session().results()->expansion->usable());
    const auto project = w.document().share();
    const auto other = std::find_if(project->designs.begin(), project->designs.end(),
                                    [&](const auto& d) { return QString::fromStdString(d.name) != first; });
    REQUIRE(other != project->designs.end());
    QElapsedTimer clock;
    clock.start();
    w.session().chooseDesign(other->id);
    REQUIRE(waitFor([&] { return w.live() && w.analysis(); }));
    // Its own figures and a tenth of a second.
    CHECK(clock.elapsed() < 100 + static_cast<qint64>(1000.0 * w.analysis()->seconds) + 100);
}

TEST_CASE("an edit of what takes long is not waited for to be worked out") {
    Window w;
    tangle(w);
    longestEvent(0.3);
    QElapsedTimer clock;
    clock.start();
    w.document().edit("Shorter", [](model::Project& p) {
        auto& d = p.designs[p.activeDesign];
        d.copies.pop_back();
    });
    REQUIRE(waitFor([&] { return w.live() && w.analysis(); }));
    CHECK(w.analysis()->figures.unknowns < 200);
    CHECK(clock.elapsed() < 500);
}

TEST_CASE("a window closes at once whatever it works on") {
    QElapsedTimer clock;
    {
        Window w;
        tangle(w);
        longestEvent(0.4);
        w.document().undoStack()->setClean();
        clock.start();
        w.bench.close();
        QApplication::processEvents();
        CHECK(clock.elapsed() < 100);
        clock.restart();
    }
    CHECK(clock.elapsed() < 300);
}

TEST_CASE("stopped before there were figures the window says so, and the next edit works them out") {
    Window w;
    tangle(w);
    longestEvent(0.4);
    QElapsedTimer clock;
    clock.start();
    w.session().stop();
    REQUIRE(waitFor([&] { return !w.session().results()->problem.isEmpty(); }));
    CHECK(clock.elapsed() < 200);
    INFO(w.session().results()->problem.toStdString());
    CHECK(w.session().results()->problem.contains("Stopped"));
    CHECK_FALSE(w.session().results()->analysis);
    w.document().undoStack()->undo();
    w.settle();
    CHECK(w.live());
}
