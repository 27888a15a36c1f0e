// reedmast-tuning: what the tuner makes of the problems that designers bring, and how soon.
//   reedmast-tuning [--problem NAME] [--seconds T] [--seeds N] [--first S] [--best FILE] [--keep]
// Prints for each problem the best that is known of it, and how far from that the tuner is after 3, 10 and 60
// seconds and at its end, in dB and in SWR, as medians over the seeds. --keep writes what is better than
// known back to the file, with the seconds that all runs have taken together. Exit code 0.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <fstream>
#include <iostream>
#include <mutex>
#include <nlohmann/json.hpp>

#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune.h"
#include "core/study/tuning/tune_axes.h"
#include "problems.h"

namespace {

using namespace rm;
using nlohmann::json;

constexpr double kWhens[] = {3.0, 10.0, 60.0};

struct Options {
    std::string problem;
    double seconds = 10.0;
    unsigned seeds = 5;
    unsigned first = 1;
    std::string best;
    bool keep = false;
    bool asJson = false;
};

/// An antenna by what its goals read.
struct Standing {
    std::map<std::string, double> values;
    std::vector<study::GoalState> goals;

    /// Misses that are worth minding, then what has no limit: less is better.
    std::pair<double, double> score(const model::Design& design) const {
        double miss = 0.0;
        double wishes = 0.0;
        for (const auto& state : goals) {
            const auto& traits = study::traitsOf(design.tune.goals.at(state.goal).kind);
            if (state.most)
                wishes -= state.worst / traits.worth;
            else
                miss = std::max(miss, state.miss / traits.worth);
        }
        return {miss < 1e-3 ? 0.0 : miss, wishes};
    }
};

Standing standingOf(const tuning::Problem& problem, const std::map<std::string, double>& values) {
    const auto design = study::withValues(problem.design, values);
    return {values, study::readGoals(design, problem.bands, 21)};
}

/// How much worse than the best that is known, in dB and in SWR.
struct Distance {
    double db = 0.0;
    double swr = 0.0;
    bool within() const { return db <= 0.1 && swr <= 0.05; }
};

Distance distanceOf(const tuning::Problem& problem, const Standing& here, const Standing& best) {
    Distance d;
    for (std::size_t i = 0; i < here.goals.size(); ++i) {
        const auto& a = here.goals[i];
        const auto& b = best.goals.at(i);
        // What is better than its limit is no better than that.
        const double worse = a.most ? b.worst - a.worst : std::max(0.0, a.miss) - std::max(0.0, b.miss);
        const bool swr = problem.design.tune.goals.at(a.goal).kind == model::GoalKind::Swr;
        double& most = swr ? d.swr : d.db;
        most = std::max(most, worse);
    }
    return d;
}

double medianOf(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    return values[values.size() / 2];
}

std::string inWords(const Standing& standing) {
    std::string words;
    for (const auto& state : standing.goals)
        words += fmt::format("{}{} {:.3f}{}{}", words.empty() ? "" : ", ",
                             state.sentence.substr(0, state.sentence.find(" at ")), state.worst,
                             state.unit.empty() ? "" : " ", state.unit);
    return words;
}

/// One run: what stands at each time, and at the end.
struct Run {
    std::vector<Standing> at;  ///< one for each of kWhens that was reached
    Standing end;
    double seconds = 0.0;
    long evaluations = 0;
};

Run runOnce(const tuning::Problem& problem, unsigned seed, double seconds) {
    struct Moment {
        double seconds;
        std::map<std::string, double> values;
    };
    std::mutex mutex;
    std::vector<Moment> moments;
    study::TuneOptions options;
    options.seed = seed;
    options.maxSeconds = seconds;
    options.maxEvaluations = 100'000'000;
    const auto begin = std::chrono::steady_clock::now();
    options.progress = [&](const study::TuneState& state) {
        const std::scoped_lock lock(mutex);
        moments.push_back({state.seconds, state.values});
    };
    const auto result = study::tune(problem.design, problem.bands, options);
    Run run;
    run.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    run.evaluations = result.best.evaluations;
    run.end = standingOf(problem, result.best.values);
    for (const double when : kWhens) {
        if (when > seconds + 0.5) break;
        const std::map<std::string, double>* values = nullptr;
        for (const auto& moment : moments)
            if (moment.seconds <= when) values = &moment.values;
        run.at.push_back(run.seconds <= when ? run.end
                         : values != nullptr ? standingOf(problem, *values)
                                             : standingOf(problem, {}));
    }
    return run;
}

json readBest(const std::string& file) {
    if (file.empty()) return json::object();
    std::ifstream in(file);
    return in ? json::parse(in) : json::object();
}

int run(const Options& options) {
    json known = readBest(options.best);
    json table = json::array();
    int within = 0;
    int asked = 0;
    for (const auto& problem : tuning::problems()) {
        if (!options.problem.empty() && problem.name.find(options.problem) == std::string::npos) continue;
        std::vector<Run> runs;
        for (unsigned seed = options.first; seed < options.first + options.seeds; ++seed)
            runs.push_back(runOnce(problem, seed, options.seconds));
        // The best that is known: of all runs so far, and of these.
        Standing best = standingOf(problem, {});
        auto& entry = known[problem.name];
        if (!entry.is_object()) entry = json::object();
        double spent = entry.value("seconds", 0.0);
        if (entry.contains("values"))
            best = standingOf(problem, entry["values"].get<std::map<std::string, double>>());
        for (const auto& one : runs) {
            spent += one.seconds;
            if (one.end.score(problem.design) < best.score(problem.design)) best = one.end;
        }
        entry["seconds"] = std::round(spent);
        entry["values"] = best.values;
        entry["goals"] = inWords(best);
        json row{{"problem", problem.name}, {"what", problem.what},
                 {"best", inWords(best)},   {"spent", spent},
                 {"at", json::array()},     {"movers", problem.design.tune.movers.size()}};
        const auto read = [&](double when, const std::function<const Standing&(const Run&)>& of) {
            std::vector<double> db, swr;
            for (const auto& one : runs) {
                const auto d = distanceOf(problem, of(one), best);
                db.push_back(d.db);
                swr.push_back(d.swr);
            }
            row["at"].push_back({{"seconds", when}, {"dB", medianOf(db)}, {"swr", medianOf(swr)}});
        };
        for (std::size_t i = 0; i < runs.front().at.size(); ++i)
            read(kWhens[i], [i](const Run& one) -> const Standing& { return one.at[i]; });
        std::vector<double> seconds, evaluations;
        for (const auto& one : runs) {
            seconds.push_back(one.seconds);
            evaluations.push_back(static_cast<double>(one.evaluations));
        }
        row["ended"] = medianOf(seconds);
        row["evaluations"] = medianOf(evaluations);
        ++asked;
        const auto& last = row["at"].back();
        if (last["dB"].get<double>() <= 0.1 && last["swr"].get<double>() <= 0.05) ++within;
        if (!options.asJson) {
            fmt::print("{}: best {}\n", problem.name, inWords(best));
            for (const auto& at : row["at"])
                fmt::print("  after {:>4.0f} s: {:.3f} dB, {:.3f} in SWR away\n", at["seconds"].get<double>(),
                           at["dB"].get<double>(), at["swr"].get<double>());
            fmt::print("  ended after {:.1f} s, {:.0f} antennas read\n", row["ended"].get<double>(),
                       row["evaluations"].get<double>());
            std::cout.flush();
        }
        table.push_back(std::move(row));
        if (options.keep && !options.best.empty()) std::ofstream(options.best) << known.dump(1) << "\n";
    }
    if (options.asJson)
        std::cout << table.dump(1) << "\n";
    else
        fmt::print("{} of {} within 0.1 dB and 0.05 in SWR at the last time\n", within, asked);
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    Options options;
    CLI::App app("What the tuner makes of problems that designers bring, and how soon");
    app.add_option("--problem", options.problem, "Only problems with this in their name");
    app.add_option("--seconds", options.seconds, "For each run")->check(CLI::Range(1.0, 86400.0));
    app.add_option("--seeds", options.seeds, "Runs of each problem")->check(CLI::Range(1U, 1000U));
    app.add_option("--first", options.first, "The first seed");
    app.add_option("--best", options.best, "File of what is known to be possible");
    app.add_flag("--keep", options.keep, "Write it back where something better was found");
    app.add_flag("--json", options.asJson, "Print JSON");
    CLI11_PARSE(app, argc, argv);
    try {
        return run(options);
    } catch (const std::exception& e) {
        std::cerr << e.what() << "\n";
        return 1;
    }
}
