// A figure over one or two dimensions.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/study/sweep.h"

namespace rm::study {

/// One dimension of a scan.
struct ScanAxis {
    std::string dimension;
    double from = 0.0;
    double to = 1.0;
    int count = 11;
    double at(int i) const { return count == 1 ? from : from + (to - from) * i / (count - 1); }
};

enum class ScanFigure {
    Swr,
    Gain,
    FrontToRear,
    FrontToBack,
    Takeoff,
    Resistance,
    Reactance,
    Efficiency,   ///< percent
    GroundShare,  ///< percent of the input power
    Beamwidth,    ///< degrees, in azimuth
    SideLobe,     ///< of the elevation cut, dB relative to its maximum; not a number where there is none
    GainAt        ///< dBi at an elevation, towards the strongest lobe
};

struct ScanQuantity {
    ScanFigure figure = ScanFigure::Swr;
    double angleDeg = 10.0;  ///< of GainAt

    ScanQuantity(ScanFigure which, double angle = 10.0) : figure(which), angleDeg(angle) {}
};

/// Values of a figure over one dimension, or over two: `value[j * x.count + i]`; not a number where the
/// antenna cannot be worked out.
struct Scan {
    ScanAxis x;
    ScanAxis y;  ///< count 1 where only one dimension is scanned
    std::vector<double> value;
    bool complete = false;
};

Scan scanFigure(const model::Design& design, double frequencyHz, ScanQuantity quantity, const ScanAxis& x,
                const ScanAxis& y = {"", 0.0, 0.0, 1}, std::stop_token stop = {},
                const Progress& progress = {});

}  // namespace rm::study
