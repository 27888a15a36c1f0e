#include "core/wide/workers.h"

#include <chrono>

#include "core/stopped.h"

namespace rm::wide {

Workers::Workers(const Cases& cases, Format format, const RunOptions& options, std::stop_token stop,
                 SideFile& side, Take take, Give give) {
    for (int i = 0; i < std::max(1, options.threads); ++i)
        threads_.emplace_back([&cases, format, &options, stop, &side, take, give](std::stop_token) {
            for (auto piece = take(); !piece.empty(); piece = take()) {
                std::vector<NumberedLine> lines;
                for (const std::size_t number : piece) {
                    const auto begin = std::chrono::steady_clock::now();
                    try {
                        lines.push_back({number, lineOf(cases, cases.workOut(number, stop), format)});
                    } catch (const Stopped&) {
                        break;
                    }
                    side.add(lines.back());
                    if (options.timed)
                        options.timed(
                            number,
                            std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
                }
                give(std::move(lines));
                if (stop.stop_requested()) return;
            }
        });
}

}  // namespace rm::wide
