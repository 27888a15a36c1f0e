// solve, pattern and check: thin callers of the studies.
#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/export/pattern_files.h"
#include "core/quantity/format.h"
#include "core/study/balance.h"
#include "core/study/figures.h"
#include "core/study/resonance.h"
#include "core/study/self_check.h"

namespace rm::cli {

namespace {

using nlohmann::json;

/// A sphere in such steps has 65 million directions: a file of two gigabytes.
constexpr double kFinestStepDeg = 0.05;

json impedanceJson(const std::vector<Complex>& impedance) {
    json j = json::array();
    for (const Complex z : impedance) j.push_back({z.real(), z.imag()});
    return j;
}

int solve(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    json out = json::array();
    if (!options.json) {
        fmt::print("{}, {}; SWR to {:g} ohm\n", loaded.project.title, loaded.design.name,
                   loaded.expansion.referenceOhm);
        fmt::print("{:>10}  {:>22} {:>6} {:>8} {:>8} {:>8} {:>8} {:>8} {:>8} {:>7} {:>5} {:>8}\n", "MHz",
                   "Z, ohm", "SWR", "RL, dB", "dBi", "takeoff", "F/B, dB", "width", "eff., %", "sky, %", "N",
                   "within");
    }
    const auto frequencies = frequenciesHz(options, loaded);
    warn(loaded, frequencies);
    for (const double f : frequencies) {
        model::Expansion expansion = loaded.expansion;
        const auto doubt = study::settle(expansion, f);
        const study::Analysis a = study::analyse(expansion, f);
        const study::Figures& g = a.figures;
        if (doubt && !doubt->settled()) fmt::print(stderr, "warning: {}\n", doubt->sentence());
        if (options.json) {
            json row = {{"frequency_hz", f},
                        {"z", impedanceJson(g.impedanceOhm)},
                        {"swr", g.swr},
                        {"return_loss_db", g.returnLossDb},
                        {"gain_dbi", g.peak.gainDbi},
                        {"takeoff_deg", g.peak.direction.elevationDeg},
                        {"azimuth_deg", g.peak.direction.azimuthDeg},
                        {"front_to_back_db", g.frontToBackDb},
                        {"front_to_rear_db", g.frontToRearDb},
                        {"directivity_dbi", g.directivityDbi},
                        {"beamwidth_deg", g.beamwidthDeg},
                        {"efficiency", g.efficiency},
                        {"sky_share", g.skyShare},
                        {"ground_share", g.groundShare},
                        {"soil_share", g.soilShare()},
                        {"reflection_share", g.reflectionShare},
                        {"unknowns", g.unknowns}};
            json balance = json::array();
            const double perA = study::rmsAtFullPower(a, loaded.project.powerW);
            for (const auto& b : study::balanceOf(loaded.expansion, a))
                balance.push_back({{"feed", b.feed},
                                   {"one_side_a", perA * std::abs(b.one)},
                                   {"other_side_a", perA * std::abs(b.other)},
                                   {"differential_a", perA * std::abs(b.differential())},
                                   {"common_a", perA * std::abs(b.common())},
                                   {"run", b.run},
                                   {"largest_on_run_a", perA * b.largest}});
            row["balance"] = balance;
            json loads = json::array();
            for (const auto& l : study::loadHeat(loaded.expansion, a, loaded.project.powerW))
                loads.push_back({{"name", l.name}, {"z", {l.ohm.real(), l.ohm.imag()}}, {"watts", l.watts}});
            if (!loads.empty()) row["loads"] = loads;
            if (doubt)
                row["doubt"] = {{"impedance_share", doubt->impedance},
                                {"gain_db", doubt->gainDb},
                                {"fineness", doubt->fineness},
                                {"reason", doubt->reason}};
            if (options.resonance)
                if (const auto r = study::findResonance(loaded.expansion, f))
                    row["resonance_hz"] = r->frequencyHz;
            out.push_back(row);
            continue;
        }
        for (std::size_t feed = 0; feed < g.impedanceOhm.size(); ++feed) {
            const std::string z =
                fmt::format("{:.2f} {:+.2f}j", g.impedanceOhm[feed].real(), g.impedanceOhm[feed].imag());
            if (feed > 0)
                fmt::print("{:>10}  {:>22}\n", "", z);
            else
                fmt::print(
                    "{:>10.4f}  {:>22} {:>6} {:>8.2f} {:>8.2f} {:>8.1f} {:>8.1f} {:>8.1f} {:>8.1f} {:>7.1f} "
                    "{:>5} {:>8}\n",
                    f / 1e6, z, quantity::formatSwr(g.swr), g.returnLossDb, g.peak.gainDbi,
                    g.peak.direction.elevationDeg, g.frontToBackDb, g.beamwidthDeg, 100.0 * g.efficiency,
                    100.0 * g.skyShare, g.unknowns,
                    doubt ? fmt::format("{:.2f} %", 100.0 * doubt->impedance) : "-");
        }
        if (options.resonance) {
            if (const auto r = study::findResonance(loaded.expansion, f))
                fmt::print("{:>10}  resonant at {:.4f} MHz, {:.2f} ohm\n", "", r->frequencyHz / 1e6,
                           r->impedanceOhm.real());
            else
                fmt::print("{:>10}  no resonance within a factor of two\n", "");
        }
    }
    if (options.json) printJson(out);
    return kDone;
}

int pattern(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double f = frequenciesHz(options, loaded).front();
    warn(loaded, {f});
    study::AnalysisOptions how;
    how.stepDeg = 360.0 / std::round(360.0 / options.stepDeg);
    if (options.bearingGiven) how.bearingAzimuthDeg = loaded.expansion.headingDeg - options.bearingDeg;
    if (options.elevationGiven) how.azimuthElevationDeg = options.elevationDeg;
    const study::Analysis a = study::analyse(loaded.expansion, f, how);
    const double bearing = std::fmod(loaded.expansion.headingDeg - a.elevation.fixedAngleDeg + 720.0, 360.0);
    const auto compass = [&](double azimuth) {
        return std::fmod(loaded.expansion.headingDeg - azimuth + 720.0, 360.0);
    };
    if (options.sphere) {
        fmt::print("{}", io::sphereCsv(study::lobeGrid(*a.mesh, a.reading, options.stepDeg),
                                       loaded.expansion.headingDeg));
        return kDone;
    }
    if (options.csv) {
        fmt::print("{}", io::cutsCsv(a, loaded.expansion.headingDeg));
        return kDone;
    }
    if (options.json) {
        json azimuth = json::array();
        for (std::size_t i = 0; i < a.azimuth.angleDeg.size(); ++i)
            azimuth.push_back({compass(a.azimuth.angleDeg[i]), a.azimuth.gainDbi[i]});
        json elevation = json::array();
        for (std::size_t i = 0; i < a.elevation.angleDeg.size(); ++i)
            elevation.push_back({a.elevation.angleDeg[i], a.elevation.gainDbi[i]});
        printJson(
            json{{"frequency_hz", f},
                 {"peak_dbi", a.figures.peak.gainDbi},
                 {"takeoff_deg", a.figures.peak.direction.elevationDeg},
                 {"elevation_cut", {{"bearing_deg", bearing}, {"angle_gain", elevation}}},
                 {"azimuth_cut", {{"elevation_deg", a.azimuth.fixedAngleDeg}, {"bearing_gain", azimuth}}}});
        return kDone;
    }
    fmt::print("{}, {}, {:.4f} MHz: {:.2f} dBi at {:.1f} degrees, bearing {:.0f}\n\n", loaded.project.title,
               loaded.design.name, f / 1e6, a.figures.peak.gainDbi, a.figures.peak.direction.elevationDeg,
               compass(a.figures.peak.direction.azimuthDeg));
    fmt::print(
        "elevation cut, bearing {:.0f}        azimuth cut, elevation {:.1f}\n{:>9} {:>10} {:>20} {:>10}\n",
        bearing, a.azimuth.fixedAngleDeg, "angle", "dBi", "bearing", "dBi");
    const std::size_t rows = std::max(a.elevation.angleDeg.size(), a.azimuth.angleDeg.size() - 1);
    for (std::size_t i = 0; i < rows; ++i) {
        if (i < a.elevation.angleDeg.size())
            fmt::print("{:>9.1f} {:>10}", a.elevation.angleDeg[i],
                       quantity::formatDb(a.elevation.gainDbi[i], 2));
        else
            fmt::print("{:>20}", "");
        if (i + 1 < a.azimuth.angleDeg.size())
            fmt::print(" {:>20.1f} {:>10}", compass(a.azimuth.angleDeg[i]),
                       quantity::formatDb(a.azimuth.gainDbi[i], 2));
        fmt::print("\n");
    }
    return kDone;
}

int check(const Options& options) {
    const Loaded loaded = load(options);
    int code = kDone;
    json out = json::array();
    for (const auto& design : loaded.project.designs) {
        if (!options.design.empty() && design.name != options.design) continue;
        const model::Expansion e = model::expand(design);
        if (model::hasError(e.findings)) code = kFound;
        for (const auto& f : e.findings) {
            const char* severity = f.severity == model::Severity::Error     ? "error"
                                   : f.severity == model::Severity::Warning ? "warning"
                                                                            : "note";
            if (options.json)
                out.push_back({{"design", design.name},
                               {"severity", severity},
                               {"part", f.part},
                               {"sentence", f.sentence},
                               {"mend", f.mend}});
            else
                fmt::print("{}: {}: {} {}\n", design.name, severity, f.sentence, f.mend);
        }
        if (!options.json && e.findings.empty())
            fmt::print("{}: nothing to mend; {} wires, {} joints, {} feeds\n", design.name,
                       e.model.wires.size(), e.joints.size(), e.model.feeds.size());
    }
    if (options.json) printJson(out);
    return code;
}

}  // namespace

void addProjectCommands(CLI::App& app, int& exitCode) {
    auto o = std::make_shared<Options>();
    const auto add = [&](const char* name, const char* about, int (*run)(const Options&)) {
        return addProjectCommand(app, exitCode, o, name, about, run);
    };
    CLI::App* s =
        add("solve", "Impedance, SWR, gain, takeoff angle and efficiency at one or more frequencies", solve);
    s->add_option("--freq", o->frequencyMhz, "Frequencies in MHz")->check(frequencyMhz());
    s->add_option("--band", o->band, "The middle of this band");
    s->add_flag("--resonance", o->resonance, "Also find the nearest resonance");
    CLI::App* p = add("pattern", "Elevation and azimuth cuts", pattern);
    p->add_option("--freq", o->frequencyMhz, "Frequency in MHz")->check(frequencyMhz());
    p->add_option("--band", o->band, "The middle of this band");
    p->add_option("--bearing", o->bearingDeg,
                  "Compass bearing of the elevation cut; the strongest if left out")
        ->check(number(-360.0, 360.0, "degrees"))
        ->each([o](const std::string&) { o->bearingGiven = true; });
    p->add_option("--elevation", o->elevationDeg,
                  "Elevation of the azimuth cut; the takeoff angle if left out")
        ->check(number(-90.0, 90.0, "degrees"))
        ->each([o](const std::string&) { o->elevationGiven = true; });
    p->add_option("--step", o->stepDeg, "Step in degrees")->check(number(kFinestStepDeg, 90.0, "degrees"));
    p->add_flag("--csv", o->csv, "Print both cuts as comma-separated values");
    p->add_flag("--sphere", o->sphere, "Print all directions as comma-separated values")
        ->excludes(p->get_option("--json"));
    add("check", "Say what is wrong with the designs of a project", check);
}

}  // namespace rm::cli
