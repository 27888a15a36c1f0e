// trade: what an antenna can do against one number that is asked of it.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/project/design_json.h"
#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "core/quantity/formula.h"
#include "core/study/tuning/trade_off.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct TradeCommand {
    Options project;
    std::string goals;
    std::size_t goal = 0;
    std::size_t limit = 0;
    std::string from;
    std::string to;
    int points = 7;
    double seconds = 60.0;
    unsigned seed = 1;
    std::string out;
};

double asked(const std::string& typed, bool ofLimit) {
    const bool bare =
        quantity::isPlainNumber(typed) && typed.find_first_not_of("0123456789.eE+-") == std::string::npos;
    return quantity::evaluate(ofLimit && bare ? typed + " m" : typed,
                              ofLimit ? quantity::Kind::Length : quantity::Kind::Number, {});
}

/// The project with the antenna of every point as a design of its own.
void writePoints(const Loaded& loaded, const study::TradeOff& trade, const std::string& unit,
                 const std::string& path) {
    model::Project out = loaded.project;
    for (const auto& point : trade.points) {
        if (!point.solved) continue;
        model::Design design = point.design;
        design.id = 0;
        design.name =
            fmt::format("{}, {:.4g}{}", loaded.design.name, point.value, unit.empty() ? "" : " " + unit);
        out.designs.push_back(std::move(design));
    }
    io::writeProject(out, path);
}

int run(const TradeCommand& options) {
    Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    if (!options.goals.empty())
        loaded.design.tune = io::readPlan(io::readJsonFile(options.goals), options.goals);
    const auto choices = study::tradeChoices(loaded.design);
    const bool ofLimit = options.limit > 0;
    const std::size_t index = (ofLimit ? options.limit : options.goal) - 1;
    const auto choice = std::find_if(choices.begin(), choices.end(), [&](const study::TradeChoice& c) {
        return c.ofLimit == ofLimit && c.index == index;
    });
    if (choice == choices.end()) {
        std::string list;
        for (const auto& c : choices)
            list += fmt::format("{}--{} {} ({})", list.empty() ? "" : ", ", c.ofLimit ? "limit" : "goal",
                                c.index + 1, c.words);
        throw Error(fmt::format("{}: {}", options.project.file,
                                list.empty()
                                    ? "no goal of the design has a number, and it has no limit: add one."
                                    : "sweep one of " + list + "."));
    }
    study::TradeAxis axis{ofLimit, index, asked(options.from, ofLimit), asked(options.to, ofLimit),
                          options.points};
    study::TradeOptions trading;
    trading.seed = options.seed;
    trading.maxSeconds = options.seconds;
    int shown = 0;
    trading.progress = [&](double share) {
        const int percent = static_cast<int>(100.0 * share);
        if (percent > shown) std::fprintf(stderr, "%3d %%\n", shown = percent);
    };
    const auto trade = study::studyTrade(loaded.design, loaded.project.bands, axis, trading);
    if (!options.out.empty()) writePoints(loaded, trade, choice->unit, options.out);
    bool all = !trade.stopped;
    for (const auto& point : trade.points) all = all && point.solved;
    if (options.project.json) {
        json points = json::array();
        for (const auto& point : trade.points) {
            if (!point.solved) continue;
            json goals = json::array();
            for (const auto& g : point.goals)
                goals.push_back(
                    {{"goal", g.sentence}, {"worst", g.worst}, {"unit", g.unit}, {"met", g.met()}});
            points.push_back({{"asked", point.value},
                              {"met", point.met()},
                              {"miss", point.miss},
                              {"values", point.values},
                              {"goals", goals}});
        }
        printJson(json{{"swept", choice->words},
                       {"unit", choice->unit},
                       {"points", points},
                       {"stopped", trade.stopped}});
        return all ? kDone : kFound;
    }
    fmt::print("{}, {}: {}{}\n", loaded.project.title, loaded.design.name, choice->words,
               choice->unit.empty() ? "" : " ... " + choice->unit);
    const study::TradePoint* any = nullptr;
    for (const auto& point : trade.points)
        if (point.solved) any = &point;
    if (any == nullptr) return kFound;
    for (std::size_t g = 0; g < any->goals.size(); ++g)
        fmt::print("  ({}) {}{}\n", g + 1, any->goals[g].sentence,
                   any->goals[g].unit.empty() ? "" : ", " + any->goals[g].unit);
    fmt::print("{:>10}", "asked");
    for (std::size_t g = 0; g < any->goals.size(); ++g) fmt::print(" {:>9}", fmt::format("({})", g + 1));
    fmt::print("  met\n");
    for (const auto& point : trade.points) {
        if (!point.solved) continue;
        fmt::print("{:>10.4g}", point.value);
        for (const auto& g : point.goals) fmt::print(" {:>9.2f}", g.worst);
        fmt::print("  {}\n", point.met() ? "yes" : "no");
    }
    if (trade.stopped) fmt::print("stopped after {:.0f} s: more may be possible\n", options.seconds);
    return all ? kDone : kFound;
}

}  // namespace

void addTradeCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<TradeCommand>();
    CLI::App* command = app.add_subcommand(
        "trade", "What the antenna can do against one number that is asked of it, everything else tuned");
    addProjectOptions(command, options->project);
    command->add_option("--goals", options->goals,
                        "File with goals, what may move, and limits; those of the design if left out");
    auto* goal = command->add_option("--goal", options->goal, "Sweep the number of this goal, counted from 1")
                     ->check(CLI::Range(1, 3000));
    command->add_option("--limit", options->limit, "Sweep this limit of what is built, counted from 1")
        ->check(CLI::Range(1, 3000))
        ->excludes(goal);
    command->add_option("--from", options->from, "Least of it, in the unit of the goal, or a length")
        ->required();
    command->add_option("--to", options->to, "Most of it")->required();
    command->add_option("--points", options->points, "Antennas along the way")->check(CLI::Range(2, 60));
    command->add_option("--seconds", options->seconds, "Longest time")->check(number(0.1, 1e6, "seconds"));
    command->add_option("--seed", options->seed, "Of the random starts");
    command->add_option("--out", options->out,
                        "Write the project with the antenna of every point as a design");
    command->add_flag("--json", options->project.json, "Print JSON instead of a table");
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
