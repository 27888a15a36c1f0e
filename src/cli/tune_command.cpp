// tune: moves dimensions until the goals are met, with progress on standard error.
#include <fmt/format.h>

#include <cstdio>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/project/design_json.h"
#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "core/study/figure_changes.h"
#include "core/study/tuning/tune.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct TuneOptions {
    Options project;
    std::string goals;
    std::string out;
    std::string checkpoint;
    unsigned seed = 1;
    double seconds = 60.0;
    long evaluations = 400000;
    int starts = 4;
    bool asBuilt = false;
    bool keepGoals = false;
};

/// Whole or not at all: a stop while it is written leaves the old one.
void writeCheckpoint(const std::string& path, const study::TuneState& state) {
    const json point = {
        {"values", state.values}, {"objective", state.objective}, {"evaluations", state.evaluations}};
    io::writeTextAtomically(path, io::jsonText(point, 2) + "\n");
}

json stateJson(const study::TuneState& state) {
    json goals = json::array();
    for (const auto& g : state.goals)
        goals.push_back({{"goal", g.sentence},
                         {"worst", g.worst},
                         {"unit", g.unit},
                         {"at_hz", g.atHz},
                         {"miss", g.most ? 0.0 : g.miss},
                         {"met", g.met()}});
    return {{"values", state.values},
            {"objective", state.objective},
            {"evaluations", state.evaluations},
            {"seconds", state.seconds},
            {"goals", goals}};
}

json asBuiltJson(const study::TuneResult& result) {
    if (!result.asBuilt) return nullptr;
    study::TuneState plain;
    plain.goals = result.asBuilt->plain;
    return {{"builds", result.asBuilt->builds},
            {"meeting", result.asBuilt->meeting},
            {"plain_meeting", result.asBuilt->plainMeeting},
            {"plain_goals", stateJson(plain)["goals"]}};
}

std::string goalLine(const study::GoalState& g) {
    const std::string unit = g.unit.empty() ? "" : " " + g.unit;
    const std::string verdict = g.most    ? ""
                                : g.met() ? ", met"
                                          : fmt::format(", misses by {:.2f}{}", g.miss, unit);
    return fmt::format("  {}: {:.2f}{} at {:.3f} MHz{}", g.sentence, g.worst, unit, g.atHz / 1e6, verdict);
}

int run(const TuneOptions& options) {
    Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const model::TunePlan own = loaded.design.tune;
    if (!options.goals.empty())
        loaded.design.tune = io::readPlan(io::readJsonFile(options.goals), options.goals);
    loaded.design.tune.asBuilt = loaded.design.tune.asBuilt || options.asBuilt;
    study::TuneOptions tune;
    tune.seed = options.seed;
    tune.maxSeconds = options.seconds;
    tune.maxEvaluations = options.evaluations;
    tune.starts = options.starts;
    if (!options.checkpoint.empty() && std::filesystem::exists(options.checkpoint)) {
        const json kept = io::readJsonFile(options.checkpoint);
        if (!kept.contains("values") || !kept["values"].is_object())
            throw Error(fmt::format("{} is not a checkpoint of tuning.", options.checkpoint));
        for (const auto& [name, value] : kept["values"].items())
            if (value.is_number()) tune.resume[name] = value.get<double>();
        std::fprintf(stderr, "going on from %s\n", options.checkpoint.c_str());
    }
    tune.progress = [&](const study::TuneState& state) {
        std::fprintf(stderr, "%8.1f s %9ld solved  largest miss %8.3f\n", state.seconds, state.evaluations,
                     state.objective);
        if (!options.checkpoint.empty()) writeCheckpoint(options.checkpoint, state);
    };
    const auto result = study::tune(loaded.design, loaded.project.bands, tune);
    if (!options.checkpoint.empty()) writeCheckpoint(options.checkpoint, result.best);
    const bool met =
        std::all_of(result.rounded.begin(), result.rounded.end(), [](const auto& g) { return g.met(); });
    if (!options.out.empty()) {
        model::Design tuned = result.proposal;
        if (!options.keepGoals) tuned.tune = own;
        writeWith(loaded, tuned, options.out);
    }
    const auto changes =
        study::figureChanges(loaded.design, result.proposal, loaded.project.bands, loaded.project.angles);
    if (options.project.json) {
        json figures = json::array();
        for (const auto& c : changes)
            figures.push_back({{"figure", c.name},
                               {"unit", c.unit},
                               {"before", c.before},
                               {"after", c.after},
                               {"better", c.better}});
        study::TuneState rounded = result.best;
        rounded.goals = result.rounded;
        printJson(json{{"before", stateJson(result.before)},
                       {"best", stateJson(result.best)},
                       {"rounded", stateJson(rounded)["goals"]},
                       {"figures", figures},
                       {"as_built", asBuiltJson(result)},
                       {"met", met},
                       {"stopped", result.stopped}});
        return met ? kDone : kFound;
    }
    fmt::print("{}, {}: {} antennas solved in {:.1f} s\n", loaded.project.title, loaded.design.name,
               result.best.evaluations, result.best.seconds);
    fmt::print("{:>16} {:>14} {:>14}\n", "dimension", "before", "after");
    for (const auto& [name, value] : result.best.values)
        for (const auto& d : result.proposal.dimensions)
            if (d.name == name)
                fmt::print("{:>16} {:>14.4f} {:>14}\n", name, result.before.values.at(name), d.text);
    fmt::print("as it was\n");
    for (const auto& g : result.before.goals) fmt::print("{}\n", goalLine(g));
    fmt::print("rounded to steps that can be built\n");
    for (const auto& g : result.rounded) fmt::print("{}\n", goalLine(g));
    if (result.asBuilt) {
        fmt::print("as built: {} of {} meet every goal; tuned without regard to it {} would, with\n",
                   result.asBuilt->meeting, result.asBuilt->builds, result.asBuilt->plainMeeting);
        for (const auto& g : result.asBuilt->plain) fmt::print("{}\n", goalLine(g));
    }
    for (const bool better : {false, true}) {
        if (std::none_of(changes.begin(), changes.end(), [&](const auto& c) { return c.better == better; }))
            continue;
        fmt::print("{}\n", better ? "better" : "worse");
        for (const auto& c : changes)
            if (c.better == better) fmt::print("  {}\n", c.sentence());
    }
    if (changes.empty()) fmt::print("nothing better was found: the figures are what they were\n");
    return met ? kDone : kFound;
}

}  // namespace

void addTuneCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<TuneOptions>();
    CLI::App* command =
        app.add_subcommand("tune", "Move dimensions until the goals are met over the whole band");
    addProjectOptions(command, options->project);
    command->add_option("--goals", options->goals,
                        "File with goals, what may move, and limits; those of the design if left out");
    command->add_option("--out", options->out, "Write the project with the tuned design to this file");
    command->add_flag("--keep-goals", options->keepGoals,
                      "Write the goals of --goals into that project, too");
    command->add_option("--checkpoint", options->checkpoint,
                        "Keep the best so far in this file, and go on from it where it is there");
    command->add_option("--seed", options->seed, "Of the random starts");
    command->add_option("--seconds", options->seconds, "Longest time")->check(number(0.1, 1e6, "seconds"));
    command->add_option("--evaluations", options->evaluations, "Most antennas solved, each at one frequency")
        ->check(number(1, 1e12));
    command->add_option("--starts", options->starts, "Local searches")->check(CLI::Range(1, 100));
    command->add_flag("--as-built", options->asBuilt,
                      "Goals are to hold for nine of ten builds, with the errors that the plan says");
    command->add_flag("--json", options->project.json, "Print JSON instead of a table");
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
