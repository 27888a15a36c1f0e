// What drawings and reports have in common: frames, words, tables and small plots on a sheet, and the block
// that says whose it is.
#pragma once

#include <string>
#include <vector>

#include "core/export/sheet.h"

namespace rm::io {

inline constexpr double kPageMargin = 10.0;
inline constexpr double kTitleBlockMm = 24.0;
inline constexpr double kWordsMm = 2.2;
inline constexpr double kTableRowMm = 4.6;

struct TitleBlock {
    std::string name;
    std::string project;
    std::string about;
    std::string date;
    std::string scale;  ///< "1 : 100"; empty: none
};

/// The rectangle of a sheet that is left for content.
struct PageBox {
    double left = 0.0;
    double top = 0.0;
    double right = 0.0;
    double bottom = 0.0;
    double width() const { return right - left; }
    double height() const { return bottom - top; }
};

class Page {
  public:
    explicit Page(Paper paper);

    void line(SheetPoint from, SheetPoint to, double width, const char* layer, bool dashed = false);
    void text(SheetPoint at, const std::string& words, const char* layer, Align align = Align::Left,
              double height = kWordsMm, bool upright = false, bool bold = false);
    void circle(SheetPoint centre, double radius, bool filled, const char* layer = "wires");
    void polyline(const std::vector<SheetPoint>& points, double width, const char* layer,
                  bool dashed = false);
    void title(const TitleBlock& block, std::size_t page, std::size_t pages);
    /// Inside the frame, above the title block.
    PageBox content() const;

    const Sheet& sheet() const { return sheet_; }

  private:
    Sheet sheet_;
};

/// What fits of a text into a width in mm, with two dots where something is cut off.
std::string cutTo(const std::string& words, double width, double height = kWordsMm, bool bold = false);

/// Pages with their title blocks; `oneScale`: not the first page alone is to the scale that stands there.
std::vector<Sheet> titled(std::vector<Page> pages, TitleBlock block, bool oneScale);

struct TableColumn {
    std::string head;
    double share = 1.0;  ///< of the width
    Align align = Align::Left;
};

/// A table with a heading over it.
struct Table {
    std::string heading;
    std::vector<TableColumn> columns;
    std::vector<std::vector<std::string>> rows;
    std::vector<std::string> about = {};  ///< the part, load or block that each row belongs to, where it does
};

/// Writes the head of a table, or the next of its rows, at `y`; what is too wide for its column is cut. Gives
/// back where the next row goes.
double putHead(Page& page, const Table& table, const PageBox& box, double y, bool again = false);
double putRow(Page& page, const Table& table, const std::vector<std::string>& cells, const PageBox& box,
              double y);

/// The tables one after the other, on as many pages as they take. Words that are too wide for their column
/// are cut. Below a table the next one follows on the same page where a few of its rows fit.
std::vector<Page> layTables(const std::vector<Table>& tables, Paper paper);

}  // namespace rm::io
