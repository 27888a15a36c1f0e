// Works a wide study out: on threads of this process, and on those of others where there are.
#pragma once

#include <filesystem>
#include <functional>
#include <stop_token>

#include "core/wide/peers.h"
#include "core/wide/result_file.h"

namespace rm::wide {

/// How far it is.
struct State {
    std::size_t done = 0;
    std::size_t count = 0;
    double seconds = 0.0;       ///< since this run began
    double secondsLeft = -1.0;  ///< below zero: not known yet
};

struct RunOptions {
    std::filesystem::path out;
    std::size_t part = 1;
    std::size_t parts = 1;
    int threads = 1;         ///< of this process that work on cases
    Peers* peers = nullptr;  ///< null: this process alone
    std::stop_token stop;
    std::function<void(const State&)>
        progress;  ///< in rank 0, from the thread that called, a few times a second
    std::function<void(std::size_t number, double seconds)>
        timed;  ///< each case of this process, from any thread
};

struct RunResult {
    std::size_t rows = 0;     ///< in the file now
    std::size_t count = 0;    ///< that there will be
    std::size_t earlier = 0;  ///< known from an earlier run
    bool finished() const { return rows == count; }
};

/// Rank 0: writes the cases to `out` in order as they come. What is there already of the same study stays and
/// is not worked out again; what came out of order before an end of any kind is kept beside it, in one file
/// for each rank, case by case. Throws rm::Error where the file is of something else or cannot be written.
RunResult runStudy(const Cases& cases, const RunOptions& options);

/// Rank 0, where it has nothing to work on after all: lets the others go.
void dismiss(Peers& peers);

/// Any other rank: works until rank 0 has no more. Rank 0 sends the study.
void workForStudy(const RunOptions& options);

}  // namespace rm::wide
