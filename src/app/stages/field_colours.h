// A map of the field as a picture.
#pragma once

#include <QImage>
#include <optional>

#include "app/look/theme.h"
#include "app/session/near_look.h"

namespace rm::app {

/// What the colours of a map mean: from `low` to `high`, in even steps of the value or of its logarithm; with
/// a sign, from minus `high` over nothing to `high`.
struct FieldScale {
    double low = 0.0;
    double high = 1.0;
    bool even = false;
    bool sign = false;

    /// 0 to 1 along the colours.
    double share(double value) const;
    double valueAt(double share) const;
};

/// The largest value but for the few next to wires, and what is 40 dB below it.
FieldScale fieldScale(const study::FieldMap& map, const NearLook& look, bool sign);

/// Colours that get darker by day and lighter by night the stronger the field is.
QColor fieldColour(const Theme& theme, double share, bool sign);

/// A pixel for every point of the map, row 0 at the bottom; at a phase of the period in rad, or its rms or
/// peak values. `alpha` of 255.
QImage fieldImage(const study::FieldMap& map, const NearLook& look, const FieldScale& scale,
                  const Theme& theme, std::optional<double> phase = {}, int alpha = 255);

}  // namespace rm::app
