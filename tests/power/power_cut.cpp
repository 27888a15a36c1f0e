// reedmast-powercut: kills a working document with no warning, again and again, and looks at what is left on
// disk.
//   reedmast-powercut [--rounds N] [--seed S] [--folder F]
// A worker edits, saves, and takes up what the one before left; it writes down each edit once it is made.
// After the kill every file has to be readable, and the newest state on disk no older than the last edit made
// a second before. Prints a table; exit code 0: nothing older than a second was lost and nothing was damaged.
#include <fmt/format.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QTemporaryDir>
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <random>

#include "app/session/document.h"
#include "core/edit/designs.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"

namespace {

using namespace rm;

long long nowMs() {
    return std::chrono::duration_cast<std::chrono::milliseconds>(
               std::chrono::system_clock::now().time_since_epoch())
        .count();
}

/// The edit that a project is the state of.
long numberOf(const model::Project& project) {
    return std::atol(project.title.c_str());
}

/// Works until it is killed. Every line of its log is one write: "edit 17 1732733000123".
int work(const QString& folder, unsigned seed) {
    std::mt19937 random(seed);
    std::ofstream log(folder.toStdString() + "/log", std::ios::app);
    const auto say = [&](const char* what, long number) {
        log << fmt::format("{} {} {}\n", what, number, nowMs()) << std::flush;
    };
    app::Document document;
    const QString file = folder + "/project.json";
    long number = 0;
    say("start", 0);
    // Of several, as where one was killed while it took up another, the newest; that answers the others.
    const auto all = app::Document::leftWork();
    const auto newest = std::max_element(all.begin(), all.end(), [](const auto& a, const auto& b) {
        return numberOf(io::readLeft(a)) < numberOf(io::readLeft(b));
    });
    if (newest != all.end()) {
        document.restore(*newest);
        number = numberOf(document.project());
        say("restored", number);
        for (const auto& left : all)
            if (left != *newest) io::discardLeft(left);
    }
    if (number == 0 && QFile::exists(file)) document.openFile(file);
    number = std::max(number, numberOf(document.project()));
    while (true) {
        ++number;
        document.edit("Number", [&](model::Project& p) {
            p.title = std::to_string(number);
            p.designs.at(0).dimensions.at(0).text = fmt::format("{} mm", 10000 + number);
        });
        say("edit", number);
        if (random() % 12 == 0) {
            document.saveFile(file);
            say("saved", number);
        }
        QElapsedTimer pause;
        pause.start();
        const int wait = 1 + static_cast<int>(random() % 120);
        while (pause.elapsed() < wait) QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
    }
}

struct Outcome {
    int rounds = 0;
    int edits = 0;
    int whileSaving = 0;      ///< killed within 20 ms of a save
    int whileRecovering = 0;  ///< killed before the first edit
    int damaged = 0;
    int lost = 0;  ///< rounds that lost an edit older than a second
    long mostLost = 0;
    long long oldestLostMs = 0;
};

/// What the worker wrote down in this round, and what is on disk now.
void judge(const QString& folder, long long killedMs, Outcome& outcome) {
    std::ifstream log(folder.toStdString() + "/log");
    std::string what;
    long number = 0;
    long long at = 0;
    std::vector<std::pair<long, long long>> edits;
    long long lastSave = 0;
    while (log >> what >> number >> at) {
        if (what == "edit") edits.push_back({number, at});
        if (what == "saved") lastSave = at;
    }
    outcome.edits += static_cast<int>(edits.size());
    outcome.whileRecovering += edits.empty() ? 1 : 0;
    outcome.whileSaving += lastSave > 0 && killedMs - lastSave < 20 ? 1 : 0;
    long newest = 0;
    const QString file = folder + "/project.json";
    try {
        if (QFile::exists(file)) newest = numberOf(io::readProject(file.toStdString()));
    } catch (const Error& e) {
        std::fprintf(stderr, "damaged: %s\n", e.what());
        ++outcome.damaged;
    }
    for (const auto& left : app::Document::leftWork()) try {
            newest = std::max(newest, numberOf(io::readLeft(left)));
        } catch (const Error& e) {
            std::fprintf(stderr, "damaged: %s\n", e.what());
            ++outcome.damaged;
        }
    long lost = 0;
    for (const auto& [edit, made] : edits) {
        if (edit <= newest) continue;
        ++lost;
        outcome.oldestLostMs = std::max(outcome.oldestLostMs, killedMs - made);
        if (killedMs - made >= 1000) {
            std::fprintf(stderr, "edit %ld, made %lld ms before, is lost; on disk is %ld\n", edit,
                         killedMs - made, newest);
            ++outcome.lost;
            break;
        }
    }
    outcome.mostLost = std::max(outcome.mostLost, lost);
    QFile::remove(folder + "/log");
}

}  // namespace

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    QCommandLineParser parser;
    parser.addHelpOption();
    const QCommandLineOption rounds("rounds", "How often.", "number", "20");
    const QCommandLineOption seed("seed", "Of the moments.", "number", "1");
    const QCommandLineOption in("folder", "Where the files are; one of its own if left out.", "folder");
    const QCommandLineOption worker("worker", "Works until it is killed.");
    parser.addOptions({rounds, seed, in, worker});
    parser.process(app);
    const QTemporaryDir own;
    const QString folder = parser.isSet(in) ? parser.value(in) : own.path();
    qputenv("REEDMAST_RECOVERY", (folder + "/recovery").toUtf8());
    const unsigned first = parser.value(seed).toUInt();
    if (parser.isSet(worker)) return work(folder, first);

    std::mt19937 random(first);
    Outcome outcome;
    const int count = parser.value(rounds).toInt();
    for (; outcome.rounds < count; ++outcome.rounds) {
        const std::string workerSeed = std::to_string(random());
        const std::string place = folder.toStdString();
        const pid_t child = ::fork();
        if (child == 0) {
            ::execl("/proc/self/exe", argv[0], "--worker", "--folder", place.c_str(), "--seed",
                    workerSeed.c_str(), static_cast<char*>(nullptr));
            ::_exit(127);
        }
        // Some are killed while they start or recover, most while they work.
        const auto wait =
            static_cast<unsigned>(random() % 4 == 0 ? 20 + random() % 250 : 250 + random() % 2000);
        ::usleep(wait * 1000);
        const long long killed = nowMs();
        ::kill(child, SIGKILL);
        int status = 0;
        ::waitpid(child, &status, 0);
        if (!WIFSIGNALED(status)) {
            std::fprintf(stderr, "the worker ended by itself\n");
            return 2;
        }
        judge(folder, killed, outcome);
    }
    std::printf("%-44s %8d\n%-44s %8d\n%-44s %8d\n%-44s %8d\n%-44s %8d\n%-44s %8d\n%-44s %8ld\n%-44s %8lld\n",
                "windows killed", outcome.rounds, "edits made", outcome.edits,
                "killed within 20 ms of a save", outcome.whileSaving, "killed before their first edit",
                outcome.whileRecovering, "files damaged", outcome.damaged, "lost an edit older than a second",
                outcome.lost, "most edits lost at once", outcome.mostLost, "oldest edit lost, ms",
                outcome.oldestLostMs);
    return outcome.damaged == 0 && outcome.lost == 0 ? 0 : 1;
}
