// Loops on all processors whose results are kept: in tables, in caches, in a matrix.
//
// A loop inside a loop is cancelled with it: where an outer loop ends by an exception, because it was stopped
// or one of its pieces failed, the inner ones simply return, and what they have not done looks as if it had
// been. These loops belong to no other one, so they are done when they return.
#pragma once

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

namespace rm::em {

/// body(i) for first <= i < last.
template <typename Index, typename Body>
void parallelFor(Index first, Index last, const Body& body) {
    tbb::task_group_context own(tbb::task_group_context::isolated);
    tbb::parallel_for(first, last, body, own);
}

/// body(range) for pieces of about `grain` indices.
template <typename Body>
void parallelRanges(std::size_t count, std::size_t grain, const Body& body) {
    tbb::task_group_context own(tbb::task_group_context::isolated);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, grain), body, own);
}

/// Both side by side.
template <typename First, typename Second>
void parallelBoth(const First& first, const Second& second) {
    tbb::task_group_context own(tbb::task_group_context::isolated);
    tbb::parallel_invoke(first, second, own);
}

}  // namespace rm::em
