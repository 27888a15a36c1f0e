// How many threads LAPACK may take for a system of this size.
#pragma once

#include <cblas.h>

#include <cstddef>

namespace rm::em {

/// From here on threads cost less than they bring.
inline constexpr std::size_t kParallelUnknowns = 250;

/// Small systems are solved by the thread that asks, which also keeps their last digits the same whatever else
/// runs. Asking for a change is not free, so it is made only where there is one.
inline void setLapackThreads(std::size_t unknowns) {
    const int threads = unknowns < kParallelUnknowns ? 1 : openblas_get_num_procs();
    if (openblas_get_num_threads() != threads) openblas_set_num_threads(threads);
}

}  // namespace rm::em
