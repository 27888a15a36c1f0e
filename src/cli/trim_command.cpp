// trim: from a measured curve to the saw.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "core/build/trim.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct TrimOptions {
    Options project;
    std::string dimension;
};

const char* nameOf(build::Cause cause) {
    switch (cause) {
        case build::Cause::Length:
            return "length";
        case build::Cause::Height:
            return "height_m";
        case build::Cause::Soil:
            return "soil_log";
        case build::Cause::Capacitance:
            return "capacitance_pf";
        case build::Cause::Loss:
            return "loss_ohm";
        default:
            return "line_m";
    }
}

int run(const TrimOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    build::TrimRequest request;
    request.dimension = options.dimension;
    request.band = bandToSweep(options.project, loaded);
    const auto a = build::trim(loaded.design, request);
    const std::string sentence = build::trimSentence(a, loaded.project.feetAndInches);
    if (options.project.json) {
        json causes = json::array();
        for (const auto& c : a.causes)
            causes.push_back(
                {{"cause", nameOf(c.cause)}, {"value", c.value}, {"sigma", c.sigma}, {"words", c.words}});
        printJson({{"dimension", a.dimension},
                   {"now_m", a.nowM},
                   {"change_m", a.changeM},
                   {"sigma_m", a.sigmaM},
                   {"explained", a.explained},
                   {"misfit", a.misfit},
                   {"misfit_drawn", a.misfitDrawn},
                   {"best_swr_hz", {a.beforeHz, a.afterHz}},
                   {"worst_swr", {a.beforeSwr, a.afterSwr}},
                   {"causes", causes},
                   {"curve",
                    {{"hz", a.curve.hz},
                     {"measured_swr", a.curve.measuredSwr},
                     {"drawn_swr", a.curve.drawnSwr},
                     {"fitted_swr", a.curve.fittedSwr},
                     {"cut_swr", a.curve.cutSwr}}},
                   {"sentence", sentence}});
        return kDone;
    }
    fmt::print("{}, {}, {}\n\n{}\n\nWhat differs from the drawing, as far as the curve can tell:\n",
               loaded.project.title, loaded.design.name, request.band.name, sentence);
    for (const auto& c : a.causes) fmt::print("  {}\n", c.words);
    fmt::print("Misfit of the reflection coefficient {:.4f}; as drawn {:.4f}.\n", a.misfit, a.misfitDrawn);
    return kDone;
}

}  // namespace

void addTrimCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<TrimOptions>();
    CLI::App* command =
        app.add_subcommand("trim", "How much to cut off or add, by the measurements that a design has");
    addProjectOptions(command, options->project);
    command->add_option("--band", options->project.band,
                        "Band to be good on; the working band, or the design's own first, if left out");
    command->add_option("--cut", options->dimension,
                        "Dimension to cut; the first that tuning moves if left out");
    command->add_flag("--json", options->project.json, "Print JSON instead of sentences");
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
