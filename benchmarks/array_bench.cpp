// Speed of arrays: many Yagis over ground, a stacking distance dragged, a drive set switched.
#include <benchmark/benchmark.h>
#include <sys/resource.h>

#include <chrono>

#include "core/build/care.h"
#include "core/project/project_file.h"
#include "core/study/drive_study.h"
#include "core/study/tuning/tune.h"

using namespace rm;

namespace {

/// 4 x 4 Yagis of 11 elements for 144 MHz, as one element row and a stack.
model::Design sixteenYagis() {
    model::Design d;
    d.designFrequency = "144.3 MHz";
    model::ElementRow row;
    row.start = {"0 m", "0 m", "8 m"};
    const double position[] = {0.0, 0.45, 0.62, 0.98, 1.45, 2.0, 2.6, 3.25, 3.95, 4.7, 5.4};
    const double length[] = {1.02, 0.98, 0.945, 0.93, 0.918, 0.908, 0.9, 0.892, 0.886, 0.88, 0.87};
    for (int i = 0; i < 11; ++i) {
        model::RowElement e;
        e.name = "element " + std::to_string(i);
        e.position = std::to_string(position[i]) + " m";
        e.length = std::to_string(length[i]) + " m";
        row.elements.push_back(e);
    }
    model::Part part;
    part.name = "Yagi";
    part.conductor = {"aluminium-6061", "6 mm", "", "3"};
    part.shape = row;
    d.parts = {part};
    model::Feed feed;
    feed.part = "Yagi";
    feed.place.element = "element 1";
    d.feeds = {feed};
    model::Copy stack;
    stack.rows = stack.columns = "4";
    stack.rowSpacing = stack.columnSpacing = "3 m";
    d.copies = {stack};
    d.site.ground = model::GroundKind::Real;
    return d;
}

/// Cold: a new frequency every time, so that neither tables nor pairs are left from before. Impedances, peak
/// and both cuts.
void sixteenYagisOverGround(benchmark::State& state) {
    const auto design = model::expand(sixteenYagis());
    double hz = 144.3e6;
    std::size_t unknowns = 0;
    for (auto _ : state) unknowns = study::analyse(design, hz += 1e3).figures.unknowns;
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    state.counters["unknowns"] = static_cast<double>(unknowns);
    state.counters["peak_MB"] = static_cast<double>(usage.ru_maxrss) / 1024.0;
}
BENCHMARK(sixteenYagisOverGround)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(3);

model::Design stackedPair() {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    for (const auto& design : project.designs)
        if (!design.driveSets.empty()) {
            auto pair = design;
            pair.parts.resize(1);  // the two Yagis alone
            return pair;
        }
    return {};
}

/// One step of the stacking distance of two Yagis over ground: worked out, solved, peak and both cuts.
void stackingDistanceDragged(benchmark::State& state) {
    auto design = stackedPair();
    double spacing = 3.0;
    for (auto _ : state) {
        design.copies.at(0).rowSpacing = std::to_string(spacing += 1e-3) + " m";
        const auto e = model::expand(design);
        benchmark::DoNotOptimize(study::analyse(e, 70.2e6).figures.peak.gainDbi);
    }
}
BENCHMARK(stackingDistanceDragged)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The other drive set: worked out, the circuit closed again on the field solution kept, peak and both cuts.
void driveSetSwitched(benchmark::State& state) {
    auto design = stackedPair();
    study::FieldStore fields;
    study::AnalysisOptions options;
    options.fields = &fields;
    study::analyse(model::expand(design), 70.2e6, options);
    for (auto _ : state) {
        design.driveSet = 1 - design.driveSet;
        const auto e = model::expand(design);
        benchmark::DoNotOptimize(study::analyse(e, 70.2e6, options).figures.peak.gainDbi);
    }
    state.counters["field_solutions"] = fields.solutions() - 1;
    const auto solution = fields.solve(fields.mesh(model::expand(design).model, 70.2e6), 70.2e6);
    const auto e = model::expand(design);
    const int runs = 1000;
    const auto begin = std::chrono::steady_clock::now();
    for (int i = 0; i < runs; ++i)
        benchmark::DoNotOptimize(circuit::closePorts(e.model, *solution).inputPowerW);
    state.counters["circuit_us"] =
        1e6 * std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count() / runs;
}
BENCHMARK(driveSetSwitched)->Unit(benchmark::kMillisecond)->UseRealTime();

/// What every length of two stacked Yagis matters, and how close each piece is to be kept to it, for a cut
/// list at a frequency that nothing is kept of.
void cutsWeighed(benchmark::State& state) {
    const auto design = stackedPair();
    double hz = 70.2e6;
    for (auto _ : state) benchmark::DoNotOptimize(build::careOf(design, hz += 1e3));
}
BENCHMARK(cutsWeighed)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(3);

/// Nine dimensions of a five-element Yagi from a poor start: flat SWR, front-to-rear and gain at five
/// frequencies, under a limit of the boom.
void tuneNineDimensions(benchmark::State& state) {
    model::Design d;
    d.designFrequency = "50.25 MHz";
    model::ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    const auto add = [&](const std::string& name, double metres, double reach) {
        model::Dimension dimension;
        dimension.name = name;
        dimension.text = std::to_string(metres) + " m";
        dimension.low = std::to_string(metres - reach) + " m";
        dimension.high = std::to_string(metres + reach) + " m";
        d.dimensions.push_back(dimension);
        model::Mover mover;
        mover.dimension = name;
        d.tune.movers.push_back(mover);
        return name;
    };
    for (int i = 0; i < 5; ++i) {
        model::RowElement e;
        e.name = "element " + std::to_string(i);
        e.length = add("long" + std::to_string(i), 2.9 - 0.05 * i, 0.4);
        e.position = i == 0 ? "0 m" : add("at" + std::to_string(i), 1.15 * i, 0.45);
        row.elements.push_back(e);
    }
    model::Part part;
    part.name = "Yagi";
    part.conductor = {"aluminium-6061", "12 mm", "", "3"};
    part.shape = row;
    d.parts = {part};
    model::Feed feed;
    feed.part = "Yagi";
    feed.place.element = "element 1";
    d.feeds = {feed};
    const auto goal = [&](model::GoalKind kind, const char* limit) {
        model::Goal g;
        g.kind = kind;
        g.limit = limit;
        g.from = "50 MHz";
        g.to = "50.5 MHz";
        d.tune.goals.push_back(g);
    };
    goal(model::GoalKind::Swr, "1.5");
    goal(model::GoalKind::FrontToRear, "18");
    goal(model::GoalKind::Gain, "9.3");
    model::BuildLimit boom;
    boom.value = "4.9 m";
    d.tune.limits = {boom};
    long evaluations = 0;
    int met = 0;
    for (auto _ : state) {
        const auto result = study::tune(d, {});
        evaluations = result.best.evaluations;
        met = 0;
        for (const auto& g : result.rounded) met += g.met() ? 1 : 0;
    }
    state.counters["goals_met"] = met;
    state.counters["solved"] = static_cast<double>(evaluations);
}
BENCHMARK(tuneNineDimensions)->Unit(benchmark::kSecond)->UseRealTime()->Iterations(1);

}  // namespace
