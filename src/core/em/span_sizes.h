// How long the spans of a stretch are: short where the charge changes fast, growing from there.
#pragma once

#include <vector>

#include "core/em/stretches.h"

namespace rm::em {

/// The spans of a stretch in order along it.
struct SpanSizes {
    std::vector<double> lengthsM;  ///< together as long as the stretch
    bool startFunction = false;    ///< the first carries the function of an open end
    bool endFunction = false;      ///< the last does
};

/// Cuts one stretch of those: gap spans at its ends, spans that grow away from them, equal spans between.
SpanSizes spanSizes(const model::WireModel& model, const Stretches& laid, const Stretch& stretch,
                    const Wavelengths& wavelengths, const MeshOptions& options);

}  // namespace rm::em
