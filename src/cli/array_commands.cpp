// drives, coupling, stack and currents: what several feeds and many wires do together.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/quantity/format.h"
#include "core/study/currents.h"
#include "core/study/drive_study.h"
#include "core/study/stacking.h"
#include "core/study/sweep.h"

namespace rm::cli {

namespace {

using nlohmann::json;

/// So many rows of currents for a part, about, where people read them: near ends and feeds the points lie
/// densely.
constexpr double kCurrentRows = 40.0;

struct StackOptions {
    Options project;
    std::string copy;
    double fromM = 0.0;
    double toM = 0.0;
};

struct CurrentOptions {
    Options project;
    std::string part;
};

json complexJson(Complex z) {
    return {z.real(), z.imag()};
}

int runDrives(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double hz = frequenciesHz(options, loaded).front();
    // Cut where the antenna as it is is strongest, so that like lies on like.
    study::FieldStore fields;
    study::AnalysisOptions once;
    once.fields = &fields;
    const study::Peak peak = study::analyse(loaded.expansion, hz, once).figures.peak;
    const auto rows =
        study::studyDrives(loaded.design, hz, peak.direction.azimuthDeg,
                           std::min(peak.direction.elevationDeg, study::kSteepestAzimuthCutDeg), &fields);
    if (options.json) {
        json out = json::array();
        for (const auto& row : rows) {
            json j = {{"name", row.name}, {"problem", row.problem}};
            if (row.known()) {
                const auto& f = row.analysis->figures;
                json z = json::array();
                for (const Complex one : f.impedanceOhm) z.push_back(complexJson(one));
                j["z"] = z;
                j["swr"] = f.swr;
                j["gain_dbi"] = f.peak.gainDbi;
                j["takeoff_deg"] = f.peak.direction.elevationDeg;
                j["front_to_back_db"] = f.frontToBackDb;
                j["directivity_dbi"] = f.directivityDbi;
                j["harness_loss_db"] = f.harnessLossDb;
            }
            out.push_back(j);
        }
        printJson(json{{"frequency_hz", hz}, {"drives", out}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz\n{:<28} {:>6} {:>8} {:>8} {:>8} {:>10}  {}\n", loaded.project.title,
               loaded.design.name, hz / 1e6, "driven", "SWR", "dBi", "takeoff", "F/B, dB", "harness, dB",
               "Z, ohm");
    for (const auto& row : rows) {
        if (!row.known()) {
            fmt::print("{:<28} {}\n", row.name, row.problem);
            continue;
        }
        const auto& f = row.analysis->figures;
        std::string z;
        for (const Complex one : f.impedanceOhm)
            z += fmt::format("{}{:.1f} {:+.1f}j", z.empty() ? "" : ", ", one.real(), one.imag());
        fmt::print("{:<28} {:>6} {:>8.2f} {:>8.1f} {:>8.1f} {:>10.2f}  {}\n", row.name,
                   quantity::formatSwr(f.swr), f.peak.gainDbi, f.peak.direction.elevationDeg, f.frontToBackDb,
                   f.harnessLossDb, z);
    }
    return kDone;
}

int runCoupling(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const auto& feeds = loaded.expansion.model.feeds;
    if (feeds.size() < 2)
        throw Error(fmt::format("{} has one feed: there is nothing to couple.", loaded.design.name));
    const model::Band band = bandToSweep(options, loaded);
    const auto sweep = study::sweep(loaded.expansion, band.lowHz, band.highHz, options.points);
    const double hz =
        options.frequencyMhz.empty() ? 0.5 * (band.lowHz + band.highHz) : 1e6 * options.frequencyMhz.front();
    if (hz < band.lowHz || hz > band.highHz)
        throw Error(fmt::format("{:g} MHz does not lie in {}.", hz / 1e6, band.name));
    const auto here = study::couplingOf(sweep.at(hz).feedAdmittance, sweep.referenceOhm);
    if (options.json) {
        json names = json::array();
        for (const auto& feed : feeds) names.push_back(feed.name);
        const auto matrix = [&](const auto& cell) {
            json rows = json::array();
            for (Eigen::Index i = 0; i < here.couplingDb.rows(); ++i) {
                json row = json::array();
                for (Eigen::Index k = 0; k < here.couplingDb.cols(); ++k) row.push_back(cell(i, k));
                rows.push_back(row);
            }
            return rows;
        };
        json over = json::array();
        for (const auto& p : sweep.points) {
            const auto c = study::couplingOf(p.feedAdmittance, sweep.referenceOhm);
            double most = -300.0;
            for (Eigen::Index i = 0; i < c.couplingDb.rows(); ++i)
                for (Eigen::Index k = 0; k < i; ++k) most = std::max(most, c.couplingDb(i, k));
            over.push_back({{"frequency_hz", p.frequencyHz}, {"largest_db", most}});
        }
        printJson(json{{"frequency_hz", hz},
                       {"feeds", names},
                       {"z", matrix([&](auto i, auto k) { return complexJson(here.impedanceOhm(i, k)); })},
                       {"coupling_db", matrix([&](auto i, auto k) { return json(here.couplingDb(i, k)); })},
                       {"reference_ohm", sweep.referenceOhm},
                       {"over_the_band", over}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz: coupling in dB to {:g} ohm, below it the impedances in ohm\n",
               loaded.project.title, loaded.design.name, hz / 1e6, sweep.referenceOhm);
    for (Eigen::Index i = 0; i < here.couplingDb.rows(); ++i) {
        fmt::print("{:<24}", feeds[static_cast<std::size_t>(i)].name);
        for (Eigen::Index k = 0; k < here.couplingDb.cols(); ++k)
            fmt::print("{:>18.1f}", here.couplingDb(i, k));
        fmt::print("\n{:<24}", "");
        for (Eigen::Index k = 0; k < here.couplingDb.cols(); ++k)
            fmt::print("{:>18}", fmt::format("{:.1f} {:+.1f}j", here.impedanceOhm(i, k).real(),
                                             here.impedanceOhm(i, k).imag()));
        fmt::print("\n");
    }
    return kDone;
}

/// The stack of the design that is meant. Throws rm::Error where there is none.
std::size_t stackOf(const StackOptions& options, const Loaded& loaded) {
    const auto& copies = loaded.design.copies;
    for (std::size_t i = 0; i < copies.size(); ++i)
        if (copies[i].kind == model::CopyKind::Stack &&
            (options.copy.empty() || copies[i].name == options.copy))
            return i;
    throw Error(options.copy.empty()
                    ? fmt::format("{} has no stack.", loaded.design.name)
                    : fmt::format("{} has no stack named \"{}\".", loaded.design.name, options.copy));
}

int runStack(const StackOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const std::size_t copy = stackOf(options, loaded);
    const double hz = frequenciesHz(options.project, loaded).front();
    const auto advice = study::adviseStacking(loaded.design, copy, hz);
    // From a third of a wave to two where nothing else is asked for.
    const double lambda = wavelengthM(hz);
    const double from = options.fromM > 0.0 ? options.fromM : lambda / 3.0;
    const double to = options.toM > 0.0 ? options.toM : 2.0 * lambda;
    if (to <= from) throw Error("The widest spacing has to be wider than the closest: --from and --to.");
    const auto points = study::scanStacking(loaded.design, copy, hz, from, to, options.project.points);
    const auto metres = [](const std::optional<double>& value) {
        return value ? json(*value) : json(nullptr);
    };
    if (options.project.json) {
        json scan = json::array();
        for (const auto& p : points)
            scan.push_back({{"spacing_m", p.spacingM},
                            {"gain_dbi", p.gainDbi},
                            {"side_lobe_db", p.sideLobeDb ? json(*p.sideLobeDb) : json(nullptr)}});
        printJson(json{{"frequency_hz", hz},
                       {"stack", loaded.design.copies[copy].name},
                       {"row_beamwidth_deg", advice.rowBeamwidthDeg},
                       {"column_beamwidth_deg", advice.columnBeamwidthDeg},
                       {"row_spacing_m", metres(advice.rowSpacingM)},
                       {"column_spacing_m", metres(advice.columnSpacingM)},
                       {"scan", scan}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz, alone in free space\n", loaded.project.title, loaded.design.name,
               hz / 1e6);
    const auto say = [](const char* what, double beamwidthDeg, const std::optional<double>& spacing) {
        if (spacing)
            fmt::print("{}: one is {:.0f} degrees wide, the half-power rule calls for {:.2f} m\n", what,
                       beamwidthDeg, *spacing);
        else
            fmt::print("{}: one has no half-power points in that plane\n", what);
    };
    say("over each other", advice.rowBeamwidthDeg, advice.rowSpacingM);
    say("side by side", advice.columnBeamwidthDeg, advice.columnSpacingM);
    fmt::print("{:>10} {:>8} {:>14}\n", "spacing, m", "dBi", "side lobe, dB");
    for (const auto& p : points)
        fmt::print("{:>10.2f} {:>8.2f} {:>14}\n", p.spacingM, p.gainDbi,
                   p.sideLobeDb ? fmt::format("{:.1f}", *p.sideLobeDb) : "-");
    return kDone;
}

int runCurrents(const CurrentOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const double hz = frequenciesHz(options.project, loaded).front();
    const auto a = study::analyse(loaded.expansion, hz);
    const double perA = study::rmsAtFullPower(a, loaded.project.powerW);
    json parts = json::array();
    bool there = false;
    for (const auto& part : loaded.design.parts) {
        if (!options.part.empty() && part.name != options.part) continue;
        there = true;
        const auto points = study::currentAlong(loaded.expansion, a, part.name);
        if (points.empty()) continue;
        json along = json::array();
        if (!options.project.json)
            fmt::print("{}, for {:g} W\n{:>9} {:>10} {:>8}\n", part.name, loaded.project.powerW, "along, m",
                       "A, rms", "phase");
        const double apartM = (points.back().alongM - points.front().alongM) / kCurrentRows;
        double nextM = points.front().alongM;
        for (const auto& p : points) {
            const Complex ampere = perA * p.ampere;
            along.push_back({{"along_m", p.alongM}, {"a", complexJson(ampere)}});
            if (options.project.json || (p.alongM < nextM && &p != &points.back())) continue;
            fmt::print("{:>9.3f} {:>10.4f} {:>7.1f}°\n", p.alongM, std::abs(ampere),
                       std::arg(ampere) * 180.0 / kPi);
            nextM = p.alongM + apartM;
        }
        parts.push_back({{"part", part.name}, {"points", along}});
    }
    if (!there) throw Error(fmt::format("{} has no part named \"{}\".", loaded.design.name, options.part));
    const auto others = study::bystanders(loaded.expansion, a, 8);
    if (options.project.json) {
        json unfed = json::array();
        for (const auto& b : others)
            unfed.push_back({{"part", b.part},
                             {"share", b.share},
                             {"cost_db", b.costDb},
                             {"elevation_deg", b.elevationDeg}});
        printJson(json{
            {"frequency_hz", hz}, {"radio_w", loaded.project.powerW}, {"parts", parts}, {"not_fed", unfed}});
        return kDone;
    }
    for (const auto& b : others) fmt::print("{}\n", b.sentence());
    return kDone;
}

}  // namespace

void addArrayCommands(CLI::App& app, int& exitCode) {
    auto o = std::make_shared<Options>();
    CLI::App* drives =
        addProjectCommand(app, exitCode, o, "drives", "Every drive set of a design side by side", runDrives);
    drives->add_option("--freq", o->frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    auto c = std::make_shared<Options>();
    c->points = 11;
    CLI::App* coupling = addProjectCommand(app, exitCode, c, "coupling",
                                           "How the feeds see each other, over a band", runCoupling);
    coupling->add_option("--band", c->band, "The working band, or the design's own first, if left out");
    coupling->add_option("--freq", c->frequencyMhz, "MHz; the middle of the band if left out")
        ->check(frequencyMhz());
    coupling->add_option("--points", c->points, "Frequencies over the band")->check(CLI::Range(2, 10000));

    auto s = std::make_shared<StackOptions>();
    s->project.points = 20;
    CLI::App* stack = app.add_subcommand("stack", "How far apart the antennas of a stack should be");
    addProjectOptions(stack, s->project);
    stack->add_option("--stack", s->copy, "Name of the stack; the first if left out");
    stack->add_option("--freq", s->project.frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    stack->add_option("--from", s->fromM, "Closest spacing")->check(number(0.001, 1e4, "m"));
    stack->add_option("--to", s->toM, "Widest spacing")->check(number(0.001, 1e4, "m"));
    stack->add_option("--points", s->project.points, "Spacings")->check(CLI::Range(2, 1000));
    stack->add_flag("--json", s->project.json, "Print JSON instead of a table");
    stack->callback([s, &exitCode] { exitCode = runStack(*s); });

    auto k = std::make_shared<CurrentOptions>();
    CLI::App* currents =
        app.add_subcommand("currents", "Currents along the parts, and what those do that nobody feeds");
    addProjectOptions(currents, k->project);
    currents->add_option("--part", k->part, "This part only");
    currents->add_option("--freq", k->project.frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    currents->add_flag("--json", k->project.json, "Print JSON instead of a table");
    currents->callback([k, &exitCode] { exitCode = runCurrents(*k); });
}

}  // namespace rm::cli
