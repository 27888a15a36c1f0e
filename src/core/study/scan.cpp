#include "core/study/scan.h"

#include <tbb/parallel_for.h>

#include <atomic>
#include <cmath>
#include <limits>

#include "core/stopped.h"
#include "core/study/lobes.h"
#include "core/study/varied.h"

namespace rm::study {

namespace {

double figureAt(const model::Expansion& expansion, double frequencyHz, const ScanQuantity& quantity,
                const std::stop_token& stop) {
    AnalysisOptions options;
    options.stop = stop;
    const auto a = analyse(expansion, frequencyHz, options);
    const Figures& f = a.figures;
    switch (quantity.figure) {
        case ScanFigure::Swr:
            return f.swr;
        case ScanFigure::Gain:
            return f.peak.gainDbi;
        case ScanFigure::FrontToRear:
            return f.frontToRearDb;
        case ScanFigure::FrontToBack:
            return f.frontToBackDb;
        case ScanFigure::Takeoff:
            return f.peak.direction.elevationDeg;
        case ScanFigure::Resistance:
            return f.antennaOhm.real();
        case ScanFigure::Reactance:
            return f.antennaOhm.imag();
        case ScanFigure::GroundShare:
            return 100.0 * f.groundShare;
        case ScanFigure::Beamwidth:
            return f.beamwidthDeg;
        case ScanFigure::SideLobe:
            return readCut(a.elevation).sideLobeDb().value_or(std::nan(""));
        case ScanFigure::GainAt:
            return a.elevation.at(quantity.angleDeg);
        default:
            return 100.0 * f.efficiency;
    }
}

}  // namespace

Scan scanFigure(const model::Design& design, double frequencyHz, ScanQuantity quantity, const ScanAxis& x,
                const ScanAxis& y, std::stop_token stop, const Progress& progress) {
    Scan scan{x, y, {}, false};
    const auto total = static_cast<std::size_t>(x.count) * static_cast<std::size_t>(y.count);
    scan.value.assign(total, std::numeric_limits<double>::quiet_NaN());
    // A name that is not there is said at once.
    withDimension(design, x.dimension, x.from);
    if (!y.dimension.empty()) withDimension(design, y.dimension, y.from);
    std::atomic<std::size_t> done{0};
    tbb::parallel_for(std::size_t{0}, total, [&](std::size_t i) {
        if (stop.stop_requested()) return;
        const int column = static_cast<int>(i % static_cast<std::size_t>(x.count));
        const int row = static_cast<int>(i / static_cast<std::size_t>(x.count));
        auto trial = withDimension(design, x.dimension, x.at(column));
        if (!y.dimension.empty()) trial = withDimension(trial, y.dimension, y.at(row));
        const auto expansion = model::expand(trial);
        if (expansion.usable()) {
            try {
                scan.value[i] = figureAt(expansion, frequencyHz, quantity, stop);
            } catch (const Error&) {
                // Stays without a value.
            } catch (const Stopped&) {
                return;
            }
        }
        if (progress) progress(static_cast<double>(++done) / static_cast<double>(total));
    });
    scan.complete = !stop.stop_requested();
    return scan;
}

}  // namespace rm::study
