#include "core/wide/run.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <sys/file.h>
#include <unistd.h>

#include <charconv>
#include <chrono>
#include <cmath>
#include <condition_variable>
#include <deque>
#include <fstream>
#include <mutex>
#include <nlohmann/json.hpp>
#include <thread>

#include "core/project/json_text.h"
#include "core/stopped.h"
#include "core/wide/handout.h"

namespace rm::wide {

namespace {

using Clock = std::chrono::steady_clock;
using namespace std::chrono_literals;

// Messages: a word, a line end, and what belongs to it.
constexpr const char* kStudy = "study";  ///< to a rank: the study, where it is written to
constexpr const char* kWant = "want";    ///< to rank 0: another piece, please
constexpr const char* kWork = "work";    ///< to a rank: numbers of cases
constexpr const char* kLines = "lines";  ///< to rank 0: cases, each with its number
constexpr const char* kEnd = "end";  ///< to a rank: no more; "finished" after it: what it kept is not needed
constexpr const char* kFinished = "finished";

/// How long the thread that passes messages rests where there are none.
constexpr auto kRest = 100us;
constexpr auto kRestAlone = 50ms;
constexpr auto kProgressEvery = 250ms;

double secondsSince(Clock::time_point from) {
    return std::chrono::duration<double>(Clock::now() - from).count();
}

std::filesystem::path sideFile(const std::filesystem::path& out, int rank) {
    auto file = out;
    file += fmt::format(".rank{}", rank);
    return file;
}

/// Every side file of a result that is there.
std::vector<std::filesystem::path> sideFiles(const std::filesystem::path& out) {
    std::vector<std::filesystem::path> files;
    const auto folder = out.has_parent_path() ? out.parent_path() : std::filesystem::path(".");
    const std::string begin = out.filename().string() + ".rank";
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (const auto name = entry.path().filename().string();
            name.starts_with(begin) && name.size() > begin.size() &&
            name.find_first_not_of("0123456789", begin.size()) == std::string::npos)
            files.push_back(entry.path());
    return files;
}

/// Cases as lines, each after its number.
struct NumberedLine {
    std::size_t number = 0;
    std::string line;
};

std::string textOf(const std::vector<NumberedLine>& lines) {
    std::string text;
    for (const auto& one : lines) text += fmt::format("{}\t{}\n", one.number, one.line);
    return text;
}

/// What has no end, or no number, is no line.
std::vector<NumberedLine> linesOf(const std::string& text, Format format) {
    std::vector<NumberedLine> lines;
    for (std::size_t at = 0; at < text.size();) {
        const auto end = text.find('\n', at);
        if (end == std::string::npos) break;
        const auto tab = text.find('\t', at);
        if (tab < end) {
            const std::string line = text.substr(tab + 1, end - tab - 1);
            const auto number = numberOf(line, format);
            if (number && fmt::format("{}", *number) == text.substr(at, tab - at))
                lines.push_back({*number, line});
        }
        at = end + 1;
    }
    return lines;
}

/// Appends each case as soon as it is known: whatever ends the process, no more than the case in hand is
/// lost.
class SideFile {
  public:
    SideFile(const std::filesystem::path& file, const std::string& head) : file_(file) {
        std::ifstream in(file, std::ios::binary);
        std::string first;
        const bool ours = std::getline(in, first) && first + "\n" == head;
        out_.open(file, ours ? std::ios::binary | std::ios::app : std::ios::binary | std::ios::trunc);
        // A line that was cut short ends here.
        out_ << (ours ? "\n" : head) << std::flush;
    }
    void add(const NumberedLine& line) {
        const std::scoped_lock lock(mutex_);
        out_ << textOf({line}) << std::flush;
    }

  private:
    std::filesystem::path file_;
    std::mutex mutex_;
    std::ofstream out_;
};

/// The first line of a side file: it belongs to one study.
std::string sideHead(const std::string& head) {
    return fmt::format("{:016x}\n", std::hash<std::string>{}(head));
}

/// Threads that take pieces where there are, and give back lines.
class Workers {
  public:
    using Take = std::function<std::vector<std::size_t>()>;  ///< waits; empty: no more
    using Give = std::function<void(std::vector<NumberedLine>)>;

    /// `stop` ends what they have in hand.
    Workers(const Cases& cases, Format format, const RunOptions& options, std::stop_token stop,
            SideFile& side, Take take, Give give) {
        for (int i = 0; i < std::max(1, options.threads); ++i)
            threads_.emplace_back([&cases, format, &options, stop, &side, take, give](std::stop_token) {
                for (auto piece = take(); !piece.empty(); piece = take()) {
                    std::vector<NumberedLine> lines;
                    for (const std::size_t number : piece) {
                        const auto begin = Clock::now();
                        try {
                            lines.push_back({number, lineOf(cases, cases.workOut(number, stop), format)});
                        } catch (const Stopped&) {
                            break;
                        }
                        side.add(lines.back());
                        if (options.timed) options.timed(number, secondsSince(begin));
                    }
                    give(std::move(lines));
                    if (stop.stop_requested()) return;
                }
            });
    }

  private:
    std::vector<std::jthread> threads_;
};

/// What rank 0 knows, shared with its own workers.
struct Shared {
    std::mutex mutex;
    std::condition_variable_any changed;
    Handout handout;
    bool over = false;  ///< no more for anybody

    Shared(Range range, std::size_t piece) : handout(range, piece) {}
};

/// Rank 0 as the other ranks see it.
class Desk {
  public:
    Desk(Shared& shared, Peers* peers, Format format) : shared_(shared), peers_(peers), format_(format) {}

    void sendStudy(const std::string& study) {
        for (int to = 1; peers_ != nullptr && to < peers_->count(); ++to)
            peers_->send(to, fmt::format("{}\n{}", kStudy, study));
    }
    /// Answers all that has come; true where there was something.
    bool answer() {
        if (peers_ == nullptr) return false;
        bool any = false;
        while (const auto message = peers_->receive()) {
            any = true;
            const auto end = message->text.find('\n');
            if (message->text.substr(0, end) == kLines) {
                const auto lines = linesOf(message->text.substr(end + 1), format_);
                const std::scoped_lock lock(shared_.mutex);
                for (const auto& one : lines) shared_.handout.take(one.number, one.line);
            } else {
                std::vector<std::size_t> piece;
                {
                    const std::scoped_lock lock(shared_.mutex);
                    if (!shared_.over) piece = shared_.handout.next();
                }
                if (!piece.empty())
                    peers_->send(message->from, fmt::format("{}\n{}", kWork, fmt::join(piece, " ")));
            }
        }
        return any;
    }

  private:
    Shared& shared_;
    Peers* peers_;
    Format format_;
};

/// However the work of rank 0 ends, the others are told.
struct Farewell {
    Peers* peers;
    bool finished = false;

    ~Farewell() {
        for (int to = 1; peers != nullptr && to < peers->count(); ++to)
            peers->send(to, fmt::format("{}\n{}", kEnd, finished ? kFinished : ""));
    }
};

/// One process at a time writes a result.
class Lock {
  public:
    explicit Lock(const std::filesystem::path& file)
        : handle_(::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644)) {
        if (handle_ < 0) throw Error(fmt::format("{} cannot be written.", file.string()));
        if (::flock(handle_, LOCK_EX | LOCK_NB) == 0) return;
        ::close(handle_);
        throw Error(
            fmt::format("{} is being written by another run of a study: wait for it, or give another name.",
                        file.string()));
    }
    Lock(const Lock&) = delete;
    Lock& operator=(const Lock&) = delete;
    ~Lock() { ::close(handle_); }

  private:
    int handle_;
};

/// The file of the result, from where an earlier run ended.
std::ofstream openOut(const RunOptions& options, const std::string& head, Format format, Range range,
                      std::size_t& rows) {
    Begun begun;
    std::error_code none;
    if (std::filesystem::exists(options.out, none)) begun = readBegun(options.out, head, format, range);
    rows = begun.rows;
    if (begun.bytes > 0) std::filesystem::resize_file(options.out, begun.bytes);
    std::ofstream out(
        options.out, begun.bytes > 0 ? std::ios::binary | std::ios::app : std::ios::binary | std::ios::trunc);
    if (begun.bytes == 0) out << head << std::flush;
    if (!out) throw Error(fmt::format("{} cannot be written.", options.out.string()));
    return out;
}

}  // namespace

RunResult runStudy(const Cases& cases, const RunOptions& options) {
    const auto format = formatOf(options.out);
    const auto range = partOf(cases.count(), options.part, options.parts);
    const auto head = headOf(cases, format, range);
    Farewell farewell{options.peers};
    Shared shared(range, cases.piece());
    RunResult result;
    result.count = range.count();
    if (options.parts > cases.count())
        throw Error(fmt::format("The study has {} cases: it cannot be put into {} parts.", cases.count(),
                                options.parts));
    const Lock alone(options.out);
    // However this ends, nothing goes on with a case that nobody waits for.
    std::stop_source ending;
    const std::stop_callback relay(options.stop, [&] { ending.request_stop(); });
    auto out = openOut(options, head, format, range, result.rows);
    shared.handout.written(range.first + result.rows);
    for (const auto& file : sideFiles(options.out)) {
        std::ifstream in(file, std::ios::binary);
        const std::string text{std::istreambuf_iterator<char>(in), {}};
        if (!text.starts_with(sideHead(head))) continue;
        for (auto& one : linesOf(text, format)) shared.handout.take(one.number, std::move(one.line));
    }
    result.earlier = shared.handout.done();

    Desk desk(shared, options.peers, format);
    nlohmann::json study = writeGiven(cases.given());
    study["out"] = options.out.string();
    study["head"] = head;
    desk.sendStudy(io::jsonText(study));
    const auto begin = Clock::now();
    auto told = begin;
    {
        SideFile side(sideFile(options.out, 0), sideHead(head));
        const Workers workers(
            cases, format, options, ending.get_token(), side,
            [&]() -> std::vector<std::size_t> {
                const std::scoped_lock lock(shared.mutex);
                return shared.over ? std::vector<std::size_t>{} : shared.handout.next();
            },
            [&](std::vector<NumberedLine> lines) {
                {
                    const std::scoped_lock lock(shared.mutex);
                    for (auto& one : lines) shared.handout.take(one.number, std::move(one.line));
                }
                shared.changed.notify_all();
            });
        for (;;) {
            const bool any = desk.answer();
            State state{0, range.count(), secondsSince(begin), -1.0};
            std::string lines;
            bool finished = false;
            {
                std::unique_lock lock(shared.mutex);
                const auto seen = shared.handout.done();
                lines = shared.handout.ready();
                if (lines.empty() && !any && !shared.handout.finished() && !options.stop.stop_requested())
                    shared.changed.wait_for(lock,
                                            options.peers != nullptr ? std::chrono::microseconds(kRest)
                                                                     : std::chrono::microseconds(kRestAlone),
                                            [&] { return shared.handout.done() != seen; });
                finished = shared.handout.finished();
                state.done = shared.handout.done();
            }
            if (!lines.empty()) {
                out << lines << std::flush;
                if (!out) {
                    const std::scoped_lock lock(shared.mutex);
                    shared.over = true;
                    ending.request_stop();
                    throw Error(fmt::format("{} cannot be written: is the disk full?", options.out.string()));
                }
            }
            const auto fresh = state.done - result.earlier;
            if (fresh > 0)
                state.secondsLeft = state.seconds / static_cast<double>(fresh) *
                                    static_cast<double>(state.count - state.done);
            if (options.progress && (finished || Clock::now() - told > kProgressEvery)) {
                options.progress(state);
                told = Clock::now();
            }
            if (finished || options.stop.stop_requested()) break;
        }
        const std::scoped_lock lock(shared.mutex);
        shared.over = true;
    }
    // What the workers of this rank gave back while they ended.
    out << shared.handout.ready() << std::flush;
    out.close();
    result.rows = readBegun(options.out, head, format, range).rows;
    farewell.finished = result.finished();
    if (result.finished())
        for (const auto& file : sideFiles(options.out)) {
            std::error_code none;
            std::filesystem::remove(file, none);
        }
    return result;
}

void dismiss(Peers& peers) {
    const Farewell farewell{&peers};
}

void workForStudy(const RunOptions& options) {
    Peers& peers = *options.peers;
    const auto wait = [&]() -> std::optional<Message> {
        while (!options.stop.stop_requested()) {
            if (auto message = peers.receive()) return message;
            std::this_thread::sleep_for(kRest);
        }
        return std::nullopt;
    };
    const auto first = wait();
    if (!first || !first->text.starts_with(kStudy)) return;
    const auto study = io::parseJson(first->text.substr(first->text.find('\n') + 1), "The study");
    const Cases cases(parseGiven(study, "The study"));
    const std::filesystem::path out = study["out"].get<std::string>();
    const auto format = formatOf(out);
    SideFile side(sideFile(out, peers.rank()), sideHead(study["head"].get<std::string>()));

    std::mutex mutex;
    std::condition_variable_any changed;
    std::deque<std::vector<std::size_t>> pieces;
    std::vector<NumberedLine> given;
    bool over = false;
    bool finished = false;
    std::stop_source ending;
    const std::stop_callback relay(options.stop, [&] { ending.request_stop(); });
    // As many pieces wait here as there are threads, so that none waits for a message.
    std::size_t ahead = static_cast<std::size_t>(std::max(1, options.threads));
    {
        const Workers workers(
            cases, format, options, ending.get_token(), side,
            [&]() -> std::vector<std::size_t> {
                std::unique_lock lock(mutex);
                changed.wait(lock, [&] { return over || !pieces.empty(); });
                if (over) return {};
                auto piece = std::move(pieces.front());
                pieces.pop_front();
                ++ahead;
                return piece;
            },
            [&](std::vector<NumberedLine> lines) {
                const std::scoped_lock lock(mutex);
                given.insert(given.end(), lines.begin(), lines.end());
            });
        for (bool ended = false; !ended;) {
            std::vector<NumberedLine> lines;
            std::size_t wants = 0;
            {
                const std::scoped_lock lock(mutex);
                lines.swap(given);
                std::swap(wants, ahead);
            }
            if (!lines.empty()) peers.send(0, fmt::format("{}\n{}", kLines, textOf(lines)));
            for (; wants > 0; --wants) peers.send(0, kWant);
            bool any = false;
            while (const auto message = peers.receive()) {
                any = true;
                const auto end = message->text.find('\n');
                const auto word = message->text.substr(0, end);
                if (word == kEnd) {
                    ended = true;
                    finished = message->text.substr(end + 1) == kFinished;
                    break;
                }
                if (word != kWork) continue;
                std::vector<std::size_t> piece;
                for (const char *at = message->text.data() + end + 1,
                                *last = message->text.data() + message->text.size();
                     at < last; ++at) {
                    std::size_t number = 0;
                    at = std::from_chars(at, last, number).ptr;
                    piece.push_back(number);
                }
                const std::scoped_lock lock(mutex);
                pieces.push_back(std::move(piece));
                changed.notify_one();
            }
            if (options.stop.stop_requested()) ended = true;
            if (!any && !ended) std::this_thread::sleep_for(kRest);
        }
        {
            const std::scoped_lock lock(mutex);
            over = true;
        }
        ending.request_stop();
        changed.notify_all();
    }
    std::error_code none;
    if (finished) std::filesystem::remove(sideFile(out, peers.rank()), none);
}

}  // namespace rm::wide
