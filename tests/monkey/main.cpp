// reedmast-monkey: random use of the real window for as long as one likes.
//   reedmast-monkey [--seed N] [--seconds S] [--steps K] [--memory]
// Prints the seed at the start, and seed and steps of a failure; of a crash where it was, too (c++filt reads
// the names). Exit code 0: nothing was found.
#include <execinfo.h>
#include <spdlog/spdlog.h>
#include <unistd.h>

#include <QCommandLineParser>
#include <QElapsedTimer>
#include <array>
#include <csignal>
#include <cstdio>
#include <fstream>
#include <random>

#include "app/session/guard.h"
#include "core/memory.h"
#include "core/study/field_store.h"
#include "monkey.h"

namespace {

constexpr qint64 kRestMinutes = 10;
constexpr int kFramesTold = 48;

rm::test::Monkey* at = nullptr;
unsigned seedInUse = 0;

void tell() {
    std::fprintf(stderr, "seed %u, step %d; the last steps:\n", seedInUse, at->count());
    for (const auto& step : at->steps()) std::fprintf(stderr, "  %s\n", step.c_str());
}

void onSignal(int signal) {
    // The program is lost; the steps are worth more than the rules for signal handlers.
    std::fprintf(stderr, "signal %d on %s\n", signal,
                 gettid() == getpid() ? "the window's thread" : "a thread in the background");
    std::array<void*, kFramesTold> frames;
    backtrace_symbols_fd(frames.data(), backtrace(frames.data(), kFramesTold), STDERR_FILENO);
    if (at != nullptr) tell();
    std::signal(signal, SIG_DFL);
    std::raise(signal);
}

/// Memory of this process that is in use, MB.
double residentMb() {
    std::ifstream in("/proc/self/statm");
    double pages = 0.0;
    in >> pages >> pages;
    return pages * static_cast<double>(sysconf(_SC_PAGESIZE)) * 1e-6;
}

}  // namespace

int main(int argc, char** argv) {
    rm::keepMemoryTogether();
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    const QTemporaryDir recovery;
    qputenv("REEDMAST_RECOVERY", recovery.path().toUtf8());
    rm::app::GuardedApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
    QCommandLineParser parser;
    parser.addHelpOption();
    const QCommandLineOption seed("seed", "Another seed does other things; 0: one from the clock.", "number",
                                  "0");
    const QCommandLineOption seconds("seconds", "How long.", "number", "60");
    const QCommandLineOption steps("steps", "How many steps at most; 0: no limit.", "number", "0");
    const QCommandLineOption memory("memory",
                                    "Print resident memory every minute, and at rest every ten: the soak.");
    parser.addOptions({seed, seconds, steps, memory});
    parser.process(app);
    seedInUse = parser.value(seed).toUInt();
    if (seedInUse == 0) seedInUse = std::random_device()();
    std::printf("seed %u\n", seedInUse);
    std::fflush(stdout);
    spdlog::set_level(spdlog::level::err);
    // A failed check of the toolkit ends the run with its steps.
    for (const int signal : {SIGSEGV, SIGABRT, SIGFPE, SIGBUS, SIGTERM}) std::signal(signal, onSignal);

    int code = 0;
    {
        rm::test::Monkey monkey(seedInUse, RM_SOURCE_DIR "/demo/heron_point.json");
        at = &monkey;
        app.onFailure([&](const QString& sentence) { monkey.failed(sentence); });
        QElapsedTimer clock;
        clock.start();
        const int most = parser.value(steps).toInt();
        qint64 minutes = 0;
        try {
            while (clock.elapsed() < 1000LL * parser.value(seconds).toInt() &&
                   (most == 0 || monkey.count() < most)) {
                monkey.step();
                if (!parser.isSet(memory) || clock.elapsed() < 60000 * (minutes + 1)) continue;
                minutes = clock.elapsed() / 60000;
                std::printf("after %lld min: %.0f MB\n", static_cast<long long>(minutes), residentMb());
                if (minutes % kRestMinutes == 0) {
                    monkey.rest();
                    rm::giveBackFreeMemory();
                    std::printf("at rest after %lld min: %.0f MB, %.0f of them field solutions\n",
                                static_cast<long long>(minutes), residentMb(),
                                1e-6 * static_cast<double>(rm::study::FieldStore::keptByAll()));
                }
                std::fflush(stdout);
            }
            std::printf("%d steps in %.0f s, nothing found\n", monkey.count(),
                        static_cast<double>(clock.elapsed()) * 1e-3);
        } catch (const std::exception& e) {
            std::fprintf(stderr, "FOUND: %s\n", e.what());
            tell();
            code = 1;
        }
        std::fflush(stdout);
        app.onFailure({});
        at = nullptr;
    }
    std::_Exit(code);
}
