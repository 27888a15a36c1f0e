// What the band instrument shows, in the small and in the large: one value, handed to both.
#pragma once

#include <QColor>
#include <QString>
#include <optional>
#include <vector>

#include "app/session/band_quantity.h"
#include "app/session/results.h"
#include "core/study/resonance.h"

namespace rm::app {

/// A measurement as both ends of the feed path would show it.
struct MeasuredCurve {
    QString name;
    std::size_t index = 0;  ///< among the measurements of the design
    study::MeasuredPlanes planes;

    const std::vector<model::MeasuredPoint>& at(study::Plane plane) const {
        return plane == study::Plane::Radio ? planes.radio : planes.antenna;
    }
};

struct BandData {
    QString title;
    model::Band band;  ///< that is shown, with its spot frequencies
    SweepPtr sweep;
    ExpansionPtr expansion;
    PatternSweepPtr patterns;  ///< null while nobody asked for them
    std::vector<MeasuredCurve> measured;
    PinsPtr pins;
    std::optional<study::Resonance> resonance;  ///< that was asked for
    model::SwrLimits limits = model::kUsualSwrLimits;
    double workingHz = 0.0;
};

/// What the band instrument shows of the results, which have a sweep; `resonance` is one that was asked for.
BandData bandData(const Results& results, const std::optional<study::Resonance>& resonance);

/// What a point of a curve shows of an impedance: SWR, return loss or phase of the reflection in degrees.
double valueOf(BandQuantity quantity, Complex ohm, double referenceOhm);

}  // namespace rm::app
