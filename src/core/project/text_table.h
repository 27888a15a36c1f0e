// Tables of numbers as text: how its columns are kept apart and which mark divides its numbers is decided for
// the whole table, never line by line, and where more than one way is possible all are told.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace rm::io {

/// What separates the columns.
enum class Separator { Comma, CommaBlank, Semicolon, Tab, Blanks };

/// One way to read a table.
struct TableStyle {
    Separator separator = Separator::Comma;
    bool decimalComma = false;

    bool operator==(const TableStyle&) const = default;
};

/// Every way a table can be written.
const std::vector<TableStyle>& tableStyles();

/// "commas between the columns, points in the numbers".
std::string describeStyle(const TableStyle& style);

/// The cells of a line, without blanks and quotation marks round them.
std::vector<std::string> cellsOf(const std::string& line, Separator separator);

/// A number of that style; marks that group thousands may stand where the decimal mark, or a second group,
/// shows them to be such.
std::optional<double> cellNumber(const std::string& cell, bool decimalComma);

/// Without blanks, ends of lines and quotation marks at both ends.
std::string trimmedCell(const std::string& text);

/// The lines of a text, whatever ends them, as plain texts.
std::vector<std::string> linesOf(const std::string& text);

}  // namespace rm::io
