// Designs and pins against bands: what a designer decides with.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/study/sweep.h"

namespace rm::study {

/// One antenna on one band, at the middle of the band; gains towards its own strongest lobe.
struct CompareCell {
    bool meant = true;    ///< the design is for this band
    std::string problem;  ///< why there are no figures; empty where there are
    double frequencyHz = 0.0;
    double worstSwr = 1.0;                 ///< over the band, at the radio
    std::array<double, 4> watchGainDbi{};  ///< at the watch angles of the project
    std::shared_ptr<const Analysis> analysis;

    bool known() const { return analysis != nullptr; }
};

struct CompareRow {
    std::string name;
    bool pin = false;
    std::size_t index = 0;  ///< among the designs or the pins of the project
    double headingDeg = 0.0;
    std::vector<CompareCell> cells;  ///< one per band
};

struct Comparison {
    std::vector<model::Band> bands;
    std::vector<CompareRow> rows;  ///< the designs, then the shown pins
    model::Angles angles;
    std::size_t live = 0;  ///< row of the active design
    bool complete = false;
};

/// Works out every cell, several at a time. A design with errors or one that is not for a band has cells
/// without figures. Stops early when asked.
Comparison compare(const model::Project& project, FieldStore* fields = nullptr, std::stop_token stop = {},
                   const Progress& progress = {});

enum class CompareQuantity { Swr, Gain1, Gain2, Gain3, Gain4, Peak, Takeoff, Efficiency };

/// The figure of a cell; nothing where it has none.
std::optional<double> figureOf(const CompareCell& cell, CompareQuantity quantity);

}  // namespace rm::study
