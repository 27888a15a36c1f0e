// What a check has to say about a design: one sentence, and what to do about it.
#pragma once

#include <string>
#include <vector>

namespace rm::model {

enum class Severity { Note, Warning, Error };

struct Finding {
    Severity severity = Severity::Warning;
    std::string part;      ///< name of the part, dimension, feed or load it is about
    std::string sentence;  ///< what is wrong, naming the part
    std::string mend;      ///< what to do
};

inline bool hasError(const std::vector<Finding>& findings) {
    for (const auto& finding : findings)
        if (finding.severity == Severity::Error) return true;
    return false;
}

}  // namespace rm::model
