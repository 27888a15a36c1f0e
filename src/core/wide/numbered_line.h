// Cases as they pass between processes and wait in side files: each line of a result after its number.
#pragma once

#include <string>
#include <vector>

#include "core/wide/result_file.h"

namespace rm::wide {

struct NumberedLine {
    std::size_t number = 0;  ///< of the case, from 0
    std::string line;        ///< without its end
};

/// Number, tab, line, line end, for each.
std::string textOf(const std::vector<NumberedLine>& lines);

/// Reads them back; what has no end, or another number than its case, is no line.
std::vector<NumberedLine> linesOf(const std::string& text, Format format);

}  // namespace rm::wide
