// Speed of the engine, each row beside the floor of this machine measured in the same run: a LAPACK
// factorisation of the same size, and the throughput of the vector sine and cosine. Run:
// build/release/benchmarks/reedmast-bench
#include <benchmark/benchmark.h>
#include <cblas.h>
#include <lapacke.h>

#include <chrono>
#include <cmath>
#include <complex>

#include "antennas.h"
#include "core/em/ground/ground_table.h"
#include "core/em/kernel_arrays.h"
#include "core/em/near_field.h"
#include "core/em/rotational.h"
#include "core/project/project_file.h"
#include "core/study/compare.h"
#include "core/study/figures.h"
#include "core/study/lobe_grid.h"
#include "core/study/sweep.h"

using namespace rm;
using namespace rm::test;

namespace {

double secondsOf(const auto& work) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

/// Best of several runs of a LAPACK factorisation of a random complex matrix.
double factorisationSeconds(int n, int threads) {
    openblas_set_num_threads(threads);
    const Eigen::MatrixXcd original = Eigen::MatrixXcd::Random(n, n);
    double best = 1e9;
    const int runs = n > 500 ? 3 : 200;
    for (int i = 0; i < runs; ++i) {
        Eigen::MatrixXcd a = original;
        std::vector<lapack_int> pivots(static_cast<std::size_t>(n));
        best =
            std::min(best, secondsOf([&] {
                         LAPACKE_zgetrf(LAPACK_COL_MAJOR, n, n,
                                        reinterpret_cast<lapack_complex_double*>(a.data()), n, pivots.data());
                     }));
    }
    // The engine keeps the library on one thread: so it finds it again.
    openblas_set_num_threads(1);
    return best;
}

/// Best of several runs of a piece of work.
double bestSeconds(int runs, const auto& work) {
    double best = 1e9;
    for (int i = 0; i < runs; ++i) best = std::min(best, secondsOf(work));
    return best;
}

void sinCosThroughput(benchmark::State& state) {
    std::vector<double> x(4096);
    std::vector<double> c(x.size());
    std::vector<double> s(x.size());
    for (std::size_t i = 0; i < x.size(); ++i) x[i] = 0.01 * static_cast<double>(i);
    for (auto _ : state) {
        em::sinCos(x.data(), static_cast<int>(x.size()), c.data(), s.data());
        benchmark::DoNotOptimize(s.data());
    }
    state.counters["ns_per_pair"] =
        benchmark::Counter(static_cast<double>(state.iterations()) * static_cast<double>(x.size()) * 1e-9,
                           benchmark::Counter::kIsRate | benchmark::Counter::kInvert);
}
BENCHMARK(sinCosThroughput);

/// Half-wave dipole in free space: impedance, elevation and azimuth cuts, warm.
void dipoleWithCuts(benchmark::State& state) {
    const auto m = dipole(0.5 * wavelengthM(14.1e6), 0.001);
    std::size_t unknowns = 0;
    for (auto _ : state) {
        const auto s = solve(m, 14.1e6);
        unknowns = s.solution.unknowns;
        benchmark::DoNotOptimize(study::elevationCut(*s.mesh, s.reading, 0.0, 1.0));
        benchmark::DoNotOptimize(study::azimuthCut(*s.mesh, s.reading, 0.0, 1.0));
    }
    state.counters["unknowns"] = static_cast<double>(unknowns);
    const double own = bestSeconds(200, [&] {
        const auto s = solve(m, 14.1e6);
        benchmark::DoNotOptimize(study::elevationCut(*s.mesh, s.reading, 0.0, 1.0));
        benchmark::DoNotOptimize(study::azimuthCut(*s.mesh, s.reading, 0.0, 1.0));
    });
    state.counters["over_factorisation"] = own / factorisationSeconds(static_cast<int>(unknowns), 1);
}
BENCHMARK(dipoleWithCuts)->Unit(benchmark::kMillisecond);

/// Impedance and gain of a five-element Yagi at one frequency on one core, in free space and a wavelength
/// over average ground. Every evaluation is of an antenna that was not solved before: one of its nine
/// dimensions (five lengths, four spacings) has moved, in turn, or all of them at once.
void yagiEvaluation(benchmark::State& state) {
    const bool ground = state.range(0) == 1;
    const bool all = state.range(1) == 1;
    state.SetLabel(std::string(ground ? "average ground, " : "free space, ") +
                   (all ? "all dimensions move" : "one dimension moves"));
    auto m = ground ? overGround(yagi(), 6.0) : yagi();
    int step = 0;
    const auto move = [&](int dimension, double byM) {
        auto& w = m.wires[static_cast<std::size_t>(dimension % 5)];
        if (dimension < 5) {
            w.startM.y() -= byM;
            w.endM.y() += byM;
        } else {
            w.startM.x() += byM;
            w.endM.x() += byM;
        }
    };
    const auto work = [&] {
        ++step;
        // There and back in steps of 10 micrometres.
        const double by = (step / 900) % 2 == 0 ? 1e-5 : -1.0001e-5;
        for (int d = 0; d < 9; ++d)
            if (all || step % 9 == d) move(d, by);
        benchmark::DoNotOptimize(solve(m, 50.15e6).gain(ground ? 15 : 0, 0));
    };
    for (auto _ : state) work();
    state.counters["per_second"] =
        benchmark::Counter(static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
    const auto unknowns = static_cast<int>(solve(m, 50.15e6).solution.unknowns);
    state.counters["unknowns"] = unknowns;
    const double own = bestSeconds(300, work);
    state.counters["best_per_second"] = 1.0 / own;
    state.counters["over_factorisation"] = own / factorisationSeconds(unknowns, 1);
}
BENCHMARK(yagiEvaluation)->ArgsProduct({{0, 1}, {0, 1}})->Unit(benchmark::kMillisecond);

/// Half-wave dipole over average ground: impedance, currents, both cuts. Cold: a new frequency every time, so
/// that no table is left from before. Dragged: one frequency, a new height every time.
void dipoleOverGround(benchmark::State& state) {
    const bool cold = state.range(0) == 0;
    state.SetLabel(cold ? "cold" : "dragged");
    int step = 0;
    const auto work = [&] {
        ++step;
        const double frequency = cold ? 14.1e6 + step : 14.1e6;
        const double height = cold ? 10.0 : 5.0 + 0.01 * (step % 1000);
        const auto s = solve(overGround(dipole(0.5 * wavelengthM(14.1e6), 0.001), height), frequency);
        benchmark::DoNotOptimize(study::elevationCut(*s.mesh, s.reading, 0.0, 1.0));
        benchmark::DoNotOptimize(study::azimuthCut(*s.mesh, s.reading, 30.0, 1.0));
    };
    work();
    for (auto _ : state) work();
    state.counters["best_ms"] = 1e3 * bestSeconds(200, work);
}
BENCHMARK(dipoleOverGround)->DenseRange(0, 1)->Unit(benchmark::kMillisecond);

/// The tables of a new frequency: heights of 0.05 to 0.5 wavelengths, distances to two wavelengths.
void groundTables(benchmark::State& state) {
    int step = 0;
    const double lambda = wavelengthM(14.1e6);
    std::size_t series = 0;
    for (auto _ : state) {
        const em::GroundTable table(em::HalfSpace({model::GroundKind::Real, 13.0, 0.005}, 14.1e6 + ++step));
        std::vector<em::TablePoint> points;
        for (int i = 0; i <= 60; ++i)
            for (int j = 0; j <= 18; ++j)
                points.push_back({2.0 * lambda * i / 60.0, lambda * (0.1 + 0.05 * j)});
        table.prepare(points);
        series = table.builtSeries();
    }
    state.counters["series"] = static_cast<double>(series);
}
BENCHMARK(groundTables)->Unit(benchmark::kMillisecond)->UseRealTime();

/// A quarter-wave vertical with many radials close to average ground.
void radialFan(benchmark::State& state) {
    // A new height every time: nothing is left from before.
    double height = 0.1;
    std::size_t unknowns = 0;
    for (auto _ : state)
        unknowns = solve(verticalWithRadials(static_cast<int>(state.range(0)), height += 1e-5), 7.1e6)
                       .solution.unknowns;
    state.counters["unknowns"] = static_cast<double>(unknowns);
}
BENCHMARK(radialFan)->Arg(16)->Arg(64)->Arg(128)->Unit(benchmark::kMillisecond)->UseRealTime();

/// A quarter wave on radials 5 cm deep in average soil.
model::WireModel onRadialsInSoil(int count, double lengthM) {
    model::WireModel m;
    m.ground = averageGround();
    const Vec3 hub(0.0, 0.0, -0.05);
    m.wires.push_back(wire(Vec3::Zero(), {0.0, 0.0, 10.2}, 0.001));
    m.wires.push_back(wire(Vec3::Zero(), hub, 0.001));
    for (int i = 0; i < count; ++i) {
        const double angle = 2.0 * kPi * i / count;
        m.wires.push_back(wire(hub, hub + lengthM * Vec3(std::cos(angle), std::sin(angle), 0.0), 0.001));
    }
    addFeed(m, 0, 0.0);
    return m;
}

/// Radials 5 cm deep in average soil. Cold: a new frequency every time. Dragged: one
/// frequency, a new length of the radials every time.
void radialsInSoil(benchmark::State& state) {
    const bool cold = state.range(1) == 0;
    state.SetLabel(cold ? "cold" : "dragged");
    const int n = static_cast<int>(state.range(0));
    // Called several times, to find out how often to repeat: no frequency may come again.
    static int step = 0;
    std::size_t unknowns = 0;
    const auto work = [&] {
        ++step;
        const auto m = onRadialsInSoil(n, cold ? 10.0 : 6.0 + 0.01 * (step % 800));
        // No number of radials finds the tables of another.
        unknowns = solve(m, cold ? 7.1e6 + 1e3 * n + 0.1 * step : 7.1e6).solution.unknowns;
    };
    work();
    for (auto _ : state) work();
    state.counters["unknowns"] = static_cast<double>(unknowns);
    state.counters["best_ms"] = 1e3 * bestSeconds(20, work);
}
BENCHMARK(radialsInSoil)->ArgsProduct({{8, 32, 120}, {0, 1}})->Unit(benchmark::kMillisecond)->UseRealTime();

/// About 1500 unknowns: many dipoles side by side. Fill and factorisation together against the factorisation
/// alone; with a plane of symmetry across them all, and with their middles off it.
void largeDenseSolve(benchmark::State& state) {
    const bool crooked = state.range(0) != 0;
    model::WireModel m;
    const double f = 144.5e6;
    const double lambda = wavelengthM(f);
    // No two alike, so that nothing can be reused.
    for (int row = 0; row < 13; ++row)
        for (int column = 0; column < 17; ++column) {
            const double x = (0.3 * column + 0.003 * row * column) * lambda;
            const double z = (0.6 * row + 0.002 * column) * lambda;
            const double half = (0.24 - 0.00011 * (17 * row + column)) * lambda;
            const double aside = crooked ? 0.02 * std::sin(7.0 * row + 3.0 * column) * lambda : 0.0;
            m.wires.push_back(wire({x, aside - half, z}, {x, aside + half, z}, 0.003));
        }
    addFeed(m, 0, 0.5);
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, f));
    for (auto _ : state) benchmark::DoNotOptimize(em::solvePorts(mesh, f).admittance(0, 0));
    const int n = static_cast<int>(mesh->functions.size());
    state.counters["unknowns"] = n;
    const double own =
        bestSeconds(3, [&] { benchmark::DoNotOptimize(em::solvePorts(mesh, f).admittance(0, 0)); });
    state.counters["over_factorisation"] = own / factorisationSeconds(n, 2);
}
BENCHMARK(largeDenseSolve)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->Iterations(2);

/// Changing a load: closing the circuit again on the same field solution, against that solution.
void changeOfLoad(benchmark::State& state) {
    auto m = dipole(0.5 * wavelengthM(14.1e6), 0.001);
    m.loads.push_back({{0, 0.25}, {model::LoadKind::Series, {}, 5e-6, {}}, "Coil"});
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, 14.1e6));
    const auto solution = em::solvePorts(mesh, 14.1e6);
    for (auto _ : state) benchmark::DoNotOptimize(circuit::closePorts(m, solution).inputPowerW);
    const double own =
        bestSeconds(500, [&] { benchmark::DoNotOptimize(circuit::closePorts(m, solution).inputPowerW); });
    const double field =
        bestSeconds(200, [&] { benchmark::DoNotOptimize(em::solvePorts(mesh, 14.1e6).admittance(0, 0)); });
    state.counters["of_a_solve"] = own / field;
}
BENCHMARK(changeOfLoad)->Unit(benchmark::kMicrosecond);

/// E and H at 200 x 200 points round six level wires, 110 unknowns, over average ground: on an
/// upright plane through them (0) and level at the height of a head (1), tables warm.
void nearFieldPlane(benchmark::State& state) {
    model::WireModel m;
    m.ground = {model::GroundKind::Real, 13.0, 0.005};
    for (int i = 0; i < 6; ++i)
        m.wires.push_back(wire({4.0 * i, -5.0, 10.0}, {4.0 * i, 5.0, 10.0 + 0.1 * i}, 0.001));
    addFeed(m, 3, 0.5);
    const auto s = solve(m, 14.1e6);
    const em::NearField field(s.mesh, s.reading.localCurrent, 14.1e6);
    const em::PointPlane plane =
        state.range(0) == 0 ? em::PointPlane{{-10.0, 0.0, 0.05}, {0.2, 0.0, 0.0}, {0.0, 0.0, 0.1}, 200, 200}
                            : em::PointPlane{{-10.0, -20.0, 1.8}, {0.2, 0.0, 0.0}, {0.0, 0.2, 0.0}, 200, 200};
    state.counters["first_ms"] =
        1e3 * secondsOf([&] { benchmark::DoNotOptimize(field.on(plane)[0].electricVm); });
    for (auto _ : state) benchmark::DoNotOptimize(field.on(plane)[0].electricVm);
    state.counters["unknowns"] = static_cast<double>(s.solution.unknowns);
}
BENCHMARK(nearFieldPlane)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The same, level, over 32 radials 5 cm deep in average soil.
void nearFieldOverRadials(benchmark::State& state) {
    const auto s = solve(onRadialsInSoil(32, 10.0), 7.1e6);
    const em::NearField field(s.mesh, s.reading.localCurrent, 7.1e6);
    const em::PointPlane plane{{-20.0, -20.0, 1.8}, {0.2, 0.0, 0.0}, {0.0, 0.2, 0.0}, 200, 200};
    state.counters["first_ms"] =
        1e3 * secondsOf([&] { benchmark::DoNotOptimize(field.on(plane)[0].electricVm); });
    for (auto _ : state) benchmark::DoNotOptimize(field.on(plane)[0].electricVm);
    state.counters["unknowns"] = static_cast<double>(s.solution.unknowns);
}
BENCHMARK(nearFieldOverRadials)->Unit(benchmark::kMillisecond)->UseRealTime();

/// The lobe on a 2-degree grid over ground, of an antenna of about 300 unknowns.
void lobeInThreeDimensions(benchmark::State& state) {
    const double f = 14.1e6;
    model::WireModel m;
    m.ground = {model::GroundKind::Real, 13.0, 0.005};
    for (int i = 0; i < 26; ++i) {
        const double x = 1.5 * i;
        m.wires.push_back(wire({x, -5.0 - 0.01 * i, 10.0}, {x, 5.0 + 0.01 * i, 10.0}, 0.002));
    }
    addFeed(m, 0, 0.5);
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, f));
    const auto reading = circuit::closePorts(m, em::solvePorts(mesh, f));
    for (auto _ : state) benchmark::DoNotOptimize(study::lobeGrid(*mesh, reading, 2.0).gainDbi[0]);
    state.counters["unknowns"] = static_cast<double>(mesh->functions.size());
}
BENCHMARK(lobeInThreeDimensions)->Unit(benchmark::kMillisecond);

/// All designs and pins of the demo against all its bands.
void fullComparison(benchmark::State& state) {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    std::size_t rows = 0;
    for (auto _ : state) rows = study::compare(project).rows.size();
    state.counters["antennas"] = static_cast<double>(rows);
}
BENCHMARK(fullComparison)->Unit(benchmark::kMillisecond);

/// Dragging a capacitor of the feed path: all that follows on one band, and how many field solutions it took
/// after the first (none).
void changeOfFeedPath(benchmark::State& state) {
    model::Expansion e;
    e.model = dipole(0.5 * wavelengthM(14.1e6), 0.001);
    e.feedPath = {model::Transformer{4.0, 8e-6, 2500.0, 0.1e-6, 100e-12},
                  model::Cable{model::findLine("coax 50 thin")->kind, 25.0}};
    study::FieldStore fields;
    const auto work = [&] {
        *std::get<model::Transformer>(e.feedPath[0]).compensationF *= 1.0001;
        return study::sweep(e, 14.0e6, 14.35e6, 41, {}, {}, &fields).worstSwr();
    };
    work();
    const int solved = fields.solutions();
    for (auto _ : state) benchmark::DoNotOptimize(work());
    state.counters["field_solutions"] = fields.solutions() - solved;
}
BENCHMARK(changeOfFeedPath)->Unit(benchmark::kMicrosecond);

/// 401 points of an inverted V over average ground, 3.5 to 4.0 MHz, against one cold solution of it. A new
/// apex height every time, and new grounds, so that nothing is left from before.
void sweepOverGround(benchmark::State& state) {
    int step = 0;
    const auto antenna = [&] {
        const double apex = 16.8 + 1e-5 * ++step;
        model::Expansion e;
        e.model.ground = {model::GroundKind::Real, 13.0 + 1e-6 * step, 0.005};
        e.model.wires.push_back(wire({0, 0, apex}, {15.85, 0, apex - 11.1}, 0.001));
        e.model.wires.push_back(wire({0, 0, apex}, {-15.85, 0, apex - 11.1}, 0.001));
        addFeed(e.model, 0, 0.0);
        return e;
    };
    int solutions = 0;
    for (auto _ : state) solutions = study::sweep(antenna(), 3.5e6, 4.0e6, 401).solutions;
    state.counters["solutions"] = solutions;
    const double own =
        bestSeconds(30, [&] { benchmark::DoNotOptimize(study::sweep(antenna(), 3.5e6, 4.0e6, 401)); });
    const double single = bestSeconds(30, [&] { benchmark::DoNotOptimize(solve(antenna().model, 3.75e6)); });
    state.counters["of_a_cold_solve"] = own / single;
}
BENCHMARK(sweepOverGround)->Unit(benchmark::kMillisecond)->UseRealTime();

/// What one step of a slider costs for each design of the demo, step by step: worked out, meshed, filled,
/// factored, read. Equal sectors are filled and factored together, their fill by itself says nothing.
void demoDesign(benchmark::State& state) {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    const auto& design = project.designs.at(static_cast<std::size_t>(state.range(0)));
    const auto e = model::expand(design);
    const double f = e.designFrequencyHz;
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(e.model, f));
    const bool sectors = em::findRotation(*mesh).has_value();
    std::vector<double> expand, meshed, fill, solved, all;
    std::size_t unknowns = 0;
    for (auto _ : state) {
        expand.push_back(secondsOf([&] { benchmark::DoNotOptimize(model::expand(design)); }));
        meshed.push_back(secondsOf([&] { benchmark::DoNotOptimize(em::makeMesh(e.model, f)); }));
        if (!sectors)
            fill.push_back(secondsOf([&] { benchmark::DoNotOptimize(em::momentMatrix(*mesh, f)); }));
        solved.push_back(secondsOf([&] { benchmark::DoNotOptimize(em::solvePorts(mesh, f)); }));
        all.push_back(secondsOf([&] { unknowns = study::analyse(e, f).figures.unknowns; }));
        state.SetIterationTime(expand.back() + all.back());
    }
    const auto ms = [](std::vector<double>& list) {
        std::sort(list.begin(), list.end());
        return list.empty() ? 0.0 : 1e3 * list[list.size() / 2];
    };
    state.counters["expand_ms"] = ms(expand);
    state.counters["mesh_ms"] = ms(meshed);
    state.counters["fill_ms"] = ms(fill);
    state.counters["factor_ms"] = ms(solved) - ms(fill);
    state.counters["read_ms"] = ms(all) - ms(solved) - ms(meshed);
    state.counters["unknowns"] = static_cast<double>(unknowns);
    state.SetLabel(design.name);
}
BENCHMARK(demoDesign)->DenseRange(0, 9)->UseManualTime()->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
