#include "core/export/page.h"

#include <fmt/format.h>

#include "core/version.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

constexpr double kTitleWidth = 112.0;
constexpr double kHeadMm = 2.4;

void putCells(Page& page, const Table& table, const std::vector<std::string>& cells, const PageBox& box,
              double y, double height, bool bold) {
    double all = 0.0;
    for (const auto& column : table.columns) all += column.share;
    double left = box.left;
    for (std::size_t c = 0; c < table.columns.size() && c < cells.size(); ++c) {
        const double wide = table.columns[c].share / all * box.width();
        const bool right = table.columns[c].align == Align::Right;
        page.text({right ? left + wide - 2.0 : left, y}, cutTo(cells[c], wide - 2.0, height, bold), "frame",
                  right ? Align::Right : Align::Left, height, false, bold);
        left += wide;
    }
}

}  // namespace

std::string cutTo(const std::string& words, double width, double height, bool bold) {
    const auto fits = [&](const std::string& text) {
        return widthOf({{}, text, height, Align::Left, false, bold, ""}) <= width;
    };
    if (fits(words)) return words;
    std::string shorter = words;
    while (!shorter.empty() && !fits(shorter + "..")) {
        shorter.pop_back();
        // Not in the middle of a letter of several bytes.
        while (!shorter.empty() && (static_cast<unsigned char>(shorter.back()) & 0xC0U) == 0x80U)
            shorter.pop_back();
        if (!shorter.empty() && (static_cast<unsigned char>(shorter.back()) & 0xC0U) == 0xC0U)
            shorter.pop_back();
    }
    return shorter + "..";
}

Page::Page(Paper paper) : sheet_(sheetOf(paper)) {
    const double r = sheet_.width - kPageMargin;
    const double b = sheet_.height - kPageMargin;
    const SheetPoint corners[] = {{kPageMargin, kPageMargin}, {r, kPageMargin}, {r, b}, {kPageMargin, b}};
    for (std::size_t i = 0; i < 4; ++i) line(corners[i], corners[(i + 1) % 4], 0.5, "frame");
}

void Page::line(SheetPoint from, SheetPoint to, double width, const char* layer, bool dashed) {
    sheet_.lines.push_back({from, to, width, dashed, layer});
}

void Page::text(SheetPoint at, const std::string& words, const char* layer, Align align, double height,
                bool upright, bool bold) {
    if (!words.empty()) sheet_.texts.push_back({at, words, height, align, upright, bold, layer});
}

void Page::circle(SheetPoint centre, double radius, bool filled, const char* layer) {
    sheet_.circles.push_back({centre, radius, filled, layer});
}

void Page::polyline(const std::vector<SheetPoint>& points, double width, const char* layer, bool dashed) {
    for (std::size_t i = 1; i < points.size(); ++i) line(points[i - 1], points[i], width, layer, dashed);
}

PageBox Page::content() const {
    return {kPageMargin + 3.0, kPageMargin + 3.0, sheet_.width - kPageMargin - 3.0,
            sheet_.height - kPageMargin - kTitleBlockMm - 3.0};
}

void Page::title(const TitleBlock& block, std::size_t page, std::size_t pages) {
    const double right = sheet_.width - kPageMargin;
    const double bottom = sheet_.height - kPageMargin;
    const double left = right - kTitleWidth;
    const double top = bottom - kTitleBlockMm;
    line({left, top}, {right, top}, 0.4, "frame");
    line({left, top}, {left, bottom}, 0.4, "frame");
    const auto write = [&](double x, double y, const std::string& words, double height, bool bold = false) {
        text({left + x, top + y}, words, "frame", Align::Left, height, false, bold);
    };
    write(3.0, 6.0, block.name, 3.4, true);
    write(3.0, 11.0, block.project, 2.4);
    write(3.0, 15.5, block.about, kWordsMm);
    write(3.0, 20.0, say("Reed Mast {}, {}", kVersion, block.date), kWordsMm);
    write(78.0, 15.5, block.scale, 3.0, true);
    write(78.0, 20.0, say("sheet {} of {}", page, pages), kWordsMm);
}

std::vector<Sheet> titled(std::vector<Page> pages, TitleBlock block, bool oneScale) {
    std::vector<Sheet> sheets;
    for (std::size_t i = 0; i < pages.size(); ++i) {
        if (i > 0 && !oneScale) block.scale.clear();
        pages[i].title(block, i + 1, pages.size());
        sheets.push_back(pages[i].sheet());
    }
    return sheets;
}

double putRow(Page& page, const Table& table, const std::vector<std::string>& cells, const PageBox& box,
              double y) {
    putCells(page, table, cells, box, y, kWordsMm, false);
    return y + kTableRowMm;
}

double putHead(Page& page, const Table& table, const PageBox& box, double y, bool again) {
    page.text({box.left, y}, table.heading + (again ? say(", continued") : ""), "frame", Align::Left, 2.9,
              false, true);
    y += 5.2;
    std::vector<std::string> names;
    for (const auto& column : table.columns) names.push_back(column.head);
    putCells(page, table, names, box, y, kHeadMm, true);
    page.line({box.left, y + 1.6}, {box.right, y + 1.6}, 0.3, "frame");
    return y + 6.2;
}

std::vector<Page> layTables(const std::vector<Table>& tables, Paper paper) {
    constexpr double kFewRows = 4.0;
    std::vector<Page> pages;
    double y = 0.0;
    PageBox box;
    const auto turn = [&] {
        pages.emplace_back(paper);
        box = pages.back().content();
        y = box.top + 5.0;
    };
    for (const auto& table : tables) {
        if (table.rows.empty()) continue;
        if (pages.empty() || y + 12.0 + kFewRows * kTableRowMm > box.bottom) turn();
        y = putHead(pages.back(), table, box, y);
        for (const auto& cells : table.rows) {
            if (y > box.bottom) {
                turn();
                y = putHead(pages.back(), table, box, y, true);
            }
            y = putRow(pages.back(), table, cells, box, y);
        }
        y += 5.0;
    }
    return pages;
}

}  // namespace rm::io
