// heights, grounds and scale: what the place does to an antenna, and the same antenna for another frequency.
#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"
#include "core/study/resonance.h"
#include "core/study/site_study.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct ScaleOptions {
    Options project;
    double toMhz = 0.0;
    std::vector<std::string> dimensions;
    std::string out;
};

json toJson(const study::SitePoint& p) {
    return {{"soil", p.soil},
            {"site_height_m", p.siteHeightM},
            {"feed_height_m", p.feedHeightM},
            {"z", {p.impedanceOhm.real(), p.impedanceOhm.imag()}},
            {"swr", p.swr},
            {"gain_dbi", p.peak.gainDbi},
            {"takeoff_deg", p.peak.direction.elevationDeg},
            {"watch_gain_dbi", p.watchGainDbi},
            {"ground_share", p.groundShare}};
}

void printHead(const char* first, const study::Look& look) {
    fmt::print("{} {:>18} {:>6} {:>8} {:>8}", first, "Z, ohm", "SWR", "dBi", "takeoff");
    for (const double angle : look.watchDeg) fmt::print(" {:>9}", fmt::format("dBi {:g}°", angle));
    fmt::print(" {:>10}\n", "ground, %");
}

void printRow(const std::string& first, const study::SitePoint& p) {
    fmt::print("{} {:>18} {:>6} {:>8.2f} {:>8.1f}", first,
               fmt::format("{:.2f} {:+.2f}j", p.impedanceOhm.real(), p.impedanceOhm.imag()),
               quantity::formatSwr(p.swr), p.peak.gainDbi, p.peak.direction.elevationDeg);
    for (const double gain : p.watchGainDbi) fmt::print(" {:>8}", quantity::formatDb(gain, 2));
    fmt::print(" {:>10.1f}\n", 100.0 * p.groundShare);
}

int runHeights(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double hz = frequenciesHz(options, loaded).front();
    const auto s = study::studyHeights(loaded.design, hz, lookOf(options, loaded), options.points);
    if (options.json) {
        json points = json::array();
        for (const auto& p : s.points) points.push_back(toJson(p));
        printJson(json{{"frequency_hz", s.frequencyHz},
                       {"watch_deg", s.look.watchDeg},
                       {"now_feed_height_m", s.nowFeedHeightM},
                       {"points", points}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz; the feed hangs at {:.2f} m now\n", loaded.project.title,
               loaded.design.name, hz / 1e6, s.nowFeedHeightM);
    printHead(fmt::format("{:>8} {:>8}", "site, m", "feed, m").c_str(), s.look);
    for (const auto& p : s.points)
        printRow(fmt::format("{:>8.2f} {:>8.2f}", p.siteHeightM, p.feedHeightM), p);
    return kDone;
}

int runGrounds(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double hz = frequenciesHz(options, loaded).front();
    const auto s = study::studyGrounds(loaded.design, hz, lookOf(options, loaded));
    if (options.json) {
        json points = json::array();
        for (const auto& p : s.points) points.push_back(toJson(p));
        printJson(json{{"frequency_hz", hz}, {"watch_deg", s.look.watchDeg}, {"grounds", points}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz\n", loaded.project.title, loaded.design.name, hz / 1e6);
    printHead(fmt::format("{:<28}", "ground").c_str(), s.look);
    for (const auto& p : s.points) {
        const model::Soil* soil = model::findSoil(p.soil);
        printRow(fmt::format("{:<28}", soil != nullptr ? soil->name : p.soil), p);
    }
    return kDone;
}

int runScale(const ScaleOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const auto names =
        options.dimensions.empty() ? study::scalableDimensions(loaded.design) : options.dimensions;
    const auto scaled = study::scaleToFrequency(loaded.design, names, 1e6 * options.toMhz);
    if (!options.out.empty()) writeWith(loaded, scaled.design, options.out);
    const auto isChosen = [&](const std::string& name) {
        return std::find(names.begin(), names.end(), name) != names.end();
    };
    if (options.project.json) {
        json values = json::object();
        for (const auto& d : scaled.design.dimensions)
            if (isChosen(d.name)) values[d.name] = d.text;
        printJson(json{{"factor", scaled.factor},
                       {"resonance_before_hz", scaled.before.frequencyHz},
                       {"resonance_hz", scaled.after.frequencyHz},
                       {"z", {scaled.after.impedanceOhm.real(), scaled.after.impedanceOhm.imag()}},
                       {"dimensions", values}});
        return kDone;
    }
    fmt::print("{}, {}: resonant at {:.4f} MHz, {:.2f} ohm; it was at {:.4f} MHz; factor {:.5f}\n",
               loaded.project.title, loaded.design.name, scaled.after.frequencyHz / 1e6,
               scaled.after.impedanceOhm.real(), scaled.before.frequencyHz / 1e6, scaled.factor);
    for (std::size_t i = 0; i < scaled.design.dimensions.size(); ++i)
        if (isChosen(scaled.design.dimensions[i].name))
            fmt::print("{:>16} {:>14} {:>14}\n", scaled.design.dimensions[i].name,
                       loaded.design.dimensions[i].text, scaled.design.dimensions[i].text);
    return kDone;
}

void addPlace(CLI::App* command, const std::shared_ptr<Options>& options) {
    command->add_option("--freq", options->frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    command->add_option("--band", options->band, "The middle of this band");
    addBearing(command, options);
}

}  // namespace

void addSiteCommands(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<Options>();
    options->points = 24;
    CLI::App* heights =
        addProjectCommand(app, exitCode, options, "heights", "The same antenna at many heights", runHeights);
    addPlace(heights, options);
    heights->add_option("--points", options->points, "How many heights")->check(CLI::Range(2, 500));
    auto ground = std::make_shared<Options>();
    addPlace(addProjectCommand(app, exitCode, ground, "grounds", "The same antenna over every kind of ground",
                               runGrounds),
             ground);

    auto o = std::make_shared<ScaleOptions>();
    CLI::App* scale =
        app.add_subcommand("scale", "Make the antenna resonant at another frequency, at the same height");
    addProjectOptions(scale, o->project);
    scale->add_option("--to", o->toMhz, "Frequency in MHz")->required()->check(frequencyMhz());
    scale->add_option("--dimensions", o->dimensions,
                      "Dimensions to multiply; every length that is a plain number if left out");
    scale->add_option("--out", o->out, "Write the project with the scaled design to this file");
    scale->add_flag("--json", o->project.json, "Print JSON instead of a table");
    scale->callback([o, &exitCode] { exitCode = runScale(*o); });
}

}  // namespace rm::cli
