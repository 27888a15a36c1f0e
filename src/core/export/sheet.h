// A drawing on paper: lines and words in millimetres, from the top left corner. What it becomes, SVG, PDF or
// DXF, does not change it.
#pragma once

#include <string>
#include <vector>

namespace rm::io {

enum class Paper { A4, A3, Letter };

struct SheetPoint {
    double x = 0.0;
    double y = 0.0;
};

struct SheetLine {
    SheetPoint from;
    SheetPoint to;
    double width = 0.25;
    bool dashed = false;
    std::string layer = "frame";  ///< "wires", "dimensions", "frame"
};

enum class Align { Left, Middle, Right };

struct SheetText {
    SheetPoint at;  ///< on its base line
    std::string words;
    double height = 2.5;  ///< of a capital, mm
    Align align = Align::Left;
    bool upright = false;  ///< turned a quarter to the left
    bool bold = false;
    std::string layer = "frame";
};

struct SheetCircle {
    SheetPoint centre;
    double radius = 1.0;
    bool filled = false;
    std::string layer = "wires";
};

struct Sheet {
    double width = 297.0;
    double height = 210.0;
    std::vector<SheetLine> lines;
    std::vector<SheetText> texts;
    std::vector<SheetCircle> circles;
};

/// A sheet of this size, lying.
Sheet sheetOf(Paper paper);
/// Throws rm::Error for a name that is not one.
Paper paperNamed(const std::string& name);

/// How wide words are, near enough to keep them apart, mm.
double widthOf(const SheetText& text);

std::string svgOf(const Sheet& sheet);
/// One page each. Throws rm::Error where the file cannot be written.
void writePdf(const std::vector<Sheet>& sheets, const std::string& path);
/// At the size it has on paper; drawing units are millimetres. Throws rm::Error where the file cannot be
/// written.
void writeDxf(const Sheet& sheet, const std::string& path);

}  // namespace rm::io
