// Threads of one process that work on the cases of a study.
#pragma once

#include <functional>
#include <stop_token>
#include <thread>
#include <vector>

#include "core/wide/run.h"
#include "core/wide/side_file.h"

namespace rm::wide {

/// Take pieces where there are, and give back lines; they are waited for at the end.
class Workers {
  public:
    using Take = std::function<std::vector<std::size_t>()>;  ///< waits; empty: no more
    using Give = std::function<void(std::vector<NumberedLine>)>;

    /// `options.threads` of them. `stop` ends what they have in hand. All that is given outlives them.
    Workers(const Cases& cases, Format format, const RunOptions& options, std::stop_token stop,
            SideFile& side, Take take, Give give);

  private:
    std::vector<std::jthread> threads_;
};

}  // namespace rm::wide
