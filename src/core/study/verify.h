// Solves reference cases at the default mesh and holds the results against their expected values.
#pragma once

#include <string>
#include <vector>

#include "core/em/mesh.h"
#include "core/project/reference_cases.h"

namespace rm::study {

enum class Verdict { Pass, Fail, NoExpectation };

struct CaseResult {
    std::string name;
    Verdict verdict = Verdict::NoExpectation;
    std::string reason;  ///< for a failure: what is outside its tolerance
    std::vector<Complex> impedanceOhm;
    std::vector<double> gainDbi;  ///< per look direction
    double maxDbi = 0.0;
    double averageGain = 0.0;
    std::size_t unknowns = 0;
    double seconds = 0.0;
    double impedanceErrorOhm = 0.0;  ///< largest over the feeds
    double gainErrorDb = 0.0;        ///< largest over the directions that count and the maximum
    double powerBalance = 0.0;       ///< (radiated + loss)/input - 1
};

/// Lossless cases must have an average gain within this of one.
inline constexpr double kAverageGainTolerance = 0.002;

CaseResult verifyCase(const io::ReferenceCase& reference, const em::MeshOptions& options = {});

}  // namespace rm::study
