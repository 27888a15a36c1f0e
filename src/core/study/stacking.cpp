#include "core/study/stacking.h"
#include "core/stopped.h"
#include "core/words/words.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <atomic>
#include <cmath>

namespace rm::study {

namespace {

/// The antenna by itself: no ground, nothing beside it that the stack does not multiply.
model::Design alone(const model::Design& design, std::size_t copy) {
    if (copy >= design.copies.size() || design.copies[copy].kind != model::CopyKind::Stack)
        throw Error(say("Choose a stack first."));
    model::Design one = design;
    one.site.ground = model::GroundKind::FreeSpace;
    one.driveSet = -1;
    const auto& of = design.copies[copy].parts;
    for (auto& part : one.parts)
        if (!of.empty() && std::find(of.begin(), of.end(), part.name) == of.end()) part.enabled = false;
    const auto isOff = [&](const std::string& name) {
        return std::any_of(one.parts.begin(), one.parts.end(),
                           [&](const auto& p) { return !p.enabled && p.name == name; });
    };
    std::erase_if(one.feeds, [&](const auto& feed) { return isOff(feed.part); });
    std::erase_if(one.loads, [&](const auto& load) { return isOff(load.part); });
    return one;
}

/// The cut in the upright plane through the strongest lobe, or the level one.
CutFigures planeCut(const Analysis& a, bool upright) {
    if (upright) return readCut(a.elevation);
    return readCut(azimuthCut(*a.mesh, a.reading, a.figures.peak.direction.elevationDeg, 1.0));
}

}  // namespace

double stackingSpacingM(double beamwidthDeg, double lambdaM) {
    return lambdaM / (2.0 * std::sin(0.5 * beamwidthDeg * kDegree));
}

StackingAdvice adviseStacking(const model::Design& design, std::size_t copy, double frequencyHz) {
    auto one = alone(design, copy);
    one.copies.erase(one.copies.begin() + static_cast<std::ptrdiff_t>(copy), one.copies.end());
    // Feeds and lines on one of the copies have lost their place; those of the part itself say enough.
    std::erase_if(one.feeds, [&](const auto& feed) {
        return std::none_of(one.parts.begin(), one.parts.end(),
                            [&](const auto& p) { return p.name == feed.part; });
    });
    one.lines.clear();
    one.harness.enabled = false;
    const Analysis a = analyse(model::expand(one), frequencyHz);
    StackingAdvice advice;
    const double lambda = wavelengthM(frequencyHz);
    const auto read = [&](bool upright, double& width, std::optional<double>& spacing) {
        const auto beamwidth = planeCut(a, upright).beamwidthDeg();
        if (!beamwidth || *beamwidth >= 180.0) return;
        width = *beamwidth;
        spacing = stackingSpacingM(width, lambda);
    };
    read(true, advice.rowBeamwidthDeg, advice.rowSpacingM);
    read(false, advice.columnBeamwidthDeg, advice.columnSpacingM);
    return advice;
}

std::vector<StackingPoint> scanStacking(const model::Design& design, std::size_t copy, double frequencyHz,
                                        double fromM, double toM, int count, std::stop_token stop,
                                        const Progress& progress) {
    const auto base = alone(design, copy);
    const bool rows = base.copies[copy].rows != "1";
    std::vector<StackingPoint> points(static_cast<std::size_t>(count));
    std::atomic<int> done{0};
    AnalysisOptions options;
    options.stop = stop;
    const auto workOut = [&](int i) {
        auto trial = base;
        StackingPoint p;
        p.spacingM = fromM + (toM - fromM) * i / std::max(1, count - 1);
        (rows ? trial.copies[copy].rowSpacing : trial.copies[copy].columnSpacing) =
            fmt::format("{:.9g} m", p.spacingM);
        const auto expansion = model::expand(trial);
        if (!expansion.usable()) return;
        const Analysis a = analyse(expansion, frequencyHz, options);
        p.gainDbi = a.figures.peak.gainDbi;
        p.sideLobeDb = planeCut(a, rows).sideLobeDb();
        points[static_cast<std::size_t>(i)] = p;
        if (progress) progress(static_cast<double>(++done) / count);
    };
    tbb::parallel_for(0, count, [&](int i) { unlessStopped(stop, [&] { workOut(i); }); });
    std::erase_if(points, [](const StackingPoint& p) { return p.spacingM == 0.0; });
    return points;
}

}  // namespace rm::study
