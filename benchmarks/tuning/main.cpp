// reedmast-tuning: what the tuner makes of the problems that designers bring, and how soon.
//   reedmast-tuning [--problem NAME] [--seconds T] [--seeds N] [--first S] [--best FILE] [--keep]
//   reedmast-tuning --look T --best FILE [--problem NAME] [--seconds T]
// Prints for each problem the best that is known of it, and how far from that the tuner is after 3, 10 and 60
// seconds and at its end, in dB and in SWR, as medians over the seeds. --keep writes what is better than
// known back to the file, with the seconds that all runs have taken together. --look only looks for something
// better, with seeds that it has not used yet, until each problem has been looked at for so long in all: it
// can be ended at any time and goes on where it was. Exit code 0.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <ctime>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <mutex>
#include <nlohmann/json.hpp>
#include <utility>

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
    double look = 0.0;
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
    double lookedSeconds = 0.0;  ///< no more than processors have worked on it: while it is held it looks not
    long evaluations = 0;
};

/// Processor time of this process, all threads together, s.
double workedSeconds() {
    timespec now{};
    clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &now);
    return static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec);
}

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
    const double workedBefore = workedSeconds();
    options.progress = [&](const study::TuneState& state) {
        const std::scoped_lock lock(mutex);
        moments.push_back({state.seconds, state.values});
    };
    const auto result = study::tune(problem.design, problem.bands, options);
    Run run;
    run.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    run.lookedSeconds = std::min(run.seconds, workedSeconds() - workedBefore);
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

/// Whole or not at all, wherever it is ended.
void writeBest(const std::string& file, const json& all) {
    std::ofstream(file + ".new") << all.dump(1) << "\n";
    std::filesystem::rename(file + ".new", file);
}

/// What is known of a problem: {"values", "goals", "seconds", "looks"}, the last: the seeds that --look has
/// used.
class Known {
  public:
    Known(const tuning::Problem& problem, json& entry) : problem_(problem), entry_(entry) {
        if (!entry.is_object()) entry = json::object();
        best_ = entry.contains("values")
                    ? standingOf(problem, entry["values"].get<std::map<std::string, double>>())
                    : standingOf(problem, {});
    }
    const Standing& best() const { return best_; }
    double seconds() const { return entry_.value("seconds", 0.0); }
    unsigned looks() const { return entry_.value("looks", 0U); }
    /// Whether this run found something better.
    bool add(const Run& run) {
        seconds_ += run.lookedSeconds;
        const bool isBetter = run.end.score(problem_.design) < best_.score(problem_.design);
        if (isBetter) best_ = run.end;
        return isBetter;
    }
    void write(unsigned looks = 0) {
        entry_["seconds"] = std::round(10.0 * (seconds() + std::exchange(seconds_, 0.0))) / 10.0;
        entry_["values"] = best_.values;
        entry_["goals"] = inWords(best_);
        if (looks > 0) entry_["looks"] = looks;
    }

  private:
    const tuning::Problem& problem_;
    json& entry_;
    Standing best_;
    double seconds_ = 0.0;
};

/// Not a seed of the table's.
constexpr unsigned kFirstLook = 1001;

bool concerns(const Options& options, const tuning::Problem& problem) {
    return options.problem.empty() || problem.name.find(options.problem) != std::string::npos;
}

/// One run after the other, each of the problem that has been looked at least, until none is left.
void lookOn(const Options& options) {
    json all = readBest(options.best);
    const auto problems = tuning::problems();
    while (true) {
        const tuning::Problem* least = nullptr;
        double seconds = options.look;
        for (const auto& problem : problems) {
            const double soFar = all.contains(problem.name) ? all[problem.name].value("seconds", 0.0) : 0.0;
            if (!concerns(options, problem) || soFar >= seconds) continue;
            least = &problem;
            seconds = soFar;
        }
        if (least == nullptr) return;
        Known known(*least, all[least->name]);
        const unsigned looks = known.looks();
        const bool isBetter = known.add(runOnce(*least, kFirstLook + looks, options.seconds));
        known.write(looks + 1);
        if (isBetter)
            fmt::print("{}, after {:.0f} s: {}\n", least->name, known.seconds(), inWords(known.best()));
        std::cout.flush();
        writeBest(options.best, all);
    }
}

int run(const Options& options) {
    json all = readBest(options.best);
    json table = json::array();
    int within = 0;
    int asked = 0;
    for (const auto& problem : tuning::problems()) {
        if (!concerns(options, problem)) continue;
        std::vector<Run> runs;
        for (unsigned seed = options.first; seed < options.first + options.seeds; ++seed)
            runs.push_back(runOnce(problem, seed, options.seconds));
        // The best that is known: of all runs so far, and of these.
        Known known(problem, all[problem.name]);
        for (const auto& one : runs) known.add(one);
        known.write();
        const Standing& best = known.best();
        json row{{"problem", problem.name}, {"what", problem.what},
                 {"best", inWords(best)},   {"spent", known.seconds()},
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
        if (options.keep && !options.best.empty()) writeBest(options.best, all);
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
    app.add_option("--look", options.look, "Only look for better ones, until so many seconds in all for each")
        ->check(CLI::Range(1.0, 1e6))
        ->needs("--best");
    CLI11_PARSE(app, argc, argv);
    try {
        if (options.look <= 0.0) return run(options);
        lookOn(options);
        return 0;
    } catch (const std::exception& e) {
        std::cerr << e.what() << "\n";
        return 1;
    }
}
