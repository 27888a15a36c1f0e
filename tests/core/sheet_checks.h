// What holds for every sheet of paper: all of it inside of the frame, no words over others.
#pragma once

#include <catch2/catch.hpp>
#include <string>
#include <vector>

#include "core/export/sheet.h"

namespace rm::test {

struct PaperRect {
    double left, top, right, bottom;

    bool covers(const PaperRect& other) const {
        return left < other.right - 0.1 && other.left < right - 0.1 && top < other.bottom - 0.1 &&
               other.top < bottom - 0.1;
    }
};

inline PaperRect rectOf(const io::SheetText& t) {
    const double wide = io::widthOf(t);
    if (t.upright) {
        const double low = t.align == io::Align::Middle ? t.at.y + 0.5 * wide : t.at.y;
        return {t.at.x - t.height, low - wide, t.at.x, low};
    }
    const double left = t.align == io::Align::Left     ? t.at.x
                        : t.align == io::Align::Middle ? t.at.x - 0.5 * wide
                                                       : t.at.x - wide;
    return {left, t.at.y - t.height, left + wide, t.at.y};
}

inline void checkSheets(const std::vector<io::Sheet>& sheets, const std::string& name) {
    for (const auto& sheet : sheets) {
        for (const auto& line : sheet.lines)
            for (const auto& end : {line.from, line.to}) {
                CHECK(end.x >= 9.0);
                CHECK(end.y >= 9.0);
                CHECK(end.x <= sheet.width - 9.0);
                CHECK(end.y <= sheet.height - 9.0);
            }
        for (const auto& text : sheet.texts) {
            const PaperRect r = rectOf(text);
            INFO(name << ": " << text.words);
            CHECK(r.left > 10.0);
            CHECK(r.right < sheet.width - 10.0);
            CHECK(r.bottom < sheet.height - 10.0);
        }
        for (std::size_t i = 0; i < sheet.texts.size(); ++i)
            for (std::size_t j = i + 1; j < sheet.texts.size(); ++j) {
                INFO(name << ": " << sheet.texts[i].words << " and " << sheet.texts[j].words);
                CHECK_FALSE(rectOf(sheet.texts[i]).covers(rectOf(sheet.texts[j])));
            }
    }
}

}  // namespace rm::test
