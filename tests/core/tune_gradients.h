// The derivatives that the tuner works with, against differences.
#pragma once

#include <catch2/catch.hpp>
#include <vector>

#include "core/study/tuning/tune.h"

namespace rm::test {

/// Of all misses of a design by every dimension that may move, at scaled values; `step` is that of the
/// differences.
inline void checkTuneGradient(const model::Design& design, const std::vector<double>& scaled,
                              std::size_t misses, double step) {
    const auto g = study::tuneGradient(design, {}, scaled);
    REQUIRE(g.misses.size() == misses);
    REQUIRE(g.exact.cols() == static_cast<Eigen::Index>(scaled.size()));
    for (std::size_t a = 0; a < scaled.size(); ++a) {
        auto up = scaled;
        auto down = scaled;
        up[a] += step;
        down[a] -= step;
        const auto plus = study::tuneGradient(design, {}, up);
        const auto minus = study::tuneGradient(design, {}, down);
        for (std::size_t m = 0; m < misses; ++m) {
            const double difference = (plus.misses[m] - minus.misses[m]) / (2.0 * step);
            INFO("miss " << m << " axis " << a);
            CHECK(g.exact(static_cast<Eigen::Index>(m), static_cast<Eigen::Index>(a)) ==
                  Approx(difference).epsilon(0.01).margin(0.02));
        }
    }
}

}  // namespace rm::test
