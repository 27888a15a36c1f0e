// A rank of a study that is not the first: it works until rank 0 has no more.
#include <condition_variable>
#include <deque>
#include <nlohmann/json.hpp>
#include <thread>

#include "core/project/json_text.h"
#include "core/wide/messages.h"
#include "core/wide/workers.h"

namespace rm::wide {

namespace {

/// What passes between the thread that has the messages and those that work.
class Tray {
  public:
    /// As many pieces wait here as there are threads, so that none waits for a message.
    explicit Tray(std::size_t threads) : wanted_(threads) {}

    /// Waits for a piece; empty: no more.
    std::vector<std::size_t> take() {
        std::unique_lock lock(mutex_);
        changed_.wait(lock, [&] { return over_ || !pieces_.empty(); });
        if (over_) return {};
        auto piece = std::move(pieces_.front());
        pieces_.pop_front();
        ++wanted_;
        return piece;
    }
    void give(std::vector<NumberedLine> lines) {
        const std::scoped_lock lock(mutex_);
        given_.insert(given_.end(), std::move_iterator(lines.begin()), std::move_iterator(lines.end()));
    }

    void put(std::vector<std::size_t> piece) {
        const std::scoped_lock lock(mutex_);
        pieces_.push_back(std::move(piece));
        changed_.notify_one();
    }
    void close() {
        const std::scoped_lock lock(mutex_);
        over_ = true;
        changed_.notify_all();
    }
    /// Lines that were given, and how many pieces to ask for, since the last time.
    std::pair<std::vector<NumberedLine>, std::size_t> collect() {
        const std::scoped_lock lock(mutex_);
        return {std::exchange(given_, {}), std::exchange(wanted_, 0)};
    }

  private:
    std::mutex mutex_;
    std::condition_variable changed_;
    std::deque<std::vector<std::size_t>> pieces_;
    std::vector<NumberedLine> given_;
    std::size_t wanted_;
    bool over_ = false;
};

/// Passes what comes to the tray and what is given to rank 0, until there is no more; true where the study is
/// finished.
bool serve(Peers& peers, Tray& tray, const std::stop_token& stop) {
    while (!stop.stop_requested()) {
        auto [lines, wanted] = tray.collect();
        if (!lines.empty()) peers.send(0, say::message(say::kLines, textOf(lines)));
        for (; wanted > 0; --wanted) peers.send(0, say::kWant);
        bool any = false;
        while (const auto message = peers.receive()) {
            any = true;
            const auto heard = say::hear(message->text);
            if (heard.word == say::kEnd) return heard.rest == say::kFinished;
            if (heard.word == say::kWork) tray.put(say::numbersIn(heard.rest));
        }
        if (!any) std::this_thread::sleep_for(say::kRest);
    }
    return false;
}

std::optional<Message> firstMessage(Peers& peers, const std::stop_token& stop) {
    while (!stop.stop_requested()) {
        if (auto message = peers.receive()) return message;
        std::this_thread::sleep_for(say::kRest);
    }
    return std::nullopt;
}

}  // namespace

void workForStudy(const RunOptions& options) {
    Peers& peers = *options.peers;
    const auto first = firstMessage(peers, options.stop);
    if (!first) return;
    const auto heard = say::hear(first->text);
    if (heard.word != say::kStudy) return;
    const auto study = io::parseJson(std::string(heard.rest), "The study");
    const Cases cases(parseGiven(study, "The study"));
    const std::filesystem::path out = study["out"].get<std::string>();
    SideFile side(sideFile(out, peers.rank()), sideHead(study["head"].get<std::string>()));

    Tray tray(static_cast<std::size_t>(std::max(1, options.threads)));
    std::stop_source ending;
    bool finished = false;
    {
        const Workers workers(
            cases, formatOf(out), options, ending.get_token(), side, [&] { return tray.take(); },
            [&](std::vector<NumberedLine> lines) { tray.give(std::move(lines)); });
        const std::stop_callback relay(options.stop, [&] { ending.request_stop(); });
        finished = serve(peers, tray, options.stop);
        tray.close();
        ending.request_stop();
    }
    std::error_code none;
    if (finished) std::filesystem::remove(sideFile(out, peers.rank()), none);
}

}  // namespace rm::wide
