// Reads a cut of a pattern: its strongest lobe with the half-power points, nulls, and the largest side lobe.
#pragma once

#include <optional>
#include <vector>

#include "core/model/design.h"
#include "core/study/figures.h"

namespace rm::study {

struct Lobe {
    double angleDeg = 0.0;
    double gainDbi = 0.0;
};

struct CutFigures {
    Lobe maximum;
    /// Where the main lobe has fallen by 3.01 dB on its two sides; nothing where it does not, or where the
    /// cut ends before.
    std::optional<double> lowDeg;
    std::optional<double> highDeg;
    std::vector<Lobe> nulls;       ///< minima at least 10 dB below the maximum and 3 dB below both neighbours
    std::optional<Lobe> sideLobe;  ///< largest lobe beside the main one
    std::optional<double> sideLobeDb() const {
        if (!sideLobe) return std::nullopt;
        return sideLobe->gainDbi - maximum.gainDbi;
    }
    std::optional<double> beamwidthDeg() const {
        if (!lowDeg || !highDeg) return std::nullopt;
        return *highDeg - *lowDeg;
    }
};

/// A lobe counts where it stands at least half a dB over the minima beside it. Angles between the samples by
/// a parabola. A cut all round is closed.
CutFigures readCut(const Cut& cut);

/// Elevations from the horizon that reach the wanted distances in one hop off the layer; low first. Nothing
/// where none are wanted, or one hop does not reach the nearest of them.
struct AngleRange {
    double lowDeg = 0.0;
    double highDeg = 90.0;
};
std::optional<AngleRange> neededAngles(const model::Angles& angles);

/// Mean of the gain (as a ratio) over a range of elevations in front, in dBi.
double meanGainDbi(const Cut& elevation, const AngleRange& range);

}  // namespace rm::study
