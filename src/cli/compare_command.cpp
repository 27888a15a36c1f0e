// compare: the designs of several projects against bands.
#include <fmt/format.h>

#include <cmath>
#include <optional>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/project/project_file.h"
#include "core/quantity/format.h"
#include "core/quantity/number.h"
#include "core/study/compare.h"
#include "core/study/lobes.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct CompareOptions {
    std::vector<std::string> files;
    std::string figure = "swr";
    double angleDeg = 10.0;
    std::string towards = "strongest";
    bool json = false;

    /// A bearing of its own for the gain; nothing: "strongest" or "best".
    std::optional<double> bearingDeg() const {
        if (towards == "strongest" || towards == "best") return std::nullopt;
        return quantity::readNumber(towards);
    }
};

/// Gain at an elevation and the compass bearing it is towards.
struct Towards {
    double gainDbi = 0.0;
    double bearingDeg = 0.0;
};

Towards gainOf(const CompareOptions& options, const study::CompareRow& row, const study::CompareCell& cell) {
    const auto& a = *cell.analysis;
    const auto compass = [&](double azimuthDeg) {
        return std::fmod(row.headingDeg - azimuthDeg + 720.0, 360.0);
    };
    if (options.towards == "strongest")
        return {cell.watchGainDbi[0], compass(a.figures.peak.direction.azimuthDeg)};
    const study::Cut around = study::azimuthCut(*a.mesh, a.reading, options.angleDeg, 1.0);
    if (const auto bearing = options.bearingDeg()) return {around.at(row.headingDeg - *bearing), *bearing};
    const study::Lobe best = study::readCut(around).maximum;
    return {best.gainDbi, compass(best.angleDeg)};
}

json cellJson(const CompareOptions& options, const study::CompareRow& row, const study::CompareCell& cell) {
    if (!cell.known()) return nullptr;
    const study::Figures& f = cell.analysis->figures;
    const Towards towards = gainOf(options, row, cell);
    return {{"frequency_hz", cell.frequencyHz},
            {"gain_at_angle_dbi", towards.gainDbi},
            {"gain_bearing_deg", towards.bearingDeg},
            {"worst_swr", cell.worstSwr},
            {"watch_gain_dbi", cell.watchGainDbi},
            {"peak_dbi", f.peak.gainDbi},
            {"takeoff_deg", f.peak.direction.elevationDeg},
            {"efficiency", f.efficiency}};
}

std::string cellText(const study::CompareCell& cell, study::CompareQuantity quantity) {
    if (!cell.meant) return "";
    const auto v = study::figureOf(cell, quantity);
    if (!v) return "failed";
    return quantity == study::CompareQuantity::Swr ? quantity::formatSwr(*v) : fmt::format("{:.1f}", *v);
}

int run(const CompareOptions& options) {
    // One project of all designs, on the bands of the first.
    model::Project all;
    for (const auto& file : options.files) {
        model::Project project = io::readProject(file);
        if (all.bands.empty()) all.bands = project.bands;
        for (auto& design : project.designs) all.designs.push_back(std::move(design));
        for (auto& pin : project.pins) all.pins.push_back(std::move(pin));
    }
    if (all.bands.empty()) throw Error(fmt::format("{} names no bands.", options.files.front()));
    all.angles.watchDeg[0] = options.angleDeg;
    const study::Comparison c = study::compare(all);
    if (options.json) {
        json rows = json::array();
        for (const auto& row : c.rows) {
            json cells = json::array();
            for (const auto& cell : row.cells) cells.push_back(cellJson(options, row, cell));
            rows.push_back({{"name", row.name}, {"pin", row.pin}, {"cells", cells}});
        }
        json bands = json::array();
        for (const auto& band : c.bands) bands.push_back(band.name);
        printJson(json{{"bands", bands}, {"watch_deg", all.angles.watchDeg}, {"rows", rows}});
        return kDone;
    }
    const auto quantity = options.figure == "swr"       ? study::CompareQuantity::Swr
                          : options.figure == "gain"    ? study::CompareQuantity::Gain1
                          : options.figure == "peak"    ? study::CompareQuantity::Peak
                          : options.figure == "takeoff" ? study::CompareQuantity::Takeoff
                                                        : study::CompareQuantity::Efficiency;
    if (options.figure == "gain")
        fmt::print("gain in dBi at {:g} degrees, towards {}\n", options.angleDeg,
                   options.towards == "strongest" ? "the strongest lobe of each"
                   : options.towards == "best"    ? "the bearing where each is best at that elevation"
                                                  : fmt::format("{:g} degrees", *options.bearingDeg()));
    fmt::print("{:<44}", options.figure);
    for (const auto& band : c.bands) fmt::print("{:>9}", band.name);
    fmt::print("\n");
    for (const auto& row : c.rows) {
        fmt::print("{:<44}", (row.pin ? "pin: " : "") + row.name);
        for (const auto& cell : row.cells)
            fmt::print("{:>9}", options.figure == "gain" && cell.known()
                                    ? quantity::formatDb(gainOf(options, row, cell).gainDbi, 1)
                                    : cellText(cell, quantity));
        fmt::print("\n");
    }
    return kDone;
}

}  // namespace

void addCompareCommand(CLI::App& app, int& exitCode) {
    auto o = std::make_shared<CompareOptions>();
    CLI::App* c = app.add_subcommand("compare", "The designs and pins of one or more projects against bands");
    c->add_option("projects", o->files, "Project files; the bands are those of the first")->required();
    c->add_option("--figure", o->figure, "swr, gain, peak, takeoff or efficiency")
        ->check(CLI::IsMember({"swr", "gain", "peak", "takeoff", "efficiency"}));
    c->add_option("--angle", o->angleDeg, "Elevation of the gain in degrees")
        ->check(number(0.0, 90.0, "degrees"));
    c->add_option("--towards", o->towards,
                  "Where the gain is read: 'strongest' (along the strongest lobe of each), 'best' (where "
                  "each is best at "
                  "that elevation), or a compass bearing in degrees")
        ->check([](const std::string& words) {
            if (words == "strongest" || words == "best") return std::string();
            std::string degrees = words;
            return number(-360.0, 360.0, "degrees")(degrees);
        });
    c->add_flag("--json", o->json, "Print JSON instead of a table");
    c->callback([o, &exitCode] { exitCode = run(*o); });
}

}  // namespace rm::cli
