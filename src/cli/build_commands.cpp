// matters, tolerance and scan: what each dimension does, what errors of building do, and a figure over
// dimensions.
#include <fmt/format.h>

#include <cmath>
#include <map>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/model/dimension_kind.h"
#include "core/quantity/formula.h"
#include "core/study/scan.h"
#include "core/study/tolerance.h"
#include "core/study/tuning/sensitivities.h"
#include "core/study/tuning/tune_axes.h"
#include "core/study/varied.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct BuildOptions {
    Options project;
    std::string step = "mm";
    study::ErrorTexts errors;
    int builds = 100;
    unsigned seed = 1;
    std::string over, from, to, also, alsoFrom, alsoTo;
    int points = 21;
    std::string figure = "swr";
    double angleDeg = 10.0;
};

const std::map<std::string, study::ScanFigure>& scanFigures() {
    static const std::map<std::string, study::ScanFigure> figures = {
        {"swr", study::ScanFigure::Swr},
        {"gain", study::ScanFigure::Gain},
        {"front-to-rear", study::ScanFigure::FrontToRear},
        {"front-to-back", study::ScanFigure::FrontToBack},
        {"takeoff", study::ScanFigure::Takeoff},
        {"resistance", study::ScanFigure::Resistance},
        {"reactance", study::ScanFigure::Reactance},
        {"efficiency", study::ScanFigure::Efficiency},
        {"ground-loss", study::ScanFigure::GroundShare},
        {"beamwidth", study::ScanFigure::Beamwidth},
        {"side-lobe", study::ScanFigure::SideLobe},
        {"gain-at", study::ScanFigure::GainAt}};
    return figures;
}

int runMatters(const BuildOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const double hz = frequenciesHz(options.project, loaded).front();
    const std::map<std::string, study::SensitivityStep> steps = {{"mm", study::SensitivityStep::Millimetre},
                                                                 {"cm", study::SensitivityStep::Centimetre},
                                                                 {"%", study::SensitivityStep::Percent}};
    const auto rows = study::studySensitivity(loaded.design, hz, steps.at(options.step));
    if (options.project.json) {
        json list = json::array();
        for (const auto& r : rows)
            list.push_back({{"dimension", r.dimension},
                            {"step", r.step},
                            {"swr", r.swr},
                            {"resonance_hz", r.resonanceHz},
                            {"gain_db", r.gainDb},
                            {"front_to_rear_db", r.frontToRearDb}});
        printJson(json{{"frequency_hz", hz}, {"dimensions", list}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz: one step more of each dimension\n", loaded.project.title,
               loaded.design.name, hz / 1e6);
    fmt::print("{:>16} {:>10} {:>9} {:>14} {:>9} {:>14}\n", "dimension", "step", "SWR", "resonance kHz",
               "gain dB", "front-rear dB");
    for (const auto& r : rows)
        fmt::print("{:>16} {:>10.4g} {:>+9.3f} {:>+14.1f} {:>+9.3f} {:>+14.2f}\n", r.dimension, r.step, r.swr,
                   r.resonanceHz / 1e3, r.gainDb, r.frontToRearDb);
    return kDone;
}

int runTolerance(const BuildOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const auto errors = study::readErrors(options.errors);
    const model::Band band = bandToSweep(options.project, loaded);
    const auto t = study::studyTolerance(loaded.design, loaded.project.bands, band.lowHz, band.highHz,
                                         options.builds, errors, options.seed);
    if (options.project.json) {
        json each = json::object();
        for (const auto& [goal, met] : t.each) each[goal] = met;
        printJson(json{{"builds", t.builds},
                       {"meeting", t.meeting < 0 ? json() : json(t.meeting)},
                       {"failed", t.failed},
                       {"rests_on_ground", t.restsOnGround},
                       {"goals", each},
                       {"nine_of_ten_below_swr", t.mostOfNine},
                       {"frequency_hz", t.hz},
                       {"swr_low", t.lowSwr},
                       {"swr_median", t.middleSwr},
                       {"swr_high", t.highSwr},
                       {"swr_as_drawn", t.drawnSwr}});
        return kDone;
    }
    if (t.meeting >= 0) fmt::print("{} of {} builds meet every goal\n", t.meeting, t.builds);
    if (t.failed > 0) fmt::print("{} builds could not be worked out\n", t.failed);
    if (t.restsOnGround) fmt::print("it rests on the ground: its height does not err\n");
    for (const auto& [goal, met] : t.each) fmt::print("  {}: {} of {}\n", goal, met, t.builds);
    fmt::print("nine builds of ten stay below SWR {:.2f}\n", t.mostOfNine);
    fmt::print("{:>10} {:>9} {:>9} {:>9} {:>9}\n", "MHz", "5 % below", "median", "5 % above", "as drawn");
    for (std::size_t i = 0; i < t.hz.size(); ++i)
        fmt::print("{:>10.4f} {:>9.2f} {:>9.2f} {:>9.2f} {:>9.2f}\n", t.hz[i] / 1e6, t.lowSwr[i],
                   t.middleSwr[i], t.highSwr[i], t.drawnSwr[i]);
    return kDone;
}

study::ScanAxis axisOf(const model::Design& design, const std::string& name, const std::string& from,
                       const std::string& to, int points) {
    // A name that is not there is said before its range.
    study::withDimension(design, name, 1.0);
    const auto found = std::find_if(design.dimensions.begin(), design.dimensions.end(),
                                    [&](const auto& d) { return d.name == name; });
    const auto kind = model::kindOf(found->kind);
    const auto scope = model::scopeOf(design);
    study::ScanAxis axis{name, quantity::evaluate(from, kind, scope), quantity::evaluate(to, kind, scope),
                         points};
    if (!(axis.to > axis.from))
        throw Error(fmt::format("The range of {} has to go from a lower to a higher value.", name));
    return axis;
}

int runScan(const BuildOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const double hz = frequenciesHz(options.project, loaded).front();
    const auto x = axisOf(loaded.design, options.over, options.from, options.to, options.points);
    const study::ScanAxis none{"", 0.0, 0.0, 1};
    const auto y = options.also.empty() ? none
                                        : axisOf(loaded.design, options.also, options.alsoFrom,
                                                 options.alsoTo, options.points);
    const auto scan =
        study::scanFigure(loaded.design, hz, {scanFigures().at(options.figure), options.angleDeg}, x, y);
    const auto at = [&](int i, int j) { return scan.value[static_cast<std::size_t>(j * x.count + i)]; };
    if (options.project.json) {
        json rows = json::array();
        for (int j = 0; j < y.count; ++j) {
            json row = json::array();
            for (int i = 0; i < x.count; ++i) row.push_back(std::isnan(at(i, j)) ? json() : json(at(i, j)));
            rows.push_back(row);
        }
        json out{{"frequency_hz", hz}, {"figure", options.figure}, {"over", x.dimension}, {"values", rows}};
        for (int i = 0; i < x.count; ++i) out["x"].push_back(x.at(i));
        for (int j = 0; j < y.count && y.count > 1; ++j) out["y"].push_back(y.at(j));
        if (y.count > 1) out["and"] = y.dimension;
        printJson(out);
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz\n{:>12}", options.figure, loaded.design.name, hz / 1e6, x.dimension);
    for (int j = 0; j < y.count; ++j)
        fmt::print(" {:>10}", y.count > 1 ? fmt::format("{:.4g}", y.at(j)) : options.figure);
    fmt::print("\n");
    for (int i = 0; i < x.count; ++i) {
        fmt::print("{:>12.4f}", x.at(i));
        for (int j = 0; j < y.count; ++j) fmt::print(" {:>10.3f}", at(i, j));
        fmt::print("\n");
    }
    return kDone;
}

CLI::App* command(CLI::App& app, const char* name, const char* about,
                  const std::shared_ptr<BuildOptions>& options, int& exitCode,
                  int (*run)(const BuildOptions&)) {
    CLI::App* made = app.add_subcommand(name, about);
    addProjectOptions(made, options->project);
    made->add_flag("--json", options->project.json, "Print JSON instead of a table");
    made->callback([options, &exitCode, run] { exitCode = run(*options); });
    return made;
}

}  // namespace

void addBuildCommands(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<BuildOptions>();
    auto* matters = command(app, "matters", "What one step more of each dimension changes", options, exitCode,
                            runMatters);
    matters->add_option("--freq", options->project.frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    matters->add_option("--step", options->step, "Of lengths: mm, cm or %")
        ->check(CLI::IsMember({"mm", "cm", "%"}));

    auto* tolerance = command(app, "tolerance", "The SWR of many builds with random errors", options,
                              exitCode, runTolerance);
    tolerance->add_option("--band", options->project.band,
                          "Name of the band; the working band, or the design's own first, if left out");
    tolerance->add_option("--length", options->errors.length, "Error of lengths, one standard deviation");
    tolerance->add_option("--angle", options->errors.angle, "Error of angles");
    tolerance->add_option("--diameter", options->errors.diameter, "Error of diameters, as 2 %");
    tolerance->add_option("--height", options->errors.height, "Error of the height");
    tolerance->add_option("--ground", options->errors.ground, "Error of the ground's conductivity, as 30 %");
    tolerance->add_option("--builds", options->builds, "How many")->check(CLI::Range(5, 100000));
    tolerance->add_option("--seed", options->seed, "Of the errors");

    auto* scan = command(app, "scan", "A figure over one or two dimensions", options, exitCode, runScan);
    scan->add_option("--freq", options->project.frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    scan->add_option("--over", options->over, "Dimension")->required();
    scan->add_option("--from", options->from, "Lowest value, with its unit")->required();
    scan->add_option("--to", options->to, "Highest value")->required();
    scan->add_option("--and", options->also, "A second dimension");
    scan->add_option("--and-from", options->alsoFrom, "Its lowest value");
    scan->add_option("--and-to", options->alsoTo, "Its highest value");
    scan->add_option("--points", options->points, "Values of each")->check(CLI::Range(2, 2000));
    scan->add_option("--figure", options->figure, "What to look at")->check(CLI::IsMember(scanFigures()));
    scan->add_option("--angle", options->angleDeg, "Elevation of gain-at, degrees")
        ->check(number(-90.0, 90.0, "degrees"));
}

}  // namespace rm::cli
