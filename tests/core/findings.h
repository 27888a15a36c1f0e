// What is wrong with a design, for tests.
#pragma once

#include <string>

#include "core/model/expand.h"

namespace rm::test {

/// "part: sentence mend" of the first error; empty where there is none.
inline std::string firstError(const model::Design& design) {
    for (const auto& f : model::expand(design).findings)
        if (f.severity == model::Severity::Error) return f.part + ": " + f.sentence + " " + f.mend;
    return {};
}

}  // namespace rm::test
