// study and merge: what outgrows a desk, on every processor there is.
#include <dlfcn.h>
#include <fmt/format.h>
#include <unistd.h>

#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <mutex>
#include <thread>

#include "cli/commands.h"
#include "core/common.h"
#include "core/wide/run.h"

namespace rm::cli {

namespace {

struct StudyOptions {
    std::string file;
    std::string out;
    std::string part;
    std::string times;
    int threads = 0;
    bool quiet = false;
};

struct MergeOptions {
    std::string out;
    std::vector<std::string> parts;
};

volatile std::sig_atomic_t gEnd = 0;

/// Ctrl+C and a scheduler's word to end: what is known is written, and nothing is begun.
class EndBySignal {
  public:
    EndBySignal() {
        for (const int signal : {SIGINT, SIGTERM}) std::signal(signal, [](int) { gEnd = 1; });
        watch_ = std::jthread([this](const std::stop_token& over) {
            while (!over.stop_requested() && gEnd == 0)
                std::this_thread::sleep_for(std::chrono::milliseconds(20));
            if (gEnd != 0) stop_.request_stop();
        });
    }
    std::stop_token token() const { return stop_.get_token(); }

  private:
    std::stop_source stop_;
    std::jthread watch_;
};

/// "3/64" as two numbers.
void readPart(const std::string& text, wide::RunOptions& options) {
    if (text.empty()) return;
    int end = 0;
    unsigned long part = 0, parts = 0;
    if (std::sscanf(text.c_str(), "%9lu/%9lu%n", &part, &parts, &end) != 2 ||
        static_cast<std::size_t>(end) != text.size() || part < 1 || part > parts)
        throw Error(fmt::format("--part {}: a part is written as 3/64, the third of sixty-four.", text));
    options.part = part;
    options.parts = parts;
}

/// The processes that mpirun has started with this one; null where it was not mpirun.
wide::Peers* findPeers() {
    const bool started = std::getenv("OMPI_COMM_WORLD_SIZE") != nullptr;
    // A scheduler's own tasks look alike, and may well be alone.
    if (!started && std::getenv("PMIX_RANK") == nullptr) return nullptr;
    const auto folder = std::filesystem::read_symlink("/proc/self/exe").parent_path();
    std::string troubles;
    for (const char* place : {RM_MPI_INSTALLED, RM_MPI_BUILT}) {
        const auto file = folder / place;
        if (!std::filesystem::exists(file)) continue;
        void* module = dlopen(file.c_str(), RTLD_NOW | RTLD_GLOBAL);
        if (module == nullptr) {
            troubles = dlerror();
            continue;
        }
        const auto peers = reinterpret_cast<wide::PeersFunction>(dlsym(module, wide::kPeersSymbol));
        if (peers == nullptr) continue;
        static int argc = 0;
        static char** argv = nullptr;
        return peers(&argc, &argv);
    }
    if (!started) return nullptr;
    throw Error(troubles.empty() ? "Under mpirun the module for it has to be installed: package reedmast-mpi."
                                 : fmt::format("The module for mpirun cannot be used: {}.", troubles));
}

std::string clock(double seconds) {
    const auto whole = static_cast<long>(seconds + 0.5);
    if (whole >= 3600) return fmt::format("{}:{:02}:{:02}", whole / 3600, whole / 60 % 60, whole % 60);
    return fmt::format("{}:{:02}", whole / 60, whole % 60);
}

/// On a terminal one line that changes, otherwise a line now and then.
class Told {
  public:
    explicit Told(bool quiet) : quiet_(quiet), terminal_(isatty(STDERR_FILENO) != 0) {}
    void tell(const wide::State& state) {
        if (quiet_ || (!terminal_ && state.seconds < next_ && state.done < state.count)) return;
        next_ = state.seconds + 5.0;
        const std::string left =
            state.secondsLeft < 0.0 ? "" : fmt::format(", {} left", clock(state.secondsLeft));
        std::fprintf(stderr, "%s%zu of %zu cases%s%s", terminal_ ? "\r" : "", state.done, state.count,
                     left.c_str(), terminal_ ? "\x1b[K" : "\n");
        if (terminal_ && state.done == state.count) std::fprintf(stderr, "\n");
    }

  private:
    bool quiet_;
    bool terminal_;
    double next_ = 0.0;
};

int runStudy(const StudyOptions& options) {
    const EndBySignal end;
    wide::RunOptions run;
    run.stop = end.token();
    run.peers = findPeers();
    const unsigned cores = std::max(1U, std::thread::hardware_concurrency());
    run.threads = options.threads > 0 ? options.threads : run.peers != nullptr ? 1 : static_cast<int>(cores);
    std::ofstream times;
    std::mutex timesMutex;
    if (!options.times.empty()) {
        times.open(options.times + (run.peers ? fmt::format(".rank{}", run.peers->rank()) : ""));
        times << "case,seconds\n";
        run.timed = [&](std::size_t number, double seconds) {
            const std::scoped_lock lock(timesMutex);
            times << fmt::format("{},{:.6f}\n", number + 1, seconds);
        };
    }
    if (run.peers != nullptr && run.peers->rank() != 0) {
        wide::workForStudy(run);
        return kDone;
    }
    std::optional<wide::Cases> cases;
    try {
        readPart(options.part, run);
        run.out = options.out.empty() ? std::filesystem::path(options.file).replace_extension(".csv").string()
                                      : options.out;
        cases.emplace(wide::readGiven(options.file));
    } catch (...) {
        if (run.peers != nullptr) wide::dismiss(*run.peers);
        throw;
    }
    Told told(options.quiet);
    run.progress = [&](const wide::State& state) { told.tell(state); };
    const auto result = wide::runStudy(*cases, run);
    if (!options.quiet) {
        if (result.earlier > 0) fmt::print("{} cases were there already\n", result.earlier);
        fmt::print("{} of {} cases in {}\n", result.rows, result.count, run.out.string());
        if (!result.finished()) fmt::print("the same command goes on from there\n");
    }
    return result.finished() ? kDone : kFound;
}

int runMerge(const MergeOptions& options) {
    const std::vector<std::filesystem::path> parts(options.parts.begin(), options.parts.end());
    wide::mergeResults(parts, options.out);
    fmt::print("{} parts in {}\n", parts.size(), options.out);
    return kDone;
}

}  // namespace

void addStudyCommands(CLI::App& app, int& exitCode) {
    const auto s = std::make_shared<StudyOptions>();
    CLI::App* study = app.add_subcommand(
        "study",
        "Thousands of variants, builds or searches from a study file, on all processors or under mpirun");
    study->add_option("file", s->file, "Study file (docs/formats.md)")->required();
    study->add_option("--out", s->out, "Result, .csv or .jsonl; what is there of the same study is kept");
    study->add_option("--part", s->part,
                      "Only this part, as 3/64, for schedulers; merge puts parts together");
    study
        ->add_option("--threads", s->threads,
                     "Threads that work; all processors, under mpirun one for each rank")
        ->check(CLI::Range(1, 1024));
    study->add_option("--times", s->times, "Seconds that each case took, as CSV, into this file");
    study->add_flag("--quiet", s->quiet, "No progress");
    study->callback([s, &exitCode] { exitCode = runStudy(*s); });

    const auto m = std::make_shared<MergeOptions>();
    CLI::App* merge = app.add_subcommand("merge", "Puts the parts of a study together");
    merge->add_option("out", m->out, "Whole result")->required();
    merge->add_option("parts", m->parts, "Results of all parts, in any order")->required();
    merge->callback([m, &exitCode] { exitCode = runMerge(*m); });
}

}  // namespace rm::cli
