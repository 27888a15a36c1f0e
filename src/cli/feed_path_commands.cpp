// sweep and match: what the radio sees, and how to make it like it.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/export/sweep_text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "core/quantity/format.h"
#include "core/study/match.h"

namespace rm::cli {

namespace {

using nlohmann::json;

json pair(Complex z) {
    return {z.real(), z.imag()};
}

/// --from and --to, or a band. Throws rm::Error where only one of both ends is given.
std::pair<double, double> rangeToSweep(const Options& options, const Loaded& loaded) {
    if ((options.fromMhz > 0.0) != (options.toMhz > 0.0))
        throw Error("A range needs both ends: --from and --to in MHz.");
    if (options.fromMhz > 0.0 && !options.band.empty())
        throw Error("Say either a band or a range: --band, or --from and --to.");
    if (options.fromMhz > 0.0) return {options.fromMhz * 1e6, options.toMhz * 1e6};
    const model::Band band = bandToSweep(options, loaded);
    return {band.lowHz, band.highHz};
}

int runSweep(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const auto [low, high] = rangeToSweep(options, loaded);
    warn(loaded, {high});
    const auto plane = options.at == "antenna" ? study::Plane::Antenna : study::Plane::Radio;
    const study::Sweep s = study::sweep(loaded.expansion, low, high, options.points);
    if (!options.s1p.empty()) {
        io::writeTextAtomically(options.s1p, io::sweepTouchstone(loaded.design.name, s, plane));
        return kDone;
    }
    if (options.csv) {
        fmt::print("{}", io::sweepCsv(loaded.expansion, s, plane));
        return kDone;
    }
    if (options.json) {
        json rows = json::array();
        for (const auto& p : s.points) {
            json feeds = json::array();
            for (const Complex z : p.impedanceOhm) feeds.push_back(pair(z));
            rows.push_back({{"frequency_hz", p.frequencyHz},
                            {"z", feeds},
                            {"z_radio", pair(p.radioOhm)},
                            {"swr", p.swr}});
        }
        printJson(json{{"reference_ohm", s.referenceOhm}, {"points", rows}});
        return kDone;
    }
    fmt::print("at the {}\n{:>10} {:>10} {:>10} {:>7} {:>9} {:>9}\n", options.at, "MHz", "R, ohm", "X, ohm",
               "SWR", "RL, dB", "loss, dB");
    for (const auto& p : s.points) {
        const Complex z = plane == study::Plane::Antenna ? p.antennaOhm : p.radioOhm;
        const auto joints =
            study::feedPathJoints(loaded.expansion, p.antennaOhm, p.frequencyHz, p.harnessLossDb);
        fmt::print("{:>10.4f} {:>10.2f} {:>10.2f} {:>7} {:>9.2f} {:>9.2f}\n", p.frequencyHz / 1e6, z.real(),
                   z.imag(), quantity::formatSwr(study::swr(z, s.referenceOhm)),
                   study::returnLossDb(z, s.referenceOhm), joints.back().totalLossDb);
    }
    fmt::print(
        "\nSWR at the radio, to {:g} ohm, from {} to {}, best at {:.4f} MHz; at most 2 over {:.1f} kHz\n",
        s.referenceOhm, quantity::formatSwr(s.bestSwr()), quantity::formatSwr(s.worstSwr()),
        s.bestFrequencyHz() / 1e6, s.bandwidthHz(2.0) / 1e3);
    return kDone;
}

json blockJson(const study::MatchOption& option) {
    // As in the project file.
    model::Project carrier;
    carrier.designs.emplace_back();
    carrier.designs.front().feedPath = option.blocks;
    return io::toJson(carrier)["designs"][0]["feed path"];
}

int runMatch(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const model::Band band = bandToSweep(options, loaded);
    warn(loaded, {band.highHz});
    const study::Sweep s = study::sweep(loaded.expansion, band.lowHz, band.highHz, options.points);
    const std::size_t last = loaded.expansion.feedPath.size();
    const std::size_t joint = options.joint < 0 ? last : static_cast<std::size_t>(options.joint);
    if (joint > last)
        throw Error(
            fmt::format("{} has joints 0 (the feedpoint) to {} (the radio).", loaded.design.name, last));
    study::MatchRequest request;
    request.frequencyHz = options.frequencyMhz.empty() ? band.centreHz() : options.frequencyMhz.front() * 1e6;
    request.targetOhm = options.targetOhm > 0.0 ? options.targetOhm : loaded.expansion.referenceOhm;
    request.coilQ = options.coilQ;
    request.capacitorQ = options.capacitorQ;
    request.loadedQ = options.loadedQ;
    request.line = options.line;
    request.values = options.values == "e12"   ? study::Values::Steps12
                     : options.values == "e24" ? study::Values::Steps24
                                               : study::Values::Exact;
    const auto curve = study::atJoint(loaded.expansion, s, joint);
    const auto found = study::matchOptions(curve, request);
    const auto ratios = study::transformerRatios(loaded.expansion, {&s});
    if (options.json) {
        json rows = json::array();
        for (const auto& o : found)
            rows.push_back({{"title", o.title},
                            {"swr", o.swr},
                            {"worst_swr", o.worstSwr},
                            {"loss_db", o.lossDb},
                            {"blocks", blockJson(o)}});
        json windings = json::array();
        for (const auto& r : ratios) windings.push_back({{"ratio", r.ratio}, {"worst_swr", r.worst}});
        printJson(json{{"frequency_hz", request.frequencyHz},
                       {"target_ohm", request.targetOhm},
                       {"joint", joint},
                       {"matches", rows},
                       {"transformer_ratios", windings}});
        return kDone;
    }
    fmt::print("{}, {}: to {:g} ohm at {:.4f} MHz, joint {} of {}\n\n{:>6} {:>11} {:>9}  {}\n",
               loaded.project.title, loaded.design.name, request.targetOhm, request.frequencyHz / 1e6, joint,
               last, "SWR", "worst SWR", "loss, dB", "network, from the antenna to the radio");
    for (const auto& o : found)
        fmt::print("{:>6} {:>11} {:>9.2f}  {}\n", quantity::formatSwr(o.swr), quantity::formatSwr(o.worstSwr),
                   o.lossDb, o.title);
    fmt::print("\nbest transformer for {}: {} (worst SWR at the radio {})\n", band.name, ratios.front().ratio,
               quantity::formatSwr(ratios.front().worst));
    return kDone;
}

}  // namespace

void addFeedPathCommands(CLI::App& app, int& exitCode) {
    auto o = std::make_shared<Options>();
    CLI::App* w =
        addProjectCommand(app, exitCode, o, "sweep", "Impedance and SWR over a band or a range", runSweep);
    w->add_option("--band", o->band,
                  "Name of the band; the working band, or the design's own first, if left out");
    w->add_option("--from", o->fromMhz, "Lower end in MHz; with --to")->check(frequencyMhz());
    w->add_option("--to", o->toMhz, "Upper end in MHz")->check(frequencyMhz());
    w->add_option("--points", o->points, "Number of frequencies")->check(CLI::Range(1, 1000000));
    w->add_option("--at", o->at, "Where: radio (through the feed path) or antenna")
        ->check(CLI::IsMember({"radio", "antenna"}));
    w->add_flag("--csv", o->csv, "Print comma-separated values");
    w->add_option("--s1p", o->s1p, "Write a Touchstone file instead of a table");
    CLI::App* m =
        addProjectCommand(app, exitCode, o, "match",
                          "Networks that match a joint of the feed path, with loss and SWR", runMatch);
    m->add_option("--band", o->band,
                  "Band for the worst SWR; the working band, or the design's own first, if left out");
    m->add_option("--freq", o->frequencyMhz,
                  "Frequency of the match in MHz; the middle of the band if left out")
        ->check(frequencyMhz());
    m->add_option("--joint", o->joint, "0: the feedpoint, 1: after the first block; the radio if left out")
        ->check(number(0, 1000));
    m->add_option("--target", o->targetOhm, "Ohm; the reference of the design if left out")
        ->check(number(0.1, 1e5, "ohm"));
    m->add_option("--values", o->values, "Values of coils and capacitors: exact, e12 or e24")
        ->check(CLI::IsMember({"exact", "e12", "e24"}));
    m->add_option("--coil-q", o->coilQ, "Q of coils; 0: no loss")->check(number(0.0, 1e6));
    m->add_option("--capacitor-q", o->capacitorQ, "Q of capacitors; 0: no loss")->check(number(0.0, 1e6));
    m->add_option("--loaded-q", o->loadedQ, "Q of pi and T networks")->check(number(0.1, 1000.0));
    m->add_option("--line", o->line, "Line of stubs, as in the project file");
    m->add_option("--points", o->points, "Number of frequencies over the band")->check(CLI::Range(2, 10000));
}

}  // namespace rm::cli
