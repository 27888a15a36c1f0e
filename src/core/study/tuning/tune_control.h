// Lets a designer hold tuning for a while, has it give way to what he does himself, and tells how much has
// been done, while it runs elsewhere.
#pragma once

#include <atomic>
#include <chrono>
#include <condition_variable>
#include <mutex>
#include <stop_token>

namespace rm::study {

/// Shared between the thread that tunes and the one that watches.
class TuneControl {
  public:
    void pause(bool on) {
        {
            const std::scoped_lock lock(mutex_);
            if (on == paused_) return;
            paused_ = on;
            if (on)
                since_ = Clock::now();
            else
                pausedSeconds_ += secondsSince(since_);
        }
        wake_.notify_all();
    }
    bool paused() const {
        const std::scoped_lock lock(mutex_);
        return paused_;
    }
    /// Time spent paused so far.
    double pausedSeconds() const {
        const std::scoped_lock lock(mutex_);
        return pausedSeconds_ + (paused_ ? secondsSince(since_) : 0.0);
    }

    /// Waits here while paused, until `stop`.
    void pass(std::stop_token stop) {
        std::unique_lock lock(mutex_);
        wake_.wait(lock, stop, [this] { return !paused_; });
    }

    /// Somebody waits for figures of his own, or has them now. Forgotten after kMostRest: figures may not
    /// come.
    void giveWay(bool on) {
        {
            const std::scoped_lock lock(mutex_);
            until_ = Clock::now() + kMostRest;
            givesWay_ = on;
        }
        if (!on) wake_.notify_all();
    }
    /// Waits here, between one piece of the work and the next, while it gives way, until `stop`. Threads of a
    /// pool may: it is not for long.
    void rest(std::stop_token stop) {
        if (!givesWay_) return;
        std::unique_lock lock(mutex_);
        wake_.wait_until(lock, stop, until_, [this] { return !givesWay_; });
        if (Clock::now() >= until_) givesWay_ = false;
    }
    static constexpr std::chrono::milliseconds kMostRest{40};

    /// Antennas read at one frequency so far, and how many of them took a field solution of their own.
    std::atomic<long> evaluations{0};
    std::atomic<long> solutions{0};

  private:
    using Clock = std::chrono::steady_clock;
    static double secondsSince(Clock::time_point from) {
        return std::chrono::duration<double>(Clock::now() - from).count();
    }

    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    bool paused_ = false;
    double pausedSeconds_ = 0.0;
    Clock::time_point since_;
    std::atomic<bool> givesWay_{false};
    Clock::time_point until_;
};

}  // namespace rm::study
