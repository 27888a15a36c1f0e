// Long work is asked to stop through a token and answers with an exception that is no error.
#pragma once

#include <exception>
#include <stop_token>

namespace rm {

/// What was asked for is not wanted any more.
class Stopped : public std::exception {
  public:
    const char* what() const noexcept override { return "Stopped."; }
};

inline void endWhere(const std::stop_token& stop) {
    if (stop.stop_requested()) throw Stopped();
}

/// While it lives, its token is the current one of this thread: for what is built far below the work that was
/// asked to stop, like a table that is filled where it is first read.
class StopScope {
  public:
    explicit StopScope(const std::stop_token& stop) : before_(here()) { here() = &stop; }
    ~StopScope() { here() = before_; }
    StopScope(const StopScope&) = delete;
    StopScope& operator=(const StopScope&) = delete;

    /// Of the innermost one that lives; without any, a token that never stops.
    static std::stop_token current() { return here() != nullptr ? *here() : std::stop_token(); }

  private:
    static const std::stop_token*& here() {
        thread_local const std::stop_token* token = nullptr;
        return token;
    }

    const std::stop_token* before_;
};

/// Does the work, or leaves it where it is asked to stop.
template <typename Work>
void unlessStopped(const std::stop_token& stop, const Work& work) {
    if (stop.stop_requested()) return;
    try {
        work();
    } catch (const Stopped&) {
    }
}

}  // namespace rm
