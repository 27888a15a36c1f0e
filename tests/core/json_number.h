// Complex numbers of the reference files: [real, imaginary].
#pragma once

#include <nlohmann/json.hpp>

#include "core/common.h"

namespace rm::test {

inline Complex number(const nlohmann::json& j) {
    return {j[0].get<double>(), j[1].get<double>()};
}

}  // namespace rm::test
