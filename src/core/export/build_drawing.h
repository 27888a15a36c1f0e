// The drawing to take outside: an antenna from above, from the side and from the front, to one scale, with
// its dimensions, a table of what to cut, and a title block.
#pragma once

#include <string>
#include <vector>

#include "core/build/sheet.h"
#include "core/export/page.h"
#include "core/export/sheet.h"

namespace rm::io {

struct DrawingOptions {
    Paper paper = Paper::A4;
    bool feetAndInches = false;
    std::string project;
    std::string date;  ///< as it is to stand there
};

/// The three views on a page that has no title yet, and what belongs into it.
struct DrawnViews {
    Page page;
    TitleBlock title;
};
DrawnViews drawViews(const model::Design& design, const DrawingOptions& options);

/// First the three views, then the feeds from close by, then as many sheets as the tables take. Throws
/// rm::Error for a design with errors.
std::vector<Sheet> buildDrawing(const model::Design& design, const DrawingOptions& options);

}  // namespace rm::io
