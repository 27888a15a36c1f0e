#include "core/wide/numbered_line.h"

#include <fmt/format.h>

namespace rm::wide {

std::string textOf(const std::vector<NumberedLine>& lines) {
    std::string text;
    for (const auto& one : lines) text += fmt::format("{}\t{}\n", one.number, one.line);
    return text;
}

std::vector<NumberedLine> linesOf(const std::string& text, Format format) {
    std::vector<NumberedLine> lines;
    for (std::size_t at = 0; at < text.size();) {
        const auto end = text.find('\n', at);
        if (end == std::string::npos) break;
        const auto tab = text.find('\t', at);
        if (tab < end) {
            const std::string line = text.substr(tab + 1, end - tab - 1);
            const auto number = numberOf(line, format);
            if (number && fmt::format("{}", *number) == text.substr(at, tab - at))
                lines.push_back({*number, line});
        }
        at = end + 1;
    }
    return lines;
}

}  // namespace rm::wide
