// What is wrong with a design, for tests.
#pragma once

#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::test {

/// "part: sentence mend" of the first error; empty where there is none.
inline std::string firstError(const model::Design& design) {
    for (const auto& f : model::expand(design).findings)
        if (f.severity == model::Severity::Error) return f.part + ": " + f.sentence + " " + f.mend;
    return {};
}

/// All of it, for the message of a test.
inline std::string allSentences(const std::vector<model::Finding>& findings) {
    std::string all;
    for (const auto& f : findings) all += f.part + ": " + f.sentence + " " + f.mend + "\n";
    return all;
}

inline bool hasSentence(const std::vector<model::Finding>& findings, const std::string& words) {
    return allSentences(findings).find(words) != std::string::npos;
}

}  // namespace rm::test
