// build: what to cut, and out of which stock lengths.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "core/build/stock.h"
#include "core/quantity/formula.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct CutOptions {
    Options project;
    std::string end = "15 cm";
    std::string feed = "5 cm";
    std::string stock = "6 m";
    std::string kerf = "2 mm";
};

double metres(const std::string& option, const std::string& text) {
    const double value = quantity::evaluate(text, quantity::Kind::Length, {});
    if (!(value >= 0.0) || value > 1e4)
        throw Error(fmt::format("{}: \"{}\" is not a length from 0 to 10 km.", option, text));
    return value;
}

/// Rods and tubes of one conductor on stock lengths.
struct Bars {
    std::string conductor;
    std::vector<double> lengthsM;
    build::StockPlan plan;
};

std::vector<Bars> barsOf(const build::CutList& list, double stockM, double kerfM) {
    std::vector<Bars> all;
    for (const auto& total : list.totals) {
        if (total.wire) continue;
        Bars bars{total.conductor, {}, {}};
        for (const auto& piece : list.pieces)
            if (piece.conductor == total.conductor && !piece.wire)
                bars.lengthsM.insert(bars.lengthsM.end(), static_cast<std::size_t>(piece.count), piece.cutM);
        bars.plan = build::layOut(bars.lengthsM, stockM, kerfM);
        all.push_back(std::move(bars));
    }
    return all;
}

json toJson(const build::CutList& list, const std::vector<Bars>& bars) {
    json pieces = json::array();
    for (const auto& p : list.pieces)
        pieces.push_back({{"part", p.part},
                          {"count", p.count},
                          {"conductor", p.conductor},
                          {"modelled_m", p.modelledM},
                          {"cut_m", p.cutM},
                          {"added", p.added},
                          {"bends", p.bends}});
    json totals = json::array();
    for (const auto& t : list.totals)
        totals.push_back({{"conductor", t.conductor}, {"cut_m", t.cutM}, {"pieces", t.pieces}});
    json stock = json::array();
    for (const auto& b : bars) {
        json laid = json::array();
        for (const auto& bar : b.plan.bars) {
            json lengths = json::array();
            for (const std::size_t i : bar.pieces) lengths.push_back(b.lengthsM[i]);
            laid.push_back({{"cut_m", lengths}, {"left_m", bar.leftM}});
        }
        json tooLong = json::array();
        for (const std::size_t i : b.plan.tooLong) tooLong.push_back(b.lengthsM[i]);
        stock.push_back({{"conductor", b.conductor}, {"bars", laid}, {"too_long_m", tooLong}});
    }
    return {{"pieces", pieces}, {"totals", totals}, {"stock", stock}};
}

/// A field of comma-separated values.
std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"') out += '"';
        out += c;
    }
    return out + "\"";
}

int run(const CutOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    build::Allowances allowances;
    allowances.endM = metres("--end", options.end);
    allowances.feedM = metres("--feed", options.feed);
    const double stockM = metres("--stock", options.stock);
    if (!(stockM > 0.0)) throw Error("--stock: a stock length of 0 holds nothing.");
    const auto list = build::cutList(loaded.design, allowances);
    const auto bars = barsOf(list, stockM, metres("--kerf", options.kerf));
    if (options.project.json) {
        printJson(toJson(list, bars));
        return kDone;
    }
    if (options.project.csv) {
        fmt::print("part,count,conductor,modelled_m,cut_m,added\n");
        for (const auto& p : list.pieces)
            fmt::print("{},{},{},{:.4f},{:.4f},{}\n", quoted(p.part), p.count, quoted(p.conductor),
                       p.modelledM, p.cutM, quoted(p.added));
        return kDone;
    }
    fmt::print("{}, {}\n{:<28} {:>5} {:>12} {:>12}  {}\n", loaded.project.title, loaded.design.name, "part",
               "count", "modelled, m", "cut, m", "added");
    for (const auto& p : list.pieces)
        fmt::print("{:<28} {:>5} {:>12.3f} {:>12.3f}  {}\n", p.part, p.count, p.modelledM, p.cutM, p.added);
    fmt::print("\n");
    for (const auto& t : list.totals)
        fmt::print("{}: {:.2f} m in {} {}\n", t.conductor, t.cutM, t.pieces,
                   t.pieces == 1 ? "piece" : "pieces");
    for (const auto& b : bars) {
        fmt::print("\n{} out of {:.2f} m\n", b.conductor, stockM);
        for (const auto& bar : b.plan.bars) {
            std::vector<std::string> lengths;
            for (const std::size_t i : bar.pieces) lengths.push_back(fmt::format("{:.3f}", b.lengthsM[i]));
            fmt::print("  {}   left {:.2f} m\n", fmt::join(lengths, " + "), bar.leftM);
        }
        for (const std::size_t i : b.plan.tooLong)
            fmt::print("  {:.3f} m is longer than that: join it from two\n", b.lengthsM[i]);
    }
    return kDone;
}

}  // namespace

void addCutCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<CutOptions>();
    CLI::App* command = app.add_subcommand("build", "What to cut, and out of which stock lengths");
    command->add_option("project", options->project.file, "Project file")->required();
    command->add_option("--design", options->project.design,
                        "Name of the design; the active one if left out");
    command->add_flag("--json", options->project.json, "Print JSON instead of a table");
    command->add_flag("--csv", options->project.csv, "Print the pieces as comma-separated values");
    command->add_option("--end", options->end,
                        "Wire folded back at a free end, with its unit; 15 cm if left out");
    command->add_option("--feed", options->feed, "Wire at a feed, a load or a joint; 5 cm if left out");
    command->add_option("--stock", options->stock, "Length that rods and tubes are sold in; 6 m if left out");
    command->add_option("--kerf", options->kerf, "What a saw takes; 2 mm if left out");
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
