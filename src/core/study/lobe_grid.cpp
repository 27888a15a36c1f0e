#include "core/study/lobe_grid.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/em/field_rings.h"

namespace rm::study {

LobeGrid lobeGrid(const em::Mesh& mesh, const circuit::Reading& reading, double stepDeg,
                  Component component) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const int quarter = std::max(1, static_cast<int>(std::lround(90.0 / std::max(0.1, stepDeg))));
    LobeGrid grid;
    grid.stepDeg = 90.0 / quarter;
    grid.lowestDeg = overGround ? 0.0 : -90.0;
    grid.rows = (overGround ? quarter : 2 * quarter) + 1;
    grid.columns = 4 * quarter;
    grid.gainDbi.resize(static_cast<std::size_t>(grid.rows * grid.columns));
    // Several rows at once: the sums over the currents are set up for each call.
    constexpr int kRowsAtOnce = 8;
    const int blocks = (grid.rows + kRowsAtOnce - 1) / kRowsAtOnce;
    tbb::parallel_for(0, blocks, [&](int block) {
        const int from = block * kRowsAtOnce;
        const int to = std::min(grid.rows, from + kRowsAtOnce);
        std::vector<em::Ring> rings;
        for (int row = from; row < to; ++row) rings.push_back({grid.elevationDeg(row), grid.columns});
        const auto fields = em::fieldRings(mesh, reading.localCurrent, reading.frequencyHz, rings);
        for (std::size_t i = 0; i < fields.size(); ++i)
            grid.gainDbi[static_cast<std::size_t>(from * grid.columns) + i] =
                em::gainDbi(partOf(fields[i], component), reading.inputPowerW);
    });
    return grid;
}

}  // namespace rm::study
