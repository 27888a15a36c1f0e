// Something that is done once, by whichever thread comes first.
#pragma once

#include <mutex>

namespace rm::em {

/// Threads that come while it is done wait. Where the work throws it has not been done, and the next one does
/// it. std::call_once promises the same and keeps it on some platforms only: after an exception others wait
/// for ever (GCC bug 66146; under the thread sanitizer, too).
class Once {
  public:
    template <typename Work>
    void run(const Work& work) {
        const std::scoped_lock lock(mutex_);
        if (done_) return;
        work();
        done_ = true;
    }

  private:
    std::mutex mutex_;
    bool done_ = false;
};

}  // namespace rm::em
