#include "cli/loaded.h"

#include <fmt/format.h>

#include <set>

#include "cli/values.h"
#include "core/edit/designs.h"
#include "core/project/project_file.h"
#include "core/study/figures.h"
#include "core/study/self_check.h"

namespace rm::cli {

Loaded load(const Options& options) {
    Loaded loaded;
    loaded.project = io::readProject(options.file);
    loaded.design = io::designOf(loaded.project, options.design, options.file);
    loaded.expansion = model::expand(loaded.design);
    // Every study that follows works on the mesh that suits the design.
    study::settle(loaded.expansion, loaded.expansion.designFrequencyHz);
    loaded.design.fineness.level = loaded.expansion.model.fineness;
    return loaded;
}

void requireUsable(const Options& options, const Loaded& loaded) {
    try {
        study::requireUsable(loaded.expansion);
    } catch (const Error& e) {
        throw Error(fmt::format("{}, {}: {}", options.file, loaded.design.name, e.what()));
    }
}

void warn(const Loaded& loaded, const std::vector<double>& frequenciesHz) {
    std::set<std::string> said;
    for (const double hz : frequenciesHz)
        for (const auto& finding : model::findingsAt(loaded.expansion, hz))
            if (finding.severity == model::Severity::Warning && said.insert(finding.sentence).second)
                fmt::print(stderr, "warning: {} {}\n", finding.sentence, finding.mend);
}

const model::Band& bandOf(const Options& options, const Loaded& loaded) {
    for (const auto& band : loaded.project.bands)
        if (band.name == options.band) return band;
    if (const model::Band* band = model::findAllocatedBand(options.band)) return *band;
    throw Error(fmt::format("There is no band named \"{}\".", options.band));
}

model::Band bandToSweep(const Options& options, const Loaded& loaded) {
    if (!options.band.empty()) return bandOf(options, loaded);
    const auto& p = loaded.project;
    if (const auto band = edit::bandFor(loaded.design, p.bands, p.workingBand)) return p.bands[*band];
    if (p.bands.empty()) throw Error("The project has no bands: say which with --band.");
    throw Error(
        fmt::format("{} is for none of the project's bands: say which with --band.", loaded.design.name));
}

std::vector<double> frequenciesHz(const Options& options, const Loaded& loaded) {
    std::vector<double> list;
    for (const double f : options.frequencyMhz) list.push_back(f * 1e6);
    if (!options.band.empty()) list.push_back(bandOf(options, loaded).centreHz());
    if (list.empty()) list.push_back(loaded.expansion.designFrequencyHz);
    return list;
}

study::Look lookOf(const Options& options, const Loaded& loaded) {
    study::Look look;
    look.watchDeg = loaded.project.angles.watchDeg;
    if (options.bearingGiven) look.azimuthDeg = loaded.expansion.headingDeg - options.bearingDeg;
    return look;
}

void writeWith(const Loaded& loaded, const model::Design& design, const std::string& file) {
    model::Project out = loaded.project;
    for (auto& one : out.designs)
        if (one.name == loaded.design.name) one = design;
    io::writeProject(out, file);
}

void addProjectOptions(CLI::App* command, Options& options) {
    command->add_option("project", options.file, "Project file")->required();
    command->add_option("--design", options.design, "Name of the design; the active one if left out");
}

void addBearing(CLI::App* command, const std::shared_ptr<Options>& options) {
    command
        ->add_option("--bearing", options->bearingDeg, "Compass bearing of the gains; the front if left out")
        ->check(number(-360.0, 360.0, "degrees"))
        ->each([options](const std::string&) { options->bearingGiven = true; });
}

CLI::App* addProjectCommand(CLI::App& app, int& exitCode, const std::shared_ptr<Options>& options,
                            const char* name, const char* about, int (*run)(const Options&)) {
    CLI::App* command = app.add_subcommand(name, about);
    addProjectOptions(command, *options);
    command->add_flag("--json", options->json, "Print JSON instead of a table");
    command->callback([options, run, &exitCode] { exitCode = run(*options); });
    return command;
}

}  // namespace rm::cli
