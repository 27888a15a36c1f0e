// The whole pattern on a grid of directions, for the lobe in three dimensions and for files.
#pragma once

#include <vector>

#include "core/study/figures.h"

namespace rm::study {

/// Gain in dBi at rows of elevation (from the lowest, -90 or 0 over ground, to 90) and columns of azimuth
/// (from 0, without 360), both `stepDeg` apart.
struct LobeGrid {
    double stepDeg = 5.0;
    double lowestDeg = 0.0;
    int rows = 0;
    int columns = 0;
    std::vector<double> gainDbi;  ///< row after row

    double elevationDeg(int row) const { return lowestDeg + stepDeg * row; }
    double azimuthDeg(int column) const { return stepDeg * column; }
    double at(int row, int column) const {
        return gainDbi[static_cast<std::size_t>(row * columns + column % columns)];
    }
};

/// The step is brought to a whole part of 90 degrees. Rows are worked out side by side.
LobeGrid lobeGrid(const em::Mesh& mesh, const circuit::Reading& reading, double stepDeg,
                  Component component = Component::Total);

}  // namespace rm::study
