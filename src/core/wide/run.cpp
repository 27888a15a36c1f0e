// Rank 0 of a study: it hands the cases out, writes what comes back, and works itself.
#include "core/wide/run.h"

#include <fmt/format.h>

#include <condition_variable>
#include <fstream>
#include <mutex>
#include <nlohmann/json.hpp>

#include "core/project/json_text.h"
#include "core/wide/handout.h"
#include "core/wide/messages.h"
#include "core/wide/workers.h"
#include "core/words/words.h"

namespace rm::wide {

namespace {

using Clock = std::chrono::steady_clock;
using namespace std::chrono_literals;

constexpr std::chrono::microseconds kRestAlone = 50ms;
constexpr auto kProgressEvery = 250ms;

/// The handout as the threads of this process share it.
class Desk {
  public:
    Desk(Range range, std::size_t piece) : handout_(range, piece) {}

    /// What is known before any work began.
    void begin(std::size_t written, std::vector<NumberedLine> lines) {
        handout_.written(written);
        for (auto& one : lines) handout_.take(one.number, std::move(one.line));
    }
    std::size_t done() {
        const std::scoped_lock lock(mutex_);
        return handout_.done();
    }
    /// Empty: no more.
    std::vector<std::size_t> next() {
        const std::scoped_lock lock(mutex_);
        return over_ ? std::vector<std::size_t>{} : handout_.next();
    }
    void take(std::vector<NumberedLine> lines) {
        {
            const std::scoped_lock lock(mutex_);
            for (auto& one : lines) handout_.take(one.number, std::move(one.line));
        }
        changed_.notify_all();
    }
    void close() {
        const std::scoped_lock lock(mutex_);
        over_ = true;
    }

    struct Ready {
        std::string lines;  ///< to be written next
        std::size_t done = 0;
        bool finished = false;
    };
    /// What there is to write; where there is nothing, after so long or as soon as something was taken.
    Ready ready(std::chrono::microseconds wait) {
        std::unique_lock lock(mutex_);
        const auto seen = handout_.done();
        Ready now{handout_.ready(), seen, handout_.finished()};
        if (!now.lines.empty() || now.finished || wait.count() == 0) return now;
        changed_.wait_for(lock, wait, [&] { return handout_.done() != seen; });
        return {handout_.ready(), handout_.done(), handout_.finished()};
    }

  private:
    std::mutex mutex_;
    std::condition_variable changed_;
    Handout handout_;
    bool over_ = false;  ///< no more for anybody
};

/// The other ranks. However the work of rank 0 ends, they are told.
class Others {
  public:
    explicit Others(Peers* peers) : peers_(peers) {}
    Others(const Others&) = delete;
    Others& operator=(const Others&) = delete;
    ~Others() { toAll(say::message(say::kEnd, finished_ ? say::kFinished : "")); }

    /// What they kept beside the result is not needed any more.
    void finished() { finished_ = true; }
    void sendStudy(const Cases& cases, const std::filesystem::path& out, const std::string& head) {
        if (peers_ == nullptr) return;
        nlohmann::json study = writeGiven(cases.given());
        study["out"] = out.string();
        study["head"] = head;
        toAll(say::message(say::kStudy, io::jsonText(study)));
    }
    /// Answers all that has come; true where there was something.
    bool answer(Desk& desk, Format format) {
        bool any = false;
        if (peers_ == nullptr) return any;
        while (const auto message = peers_->receive()) {
            any = true;
            const auto heard = say::hear(message->text);
            if (heard.word == say::kLines)
                desk.take(linesOf(std::string(heard.rest), format));
            else if (const auto piece = desk.next(); !piece.empty())
                peers_->send(message->from, say::message(say::kWork, say::numbersText(piece)));
        }
        return any;
    }
    std::chrono::microseconds rest() const { return peers_ != nullptr ? say::kRest : kRestAlone; }

  private:
    void toAll(const std::string& text) {
        for (int to = 1; peers_ != nullptr && to < peers_->count(); ++to) peers_->send(to, text);
    }

    Peers* peers_;
    bool finished_ = false;
};

/// The file of the result, from where an earlier run ended.
class Out {
  public:
    Out(const std::filesystem::path& file, const std::string& head, Format format, Range range)
        : file_(file) {
        Begun begun;
        std::error_code none;
        if (std::filesystem::exists(file, none)) begun = readBegun(file, head, format, range);
        rows_ = begun.rows;
        if (begun.bytes > 0) std::filesystem::resize_file(file, begun.bytes);
        out_.open(file,
                  begun.bytes > 0 ? std::ios::binary | std::ios::app : std::ios::binary | std::ios::trunc);
        if (begun.bytes == 0) out_ << head << std::flush;
        if (!out_) throw Error(rm::say("{} cannot be written.", file.string()));
    }
    /// That were there already.
    std::size_t rows() const { return rows_; }
    void write(const std::string& lines) {
        if (lines.empty()) return;
        out_ << lines << std::flush;
        if (!out_) throw Error(rm::say("{} cannot be written: is the disk full?", file_.string()));
    }

  private:
    std::filesystem::path file_;
    std::ofstream out_;
    std::size_t rows_ = 0;
};

/// What the side files of earlier runs of the same study know.
std::vector<NumberedLine> keptLines(const std::filesystem::path& out, const std::string& head,
                                    Format format) {
    std::vector<NumberedLine> kept;
    for (const auto& file : sideFiles(out)) {
        std::ifstream in(file, std::ios::binary);
        const std::string text{std::istreambuf_iterator<char>(in), {}};
        if (!text.starts_with(sideHead(head))) continue;
        for (auto& one : linesOf(text, format)) kept.push_back(std::move(one));
    }
    return kept;
}

/// However the work of this rank ends, nobody begins another case, or goes on with one that nobody waits for.
struct Closing {
    Desk& desk;
    std::stop_source& ending;
    ~Closing() {
        desk.close();
        ending.request_stop();
    }
};

/// Says how far it is, not too often.
class Teller {
  public:
    Teller(const RunOptions& options, std::size_t count, std::size_t earlier)
        : options_(options), count_(count), earlier_(earlier) {}
    void tell(const Desk::Ready& now) {
        if (!options_.progress || (!now.finished && Clock::now() - told_ < kProgressEvery)) return;
        told_ = Clock::now();
        State state{now.done, count_, std::chrono::duration<double>(told_ - begin_).count(), -1.0};
        if (now.done > earlier_)
            state.secondsLeft = state.seconds / static_cast<double>(now.done - earlier_) *
                                static_cast<double>(count_ - now.done);
        options_.progress(state);
    }

  private:
    const RunOptions& options_;
    std::size_t count_;
    std::size_t earlier_;
    Clock::time_point begin_ = Clock::now();
    Clock::time_point told_ = begin_;
};

}  // namespace

RunResult runStudy(const Cases& cases, const RunOptions& options) {
    Others others(options.peers);
    const auto format = formatOf(options.out);
    if (options.parts > cases.count())
        throw Error(
            rm::say("The study has {} cases: it cannot be put into {} parts.", cases.count(), options.parts));
    const auto range = partOf(cases.count(), options.part, options.parts);
    const auto head = headOf(cases, format, range);
    const ResultLock alone(options.out);
    Out out(options.out, head, format, range);
    Desk desk(range, cases.piece());
    desk.begin(range.first + out.rows(), keptLines(options.out, head, format));
    RunResult result;
    result.count = range.count();
    result.earlier = desk.done();
    others.sendStudy(cases, options.out, head);
    {
        std::stop_source ending;
        SideFile side(sideFile(options.out, 0), sideHead(head));
        const Workers workers(
            cases, format, options, ending.get_token(), side, [&] { return desk.next(); },
            [&](std::vector<NumberedLine> lines) { desk.take(std::move(lines)); });
        const std::stop_callback relay(options.stop, [&] { ending.request_stop(); });
        const Closing closing{desk, ending};
        Teller teller(options, range.count(), result.earlier);
        for (bool finished = false; !finished && !options.stop.stop_requested();) {
            const bool any = others.answer(desk, format);
            const auto now = desk.ready(any ? 0us : others.rest());
            out.write(now.lines);
            teller.tell(now);
            finished = now.finished;
        }
    }
    // What the workers of this rank gave back while they ended.
    out.write(desk.ready({}).lines);
    result.rows = readBegun(options.out, head, format, range).rows;
    if (!result.finished()) return result;
    others.finished();
    for (const auto& file : sideFiles(options.out)) {
        std::error_code none;
        std::filesystem::remove(file, none);
    }
    return result;
}

void dismiss(Peers& peers) {
    const Others others(&peers);
}

}  // namespace rm::wide
