// A wide study as its file describes it: one antenna in so many variants, builds or searches that they are
// spread over all processors there are.
#pragma once

#include <filesystem>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::wide {

/// What is done with every variant.
enum class Work {
    Solve,  ///< its figures are read
    Build,  ///< built with random errors, as often as asked for
    Tune    ///< its goals are tuned, from as many starts as asked for
};

/// What differs between variants.
enum class Vary { Dimension, Height, Soil, Band, Frequency, Goal, Limit };

/// One thing that differs: values as typed, or so many equal steps from one to another.
struct OverText {
    Vary vary = Vary::Dimension;
    std::string name;  ///< of the dimension
    int number = 1;    ///< of the goal, or of the build limit, from 1
    std::string from;
    std::string to;
    int points = 11;
    std::vector<std::string> values;  ///< instead of the steps; kinds of soil, names of bands
    model::Extra extra = {};

    bool operator==(const OverText&) const = default;
};

struct Plan {
    std::string project;  ///< its file; from the folder of the plan
    std::string design;   ///< empty: the active one
    Work work = Work::Solve;
    std::vector<OverText> over;  ///< every combination; the last one changes fastest
    int repeat = 1;              ///< builds, or starts, of each combination
    int seed = 1;
    std::string band;  ///< of the worst SWR; empty: the working band, or the first that the design is for
    std::string frequency;             ///< of the figures; empty: the design frequency
    std::vector<std::string> figures;  ///< columns.h; empty: the usual ones
    model::BuildErrorTexts errors;     ///< of builds
    int evaluations = 2000;            ///< antennas read in one search, at most
    int piece = 0;                     ///< cases handed out at a time; 0: what suits the work
    model::Extra extra = {};

    bool operator==(const Plan&) const = default;
};

/// Throws rm::Error that names the member that is wrong; `where` names the file.
Plan readPlan(const nlohmann::json& j, const std::string& where);
nlohmann::json writePlan(const Plan& plan);

/// A plan with the project it is about: all that a process needs to work on it.
struct Given {
    Plan plan;
    std::string title;  ///< of the project
    model::Design design;
    std::vector<model::Band> bands;
    std::size_t workingBand = 0;  ///< of `bands`
};

/// Reads the plan and its project. Throws rm::Error.
Given readGiven(const std::filesystem::path& file);

/// The same as one JSON text, for other processes and for the first line of a result.
nlohmann::json writeGiven(const Given& given);
Given parseGiven(const nlohmann::json& j, const std::string& where);

}  // namespace rm::wide
