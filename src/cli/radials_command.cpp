// radials: what their number and length are worth.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/study/radial_study.h"

namespace rm::cli {

namespace {

using nlohmann::json;

json toJson(const study::RadialStudy& s) {
    json curves = json::array();
    for (const auto& curve : s.curves) {
        json points = json::array();
        for (const auto& p : curve.points)
            points.push_back({{"radials", p.count},
                              {"wire_m", p.wireM},
                              {"z", {p.ohm.real(), p.ohm.imag()}},
                              {"swr", p.swr},
                              {"watch_gain_dbi", p.watchGainDbi},
                              {"efficiency", p.efficiency},
                              {"sky_share", p.skyShare},
                              {"soil_share", p.soilShare}});
        curves.push_back({{"length_m", curve.lengthM}, {"points", points}});
    }
    return {{"frequency_hz", s.frequencyHz},
            {"part", s.part},
            {"watch_deg", s.look.watchDeg},
            {"curves", curves},
            {"advice", s.advice()}};
}

int runRadials(const Options& options) {
    const Loaded loaded = load(options);
    requireUsable(options, loaded);
    const double hz = frequenciesHz(options, loaded).front();
    const auto s = study::studyRadials(loaded.design, hz, lookOf(options, loaded));
    if (options.json) {
        printJson(toJson(s));
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz: {}\n", loaded.project.title, loaded.design.name, hz / 1e6, s.part);
    for (const auto& curve : s.curves) {
        fmt::print("\nradials of {:.3g} m\n{:>8} {:>9} {:>18} {:>7} {:>8}", curve.lengthM, "radials",
                   "wire, m", "Z, ohm", "SWR", "sky, %");
        for (const double angle : s.look.watchDeg) fmt::print(" {:>9}", fmt::format("dBi {:g}°", angle));
        fmt::print("\n");
        for (const auto& p : curve.points) {
            fmt::print("{:>8} {:>9.0f} {:>18} {:>7.2f} {:>8.1f}", p.count, p.wireM,
                       fmt::format("{:.2f} {:+.2f}j", p.ohm.real(), p.ohm.imag()), p.swr, 100.0 * p.skyShare);
            for (const double gain : p.watchGainDbi) fmt::print(" {:>8.2f}", gain);
            fmt::print("\n");
        }
    }
    fmt::print("\n{}\n", s.advice());
    return kDone;
}

}  // namespace

void addRadialsCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<Options>();
    CLI::App* radials = addProjectCommand(app, exitCode, options, "radials",
                                          "What the number and length of radials are worth", runRadials);
    radials->add_option("--freq", options->frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    addBearing(radials, options);
}

}  // namespace rm::cli
