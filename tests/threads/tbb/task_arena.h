// See parallel_for.h. Its threads take up no other work while they wait: everything is isolated.
#pragma once

namespace tbb::this_task_arena {

template <typename Work>
auto isolate(const Work& work) {
    return work();
}

}  // namespace tbb::this_task_arena
