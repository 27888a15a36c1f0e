#include "core/project/text_table.h"

#include <algorithm>
#include <cctype>
#include <sstream>

#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

bool isDigit(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}

/// Digits in groups of three behind the first, divided by `mark`; true also where there is no mark.
bool groupsWell(const std::string& digits, char mark) {
    std::size_t first = digits.find(mark);
    if (first == std::string::npos) return true;
    if (first < 1 || first > 3) return false;
    for (; first != std::string::npos; first = digits.find(mark, first + 1)) {
        const std::size_t next = std::min(digits.find(mark, first + 1), digits.size());
        if (next - first != 4) return false;
    }
    return true;
}

char markOf(Separator separator) {
    switch (separator) {
        case Separator::Semicolon:
            return ';';
        case Separator::Tab:
            return '\t';
        default:
            return ',';
    }
}

}  // namespace

const std::vector<TableStyle>& tableStyles() {
    static const std::vector<TableStyle> styles = {
        {Separator::Semicolon, false}, {Separator::Semicolon, true}, {Separator::Tab, false},
        {Separator::Tab, true},        {Separator::Comma, false},    {Separator::CommaBlank, true},
        {Separator::Blanks, false},    {Separator::Blanks, true}};
    return styles;
}

std::string describeStyle(const TableStyle& style) {
    std::string columns;
    switch (style.separator) {
        case Separator::Comma:
            columns = say("commas");
            break;
        case Separator::CommaBlank:
            columns = say("commas with blanks");
            break;
        case Separator::Semicolon:
            columns = say("semicolons");
            break;
        case Separator::Tab:
            columns = say("tabs");
            break;
        default:
            columns = say("blanks");
    }
    return std::string(columns) + say(" between the columns, ") +
           (style.decimalComma ? say("commas") : say("points")) + say(" in the numbers");
}

std::string trimmedCell(const std::string& text) {
    const char* const blank = " \t\r\"'";
    const auto first = text.find_first_not_of(blank);
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(blank) - first + 1);
}

std::vector<std::string> cellsOf(const std::string& line, Separator separator) {
    std::vector<std::string> cells;
    if (separator == Separator::Blanks) {
        std::istringstream words(line);
        for (std::string word; words >> word;) cells.push_back(trimmedCell(word));
        return cells;
    }
    const char mark = markOf(separator);
    std::size_t begin = 0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const bool blank = i + 1 < line.size() && (line[i + 1] == ' ' || line[i + 1] == '\t');
        if (line[i] != mark || (separator == Separator::CommaBlank && !blank)) continue;
        cells.push_back(trimmedCell(line.substr(begin, i - begin)));
        begin = i + 1;
    }
    cells.push_back(trimmedCell(line.substr(begin)));
    return cells;
}

std::optional<double> cellNumber(const std::string& cell, bool decimalComma) {
    const char decimal = decimalComma ? ',' : '.';
    const char group = decimalComma ? '.' : ',';
    const std::size_t first = !cell.empty() && (cell[0] == '+' || cell[0] == '-') ? 1 : 0;
    std::size_t end = first;
    while (end < cell.size() && (isDigit(cell[end]) || cell[end] == group)) ++end;
    std::string digits = cell.substr(first, end - first);
    const bool hasDecimal = end < cell.size() && cell[end] == decimal;
    const auto groups = std::count(digits.begin(), digits.end(), group);
    // One mark alone might as well be the other kind of decimal mark.
    if (groups == 1 && !hasDecimal) return std::nullopt;
    if (!groupsWell(digits, group)) return std::nullopt;
    std::erase(digits, group);
    std::string rest = cell.substr(end);
    if (hasDecimal) {
        // A decimal mark stands between digits, or before them.
        if (rest.size() < 2 || !isDigit(rest[1])) return std::nullopt;
        rest[0] = '.';
    }
    return quantity::readNumber(cell.substr(0, first) + digits + rest);
}

std::vector<std::string> linesOf(const std::string& text) {
    std::vector<std::string> lines;
    std::size_t begin = 0;
    while (begin < text.size()) {
        const std::size_t end = std::min(text.find_first_of("\r\n", begin), text.size());
        std::string line = text.substr(begin, end - begin);
        // Tabs separate columns, what else is no letter says nothing.
        std::string plain;
        for (std::size_t at = 0; at <= line.size();) {
            const std::size_t tab = std::min(line.find('\t', at), line.size());
            plain += quantity::plainText(line.substr(at, tab - at));
            if (tab < line.size()) plain += '\t';
            at = tab + 1;
        }
        lines.push_back(plain);
        begin = end + 1;
        if (end + 1 < text.size() && text[end] == '\r' && text[end + 1] == '\n') ++begin;
    }
    return lines;
}

}  // namespace rm::io
