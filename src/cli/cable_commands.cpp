// choke: where on a cable run a choke does most; parts: what each part of a design does to it.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/study/choke_study.h"
#include "core/study/part_effects.h"

namespace rm::cli {

namespace {

using nlohmann::json;

json toJson(const study::ChokePoint& p) {
    return {{"along_m", p.alongM}, {"ohm", p.ohm},        {"current_share", p.share},
            {"swr", p.swr},        {"lost_db", p.lostDb}, {"watts", p.watts}};
}

int runChoke(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double hz = frequenciesHz(options, loaded).front();
    const auto s = study::studyChoke(loaded.design, hz, loaded.project.powerW);
    const auto list = [](const std::vector<study::ChokePoint>& points) {
        json all = json::array();
        for (const auto& p : points) all.push_back(toJson(p));
        return all;
    };
    if (options.json) {
        printJson({{"frequency_hz", hz},
                   {"run", s.run},
                   {"choke", s.choke},
                   {"length_m", s.lengthM},
                   {"swr_without_run", s.swrWithout},
                   {"none", toJson(s.none)},
                   {"now", toJson(s.now)},
                   {"places", list(s.places)},
                   {"sizes", list(s.sizes)},
                   {"advice", s.advice()}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz: {}, {:.1f} m\n", loaded.project.title, loaded.design.name, hz / 1e6,
               s.run, s.lengthM);
    const auto table = [](const char* head, const std::vector<study::ChokePoint>& points, bool size) {
        fmt::print("\n{:>10} {:>12} {:>7} {:>18} {:>8}\n", head, "on cable, %", "SWR", "change of gain, dB",
                   "watts");
        for (const auto& p : points)
            fmt::print("{:>10.1f} {:>12.1f} {:>7.2f} {:>+18.2f} {:>8.2g}\n", size ? p.ohm : p.alongM,
                       100.0 * p.share, p.swr, std::round(-100.0 * p.lostDb) / 100.0 + 0.0, p.watts);
    };
    table("place, m", s.places, false);
    table("ohm", s.sizes, true);
    fmt::print("\n{}\n", s.advice());
    return kDone;
}

int runParts(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double hz = frequenciesHz(options, loaded).front();
    // The band that the frequency lies in, where nobody chose another.
    const auto& bands = loaded.project.bands;
    const auto here = std::find_if(bands.begin(), bands.end(),
                                   [&](const auto& one) { return one.lowHz <= hz && hz <= one.highHz; });
    const model::Band band =
        options.band.empty() && here != bands.end() ? *here : bandToSweep(options, loaded);
    const auto effects = study::partEffects(loaded.design, study::sparePartsOf(loaded.design), band, hz);
    const auto figures = [&](const study::Figures& f, double worst) {
        return json{{"worst_swr", worst},
                    {"peak_dbi", f.peak.gainDbi},
                    {"takeoff_deg", f.peak.direction.elevationDeg},
                    {"front_to_back_db", f.frontToBackDb},
                    {"efficiency", f.efficiency},
                    {"sky_share", f.skyShare}};
    };
    if (options.json) {
        json rows = json::array();
        for (const auto& row : effects.rows) {
            json one =
                row.problem.empty() ? figures(row.figures, row.worstSwr) : json{{"problem", row.problem}};
            one["without"] = row.without;
            one["current_share"] = row.share;
            one["sentence"] = effects.sentence(row);
            rows.push_back(one);
        }
        printJson({{"frequency_hz", hz},
                   {"band", effects.band.name},
                   {"whole", figures(effects.whole, effects.worstSwr)},
                   {"rows", rows}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz: SWR up to {:.2f} in {}, peak {:.2f} dBi\n", loaded.project.title,
               loaded.design.name, hz / 1e6, effects.worstSwr, effects.band.name, effects.whole.peak.gainDbi);
    for (const auto& row : effects.rows) fmt::print("{}\n", effects.sentence(row));
    if (effects.rows.empty()) fmt::print("Nothing stands here but what is fed.\n");
    return kDone;
}

}  // namespace

void addCableCommands(CLI::App& app, int& exitCode) {
    auto choke = std::make_shared<Options>();
    addProjectCommand(app, exitCode, choke, "choke",
                      "Where on the cable run a choke does most, and how much is enough", runChoke)
        ->add_option("--freq", choke->frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    auto parts = std::make_shared<Options>();
    CLI::App* command =
        addProjectCommand(app, exitCode, parts, "parts", "What each part that is not fed does", runParts);
    command->add_option("--freq", parts->frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    command->add_option("--band", parts->band, "For the SWR; the band of the frequency if left out");
}

}  // namespace rm::cli
