// What all commands that read a project share: their options, and the design they work on.
#pragma once

#include <CLI/CLI.hpp>
#include <memory>
#include <string>
#include <vector>

#include "core/model/expand.h"
#include "core/study/site_study.h"

namespace rm::cli {

struct Options {
    std::string file;
    std::string design;
    std::string band;
    std::vector<double> frequencyMhz;
    double fromMhz = 0.0;
    double toMhz = 0.0;
    int points = 41;
    double bearingDeg = 0.0;
    double elevationDeg = 0.0;
    bool bearingGiven = false;
    bool elevationGiven = false;
    double stepDeg = 5.0;
    bool resonance = false;
    bool json = false;
    bool csv = false;
    bool sphere = false;
    std::string at = "radio";
    std::string s1p;
    double targetOhm = 0.0;
    double coilQ = 200.0;
    double capacitorQ = 1000.0;
    double loadedQ = 5.0;
    std::string values = "exact";
    std::string line = "coax 50 thin";
    int joint = -1;
};

struct Loaded {
    model::Project project;
    model::Design design;
    model::Expansion expansion;
};

/// The chosen design of the file, expanded. Throws rm::Error where it cannot be read or is not there.
Loaded load(const Options& options);

/// Throws the errors of the design as one sentence that names the file.
void requireUsable(const Options& options, const Loaded& loaded);

/// What is wrong with the design or becomes so at one of these frequencies in Hz, less than an error: to
/// standard error, each sentence once.
void warn(const Loaded& loaded, const std::vector<double>& frequenciesHz);

/// The band named by the options, of the project or of the usual allocations. Throws rm::Error for any other.
const model::Band& bandOf(const Options& options, const Loaded& loaded);

/// The band to work on: that of the options, or the working band, or the first that the design is for where
/// it is not for that. Throws rm::Error where there is none.
model::Band bandToSweep(const Options& options, const Loaded& loaded);

/// What --freq and --band ask for in Hz; the design frequency without them.
std::vector<double> frequenciesHz(const Options& options, const Loaded& loaded);

/// The study's view: the watch angles of the project, towards --bearing or the front.
study::Look lookOf(const Options& options, const Loaded& loaded);

/// Writes the project with this design in place of the one that was loaded.
void writeWith(const Loaded& loaded, const model::Design& design, const std::string& file);

/// The project file and --design.
void addProjectOptions(CLI::App* command, Options& options);

/// --bearing, for lookOf.
void addBearing(CLI::App* command, const std::shared_ptr<Options>& options);

/// A command with a project file, --design and --json.
CLI::App* addProjectCommand(CLI::App& app, int& exitCode, const std::shared_ptr<Options>& options,
                            const char* name, const char* about, int (*run)(const Options&));

}  // namespace rm::cli
