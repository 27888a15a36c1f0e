// What is selected in the Plan.
#pragma once

#include <cstddef>

namespace rm::app {

struct Selection {
    enum class Type {
        None,
        Dimension,
        Part,
        Copy,
        Feed,
        Drive,
        Load,
        Line,
        Harness,
        Block,
        Measured,
        Site,
        Design
    };
    Type type = Type::None;
    std::size_t index = 0;

    bool operator==(const Selection&) const = default;
};

}  // namespace rm::app
