// See parallel_for.h.
#pragma once

#include "tbb/parallel_for.h"

namespace tbb {

template <typename First, typename Second>
void parallel_invoke(const First& first, const Second& second) {
    parallel_for(0, 2, [&](int which) {
        if (which == 0)
            first();
        else
            second();
    });
}

template <typename First, typename Second>
void parallel_invoke(const First& first, const Second& second, task_group_context&) {
    parallel_invoke(first, second);
}

}  // namespace tbb
