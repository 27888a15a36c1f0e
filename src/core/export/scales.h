// Scales of drawings.
#pragma once

namespace rm::io {

/// The next scale that rulers have, as the m of 1 : m, for so many metres to a millimetre of paper.
inline double scaleFor(double metresPerMm) {
    for (double power = 1.0; power < 1e7; power *= 10.0)
        for (const double m : {1.0, 2.0, 2.5, 5.0})
            if (m * power >= 1000.0 * metresPerMm) return m * power;
    return 1000.0 * metresPerMm;
}

}  // namespace rm::io
