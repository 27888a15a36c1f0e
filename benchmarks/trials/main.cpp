// reedmast-trials: random but buildable antennas, each against two much finer meshes of another kind.
//   reedmast-trials [--count N] [--seed S] [--family NAME] [--worst N]
// Prints, for each family and for all, quantiles of the error of the impedance (against the mean of the fine
// meshes, relative to its size), of the gain, and of the average gain where nothing is lost: on the mesh that
// the self-check chooses, or with a mesh option on the mesh that it asks for. Then how the doubt that the
// self-check states compares with the error, and the worst with their geometry. Exit code 0.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cmath>
#include <iostream>

#include "antennas.h"
#include "core/model/checks.h"
#include "core/study/self_check.h"
#include "families.h"
#include "fine_mesh.h"

namespace {

using namespace rm;

constexpr const char* kMeshGroup = "A mesh of its own";

struct Options {
    int count = 300;
    unsigned seed = 1;
    std::string family;
    int worst = 5;
    em::MeshOptions mesh;
    bool plainEnds = false;
    bool ownMesh = false;  ///< the mesh of these options instead of that of the self-check
};

struct Outcome {
    trials::Trial trial;
    Complex z;
    Complex fine;
    double spread = 0.0;  ///< of the two fine meshes, relative
    double error = 0.0;   ///< relative
    double gainDb = 0.0;  ///< the largest difference within 10 dB of the peak
    double balance = 0.0;
    std::size_t unknowns = 0;
    std::size_t fineUnknowns = 0;
    bool warned = false;
    std::optional<study::Doubt> doubt;
};

std::vector<em::Direction> directions() {
    std::vector<em::Direction> all;
    for (int e = 3; e < 90; e += 12)
        for (int a = 0; a < 360; a += 30) all.push_back({static_cast<double>(e), static_cast<double>(a)});
    return all;
}

double gainDifference(const test::Solved& a, const test::Solved& b) {
    const auto where = directions();
    const auto gains = [&](const test::Solved& s) {
        std::vector<double> dbi;
        for (const auto& field : em::farField(*s.mesh, s.reading.localCurrent, s.reading.frequencyHz, where))
            dbi.push_back(em::gainDbi(field, s.reading.inputPowerW));
        return dbi;
    };
    const auto here = gains(a);
    const auto there = gains(b);
    const double peak = *std::max_element(there.begin(), there.end());
    double most = 0.0;
    for (std::size_t i = 0; i < here.size(); ++i)
        if (there[i] > peak - 10.0) most = std::max(most, std::abs(here[i] - there[i]));
    return most;
}

std::optional<Outcome> judge(const trials::Trial& trial, const Options& options) {
    const auto findings = model::checkWires(trial.model, trial.frequencyHz);
    if (model::hasError(findings)) return std::nullopt;
    Outcome o;
    o.trial = trial;
    o.warned = !findings.empty();
    if (!options.ownMesh) o.doubt = study::selfCheck(trial.model, trial.frequencyHz);
    const auto here = test::solve(trial.model, trial.frequencyHz,
                                  o.doubt ? em::meshOptions(o.doubt->fineness) : options.mesh);
    const auto first = test::solve(trial.model, trial.frequencyHz, test::fineMesh());
    const auto second = test::solve(trial.model, trial.frequencyHz, test::finerMesh());
    o.z = here.z();
    o.fine = 0.5 * (first.z() + second.z());
    o.spread = 0.5 * std::abs(first.z() - second.z()) / std::abs(o.fine);
    o.error = std::abs(o.z - o.fine) / std::abs(o.fine);
    o.gainDb = gainDifference(here, first);
    if (trial.lossless) o.balance = std::abs(here.average() - 1.0);
    o.unknowns = here.solution.unknowns;
    o.fineUnknowns = second.solution.unknowns;
    return o;
}

double quantile(std::vector<double> values, double share) {
    if (values.empty()) return 0.0;
    std::sort(values.begin(), values.end());
    return values[std::min(values.size() - 1,
                           static_cast<std::size_t>(share * static_cast<double>(values.size())))];
}

void row(const std::string& name, const std::vector<const Outcome*>& some) {
    const auto of = [&](auto value) {
        std::vector<double> all;
        for (const auto* o : some) all.push_back(value(*o));
        return all;
    };
    const auto error = of([](const Outcome& o) { return 100.0 * o.error; });
    const auto gain = of([](const Outcome& o) { return o.gainDb; });
    const auto balance = of([](const Outcome& o) { return o.balance; });
    const auto spread = of([](const Outcome& o) { return 100.0 * o.spread; });
    const auto unknowns = of([](const Outcome& o) { return static_cast<double>(o.unknowns); });
    fmt::print("{:14} {:5} {:8.3f} {:8.3f} {:8.3f} {:8.3f} {:8.3f} {:8.3f} {:8.3f} {:9.4f} {:9.4f} {:6.0f}\n",
               name, some.size(), quantile(error, 0.5), quantile(error, 0.95), quantile(error, 0.99),
               quantile(error, 1.0), quantile(spread, 0.95), quantile(gain, 0.95), quantile(gain, 1.0),
               quantile(balance, 0.95), quantile(balance, 1.0), quantile(unknowns, 0.5));
}

void describe(const Outcome& o) {
    fmt::print(
        "\n{} {}: Z {:.3f} {:+.3f}j, fine {:.3f} {:+.3f}j, off by {:.2f} %, fine meshes differ by {:.2f} %, "
        "gain "
        "{:.3f} dB, balance {:.4f}, {} unknowns, {} fine{}{}\n",
        o.trial.family, o.trial.seed, o.z.real(), o.z.imag(), o.fine.real(), o.fine.imag(), 100.0 * o.error,
        100.0 * o.spread, o.gainDb, o.balance, o.unknowns, o.fineUnknowns, o.warned ? ", warned of" : "",
        o.doubt ? fmt::format(", doubt {:.2f} % and {:.3f} dB", 100.0 * o.doubt->impedance, o.doubt->gainDb)
                : "");
    const double lambda = wavelengthM(o.trial.frequencyHz);
    for (const auto& w : o.trial.model.wires)
        fmt::print("   {:8.4f} {:8.4f} {:8.4f}  to {:8.4f} {:8.4f} {:8.4f}  radius {:.2e}\n",
                   w.startM.x() / lambda, w.startM.y() / lambda, w.startM.z() / lambda, w.endM.x() / lambda,
                   w.endM.y() / lambda, w.endM.z() / lambda, w.radiusM / lambda);
    for (const auto& f : o.trial.model.feeds)
        fmt::print("   feed on wire {} at {:.3f}; lengths in wavelengths\n", f.place.wire + 1, f.place.at);
}

/// How many of the figures have their error below the doubt that was stated, and how many doubts are within a
/// factor of five of the error.
void judgeDoubts(const std::vector<const Outcome*>& all) {
    static constexpr const char* kLevels[] = {"on the quick mesh", "with finer joints", "on the fine mesh"};
    struct Count {
        int n = 0;
        int below = 0;
        int within = 0;
    };
    Count impedance[em::kFineMesh + 1];
    Count gain[em::kFineMesh + 1];
    int silent = 0;
    int silentBalance = 0;
    const auto count = [](Count& c, double error, double doubt) {
        ++c.n;
        c.below += error <= doubt ? 1 : 0;
        c.within += doubt <= 5.0 * error && error <= 5.0 * doubt ? 1 : 0;
    };
    for (const auto* o : all) {
        if (!o->doubt) continue;
        const auto level = static_cast<std::size_t>(o->doubt->fineness);
        count(impedance[level], o->error, o->doubt->impedance);
        count(gain[level], o->gainDb, o->doubt->gainDb);
        silent += o->error > 0.02 && o->doubt->settled() ? 1 : 0;
        silentBalance += o->balance > 0.002 && o->doubt->settled() ? 1 : 0;
    }
    fmt::print("\nself-check      impedance: n   below   within a factor of 5      gain: below   within\n");
    for (std::size_t level = 0; level <= em::kFineMesh; ++level) {
        const auto percent = [](int part, int n) { return n > 0 ? 100.0 * part / n : 0.0; };
        const Count& z = impedance[level];
        const Count& g = gain[level];
        fmt::print("{:22} {:5} {:5.1f} % {:22.1f} % {:16.1f} % {:6.1f} %\n", kLevels[level], z.n,
                   percent(z.below, z.n), percent(z.within, z.n), percent(g.below, g.n),
                   percent(g.within, g.n));
    }
    fmt::print("off by more than 2 % without a doubt: {}; average gain off by more than 0.002: {}\n", silent,
               silentBalance);
}

int run(int argc, char** argv) {
    Options options;
    CLI::App app{"Random antennas against much finer meshes"};
    app.add_option("--count", options.count, "Antennas in all");
    app.add_option("--seed", options.seed, "The first");
    app.add_option("--family", options.family, "Only this one");
    app.add_option("--worst", options.worst, "How many of the worst are shown");
    auto& mesh = options.mesh;
    app.add_option("--reach", mesh.neighbourDistances,
                   "First span beside a neighbour, in distances to it; 0: none")
        ->group(kMeshGroup);
    app.add_option("--neighbour-growth", mesh.neighbourGrowth, "Growth of the spans from there")
        ->group(kMeshGroup);
    app.add_option("--growth", mesh.growth, "Growth of the spans from ends")->group(kMeshGroup);
    app.add_option("--span", mesh.maxSpanWavelengths, "Longest span in wavelengths")->group(kMeshGroup);
    app.add_option("--order", mesh.fixedOrder, "Order of all spans; 0: by their length")->group(kMeshGroup);
    app.add_flag("--plain-ends", options.plainEnds, "No function for open ends")->group(kMeshGroup);
    app.add_option("--gap-growth", mesh.gapGrowth, "Growth of the spans from gaps")->group(kMeshGroup);
    app.add_option("--gap-order", mesh.gapOrder, "Least order beside a gap")->group(kMeshGroup);
    app.add_option("--bend", mesh.bendRadii, "First span at bends and joints in radii; 0: any")
        ->group(kMeshGroup);
    int fineness = 0;
    app.add_option("--fineness", fineness, "Level of the mesh, instead of what the self-check chooses")
        ->check(CLI::Range(0, em::kFinest))
        ->group(kMeshGroup);
    CLI11_PARSE(app, argc, argv);
    if (fineness > 0) mesh = em::meshOptions(fineness);
    if (options.plainEnds) mesh.endFunctions = false;
    for (const auto* option : app.get_options())
        options.ownMesh |= option->count() > 0 && option->get_group() == kMeshGroup;
    std::vector<std::string> names = trials::families();
    if (!options.family.empty()) names = {options.family};
    std::vector<Outcome> outcomes;
    int refused = 0;
    for (int i = 0; i < options.count; ++i) {
        const auto& name = names[static_cast<std::size_t>(i) % names.size()];
        const auto seed = options.seed + static_cast<unsigned>(i) / static_cast<unsigned>(names.size());
        if (auto o = judge(trials::makeTrial(name, seed), options))
            outcomes.push_back(std::move(*o));
        else
            ++refused;
    }
    fmt::print("{} antennas, {} refused by the checks\n\n", options.count, refused);
    fmt::print(
        "                      impedance, % off                    fine gain, dB off         average gain "
        "off\n");
    fmt::print(
        "family             n   median     95 %     99 %    worst     95 %     95 %    worst      95 %     "
        "worst      N\n");
    std::vector<const Outcome*> all;
    for (const auto& name : names) {
        std::vector<const Outcome*> some;
        for (const auto& o : outcomes)
            if (o.trial.family == name) some.push_back(&o);
        if (!some.empty()) row(name, some);
        all.insert(all.end(), some.begin(), some.end());
    }
    row("all", all);
    if (!options.ownMesh) judgeDoubts(all);
    std::sort(all.begin(), all.end(), [](const Outcome* a, const Outcome* b) { return a->error > b->error; });
    for (std::size_t i = 0; i < std::min(all.size(), static_cast<std::size_t>(options.worst)); ++i)
        describe(*all[i]);
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    try {
        return run(argc, argv);
    } catch (const std::exception& e) {
        std::cerr << e.what() << '\n';
        return 1;
    }
}
