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
