// The report to hand on: what the antenna is, where it stands, what it does on its bands, its feed path, what
// to cut and hang, how much building errors matter, and the drawing.
#pragma once

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/export/sheet.h"
#include "core/model/design.h"

namespace rm::io {

struct ReportOptions {
    Paper paper = Paper::A4;
    bool feetAndInches = false;
    std::string date;  ///< as it is to stand there
    int builds = 40;   ///< of the tolerance run; 0: none
};

/// All sheets of it. `progress` is called with the share that is done. Throws rm::Error for a design with
/// errors, and where it is stopped.
std::vector<Sheet> report(const model::Project& project, const model::Design& design,
                          const ReportOptions& options, std::stop_token stop = {},
                          const std::function<void(double)>& progress = {});

}  // namespace rm::io
