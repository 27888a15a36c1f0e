// What a wide study reads of each variant.
#pragma once

#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::wide {

/// A figure by the words of a plan: "gain", "worst SWR", "gain at 10 deg".
struct Column {
    std::string words;
    std::string title;  ///< in a result: "gain_dBi"
    double angleDeg = 0.0;
};

/// Throws rm::Error where the words are none of a figure.
Column columnOf(const std::string& words);

/// All words there are; "gain at ..." with 10 degrees.
std::vector<std::string> columnWords();

/// Where the figures are read.
struct ReadAt {
    double frequencyHz = 0.0;
    std::optional<model::Band> band;  ///< of the worst SWR and the like
    std::vector<model::Band> bands;   ///< of the project, for goals
};

/// The figures in this order; not a number where one has no value. The same to the last bit whatever was
/// worked out before on this thread. Throws rm::Error where the design cannot be worked out, rm::Stopped.
std::vector<double> readColumns(const model::Design& design, const std::vector<Column>& columns,
                                const ReadAt& at, const std::stop_token& stop);

}  // namespace rm::wide
