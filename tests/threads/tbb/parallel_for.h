// A stand-in for the loops of oneTBB, for the preset `threads` alone. The packaged library is not built for
// the thread sanitizer, which then takes what it passes from thread to thread for races and misses real ones.
// Here the same loops run on std::thread, which the sanitizer knows.
#pragma once

#include <algorithm>
#include <atomic>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

#include "tbb/blocked_range.h"

namespace tbb {

namespace detail {

/// Loops within loops within loops run on the thread that has them.
inline thread_local int depth = 0;
constexpr int kDeepest = 2;
constexpr int kThreads = 3;

/// Calls `work` on a few threads at once and waits for all; the first exception goes to the caller.
template <typename Work>
void onThreads(int threads, const Work& work) {
    std::exception_ptr first;
    std::mutex mutex;
    const int level = depth + 1;
    const auto guarded = [&] {
        const int before = depth;
        depth = level;
        try {
            work();
        } catch (...) {
            const std::scoped_lock lock(mutex);
            if (!first) first = std::current_exception();
        }
        depth = before;
    };
    std::vector<std::thread> others;
    for (int i = 1; i < threads; ++i) others.emplace_back(guarded);
    guarded();
    for (auto& other : others) other.join();
    if (first) std::rethrow_exception(first);
}

}  // namespace detail

template <typename Index, typename Body>
void parallel_for(Index first, Index last, const Body& body) {
    if (detail::depth >= detail::kDeepest || last - first < Index(2)) {
        for (Index i = first; i < last; ++i) body(i);
        return;
    }
    std::atomic<Index> next{first};
    detail::onThreads(detail::kThreads, [&] {
        while (true) {
            const Index i = next.fetch_add(Index(1));
            if (i >= last) return;
            body(i);
        }
    });
}

/// Nothing is ever cancelled here.
struct task_group_context {
    enum kind { isolated };
    explicit task_group_context(kind) {}
};

template <typename Index, typename Body>
void parallel_for(Index first, Index last, const Body& body, task_group_context&) {
    parallel_for(first, last, body);
}

template <typename Value, typename Body>
void parallel_for(const blocked_range<Value>& range, const Body& body) {
    parallel_for(range.begin(), range.end(), [&](Value i) { body(blocked_range<Value>(i, i + 1)); });
}

template <typename Value, typename Body>
void parallel_for(const blocked_range<Value>& range, const Body& body, task_group_context&) {
    parallel_for(range, body);
}

}  // namespace tbb
