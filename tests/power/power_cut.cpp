// reedmast-powercut: kills working documents with no warning, again and again, and looks at what is left on
// disk.
//   reedmast-powercut [--rounds N] [--seed S] [--folder F]
// A worker edits, saves, and takes up what the one before left; it writes down each edit once it is made.
// Every round is of one kind: one window, two at once, the folder of the journals removed while it works, the
// disk full for a while, or no folder possible for a while. After the kill every file has to be readable, and
// the newest state on disk no older than the last edit made a second before, those apart that were made while
// the window said that nothing can be kept. Prints a table; exit code 0: nothing older than a second was lost
// and nothing was damaged.
#include <fmt/format.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QTemporaryDir>
#include <algorithm>
#include <array>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <optional>
#include <random>
#include <sstream>

#include "app/session/document.h"
#include "core/edit/designs.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"

namespace {

using namespace rm;
namespace fs = std::filesystem;

long long nowMs() {
    return std::chrono::duration_cast<std::chrono::milliseconds>(
               std::chrono::system_clock::now().time_since_epoch())
        .count();
}

/// What happens in a round beside the kill.
enum class Trouble { None, TwoWindows, FolderRemoved, DiskFull, FolderInTheWay };
constexpr const char* kTroubles[] = {"one window", "two windows", "folder removed", "disk full",
                                     "no folder possible"};

/// The edit that a project is the state of; 0 where another worker made it.
long numberOf(const model::Project& project, const std::string& worker) {
    return project.title.starts_with(worker + " ") ? std::atol(project.title.c_str() + worker.size()) : 0;
}

/// Nothing more can be written from here on, or as before: as a full disk, of this process alone.
void setDiskFull(bool full) {
    std::signal(SIGXFSZ, SIG_IGN);
    rlimit limit{};
    ::getrlimit(RLIMIT_FSIZE, &limit);
    limit.rlim_cur = full ? 0 : limit.rlim_max;
    ::setrlimit(RLIMIT_FSIZE, &limit);
}

/// Makes the trouble of a round, or ends it.
void make(Trouble trouble, bool begin, const fs::path& folder) {
    const fs::path journals = folder / "recovery";
    const fs::path aside = folder / "aside";
    if (trouble == Trouble::FolderRemoved && begin) fs::remove_all(journals);
    if (trouble == Trouble::DiskFull) setDiskFull(begin);
    if (trouble == Trouble::FolderInTheWay && begin) {
        fs::rename(journals, aside);
        std::ofstream(journals) << "in the way";
    } else if (trouble == Trouble::FolderInTheWay) {
        fs::remove(journals);
        fs::rename(aside, journals);
    }
}

/// Works until it is killed. Every line of its log is one write: "edit 17 1732733000123".
int work(const fs::path& folder, const std::string& name, unsigned seed, Trouble trouble) {
    std::mt19937 random(seed);
    // Written through a pipe: the disk may be full.
    const auto say = [&](const char* what, long number) {
        const std::string line = fmt::format("{} {} {} {}\n", name, what, number, nowMs());
        if (::write(STDOUT_FILENO, line.data(), line.size()) < 0) ::_exit(3);
    };
    app::Document document;
    const QString file = QString::fromStdString((folder / (name + ".json")).string());
    long number = 0;
    say("start", 0);
    // Of several, as where one was killed while it took up another, the newest; that answers the others.
    auto all = app::Document::leftWork();
    std::erase_if(all, [&](const auto& left) { return !left.title.starts_with(name + " "); });
    const auto newest = std::max_element(all.begin(), all.end(), [&](const auto& a, const auto& b) {
        return numberOf(io::readLeft(a), name) < numberOf(io::readLeft(b), name);
    });
    if (newest != all.end()) {
        document.restore(*newest);
        number = numberOf(document.project(), name);
        say("restored", number);
        for (const auto& left : all)
            if (left != *newest) io::discardLeft(left);
    }
    if (number == 0 && QFile::exists(file)) document.openFile(file);
    number = std::max(number, numberOf(document.project(), name));
    constexpr int kTroubleFrom = 5;
    constexpr int kTroubleTo = 12;
    for (int made = 0;; ++made) {
        const bool inTrouble = made >= kTroubleFrom && made < kTroubleTo;
        if (made == kTroubleFrom) {
            // What was done before is on disk when trouble comes.
            document.settleJournal();
            make(trouble, true, folder);
            if (trouble == Trouble::DiskFull || trouble == Trouble::FolderInTheWay) say("trouble", number);
        }
        if (made == kTroubleTo) {
            make(trouble, false, folder);
            say("over", number);
        }
        ++number;
        document.edit("Number", [&](model::Project& p) {
            p.title = fmt::format("{} {}", name, number);
            p.designs.at(0).dimensions.at(0).text = fmt::format("{} mm", 10000 + number);
        });
        say("edit", number);
        if (random() % 12 == 0 && !inTrouble) {
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
    int windows = 0;
    int edits = 0;
    int whileSaving = 0;      ///< killed within 20 ms of a save
    int whileRecovering = 0;  ///< killed before the first edit
    int damaged = 0;
    int lost = 0;  ///< windows that lost an edit older than a second
    long mostLost = 0;
    long long oldestLostMs = 0;
};

/// A worker and what it wrote down.
class Window {
  public:
    Window(const fs::path& folder, std::string name, unsigned seed, Trouble trouble)
        : folder_(folder), name_(std::move(name)) {
        int ends[2];
        if (::pipe(ends) != 0) std::exit(2);
        child_ = ::fork();
        if (child_ == 0) {
            ::dup2(ends[1], STDOUT_FILENO);
            ::close(ends[0]);
            const std::string number = std::to_string(seed);
            const std::string kind = std::to_string(static_cast<int>(trouble));
            ::execl("/proc/self/exe", "reedmast-powercut", "--worker", name_.c_str(), "--folder",
                    folder_.c_str(), "--seed", number.c_str(), "--trouble", kind.c_str(),
                    static_cast<char*>(nullptr));
            ::_exit(127);
        }
        ::close(ends[1]);
        log_ = ends[0];
    }
    Window(const Window&) = delete;
    Window& operator=(const Window&) = delete;

    void kill() {
        killedMs_ = nowMs();
        ::kill(child_, SIGKILL);
        int status = 0;
        ::waitpid(child_, &status, 0);
        if (!WIFSIGNALED(status)) {
            std::fprintf(stderr, "the worker ended by itself\n");
            std::exit(2);
        }
        char some[4096];
        for (ssize_t n = 0; (n = ::read(log_, some, sizeof some)) > 0;)
            said_.append(some, static_cast<std::size_t>(n));
        ::close(log_);
    }
    void judge(Outcome& outcome) const;

  private:
    fs::path folder_;
    std::string name_;
    pid_t child_ = 0;
    int log_ = -1;
    long long killedMs_ = 0;
    std::string said_;
};

/// What the worker wrote down, and what is on disk now.
void Window::judge(Outcome& outcome) const {
    std::istringstream log(said_);
    std::string who;
    std::string what;
    long number = 0;
    long long at = 0;
    std::vector<std::pair<long, long long>> edits;
    long long lastSave = 0;
    bool trouble = false;
    while (log >> who >> what >> number >> at) {
        if (what == "trouble") trouble = true;
        if (what == "over") trouble = false;
        if (what == "edit") ++outcome.edits;
        // What was done while nothing could be kept is in the first edit afterwards.
        if (what == "edit" && !trouble) edits.push_back({number, at});
        if (what == "saved") lastSave = at;
    }
    if (trouble && fs::exists(folder_ / "aside")) make(Trouble::FolderInTheWay, false, folder_);
    ++outcome.windows;
    outcome.whileRecovering += edits.empty() ? 1 : 0;
    outcome.whileSaving += lastSave > 0 && killedMs_ - lastSave < 20 ? 1 : 0;
    long newest = 0;
    const fs::path file = folder_ / (name_ + ".json");
    try {
        if (fs::exists(file)) newest = numberOf(io::readProject(file), name_);
    } catch (const Error& e) {
        std::fprintf(stderr, "damaged: %s\n", e.what());
        ++outcome.damaged;
    }
    for (const auto& left : app::Document::leftWork()) try {
            newest = std::max(newest, numberOf(io::readLeft(left), name_));
        } catch (const Error& e) {
            std::fprintf(stderr, "damaged: %s\n", e.what());
            ++outcome.damaged;
        }
    long lost = 0;
    for (const auto& [edit, made] : edits) {
        if (edit <= newest) continue;
        ++lost;
        outcome.oldestLostMs = std::max(outcome.oldestLostMs, killedMs_ - made);
        if (killedMs_ - made >= 1000) {
            std::fprintf(stderr, "%s: edit %ld, made %lld ms before, is lost; on disk is %ld\n",
                         name_.c_str(), edit, killedMs_ - made, newest);
            ++outcome.lost;
            break;
        }
    }
    outcome.mostLost = std::max(outcome.mostLost, lost);
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
    const QCommandLineOption worker("worker", "Works under this name until it is killed.", "name");
    const QCommandLineOption trouble("trouble", "What happens to the worker.", "number", "0");
    parser.addOptions({rounds, seed, in, worker, trouble});
    parser.process(app);
    std::optional<QTemporaryDir> own;
    if (!parser.isSet(in)) own.emplace();
    const fs::path folder = (parser.isSet(in) ? parser.value(in) : own->path()).toStdString();
    qputenv("REEDMAST_RECOVERY", QByteArray::fromStdString((folder / "recovery").string()));
    const unsigned first = parser.value(seed).toUInt();
    if (parser.isSet(worker))
        return work(folder, parser.value(worker).toStdString(), first,
                    static_cast<Trouble>(parser.value(trouble).toInt()));

    std::mt19937 random(first);
    std::array<Outcome, std::size(kTroubles)> outcomes;
    const int count = parser.value(rounds).toInt();
    for (int round = 0; round < count; ++round) {
        const auto kind = static_cast<Trouble>(round % static_cast<int>(outcomes.size()));
        Outcome& outcome = outcomes[static_cast<std::size_t>(kind)];
        ++outcome.rounds;
        Window a(folder, "A", static_cast<unsigned>(random()), kind);
        std::optional<Window> b;
        if (kind == Trouble::TwoWindows) b.emplace(folder, "B", static_cast<unsigned>(random()), kind);
        // Some are killed while they start or recover, most while they work.
        const auto wait =
            static_cast<unsigned>(random() % 4 == 0 ? 20 + random() % 250 : 250 + random() % 2000);
        ::usleep(wait * 1000);
        a.kill();
        if (b) {
            ::usleep(static_cast<unsigned>(random() % 300) * 1000);
            b->kill();
            b->judge(outcome);
        }
        a.judge(outcome);
    }
    std::printf("%-20s %7s %8s %7s %12s %14s %8s %6s %11s %15s\n", "", "rounds", "windows", "edits",
                "while saving", "while starting", "damaged", "lost", "most edits", "oldest lost, ms");
    bool good = true;
    for (std::size_t i = 0; i < outcomes.size(); ++i) {
        const Outcome& o = outcomes[i];
        std::printf("%-20s %7d %8d %7d %12d %14d %8d %6d %11ld %15lld\n", kTroubles[i], o.rounds, o.windows,
                    o.edits, o.whileSaving, o.whileRecovering, o.damaged, o.lost, o.mostLost, o.oldestLostMs);
        good = good && o.damaged == 0 && o.lost == 0;
    }
    return good ? 0 : 1;
}
