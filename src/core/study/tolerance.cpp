#include "core/study/tolerance.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <random>

#include "core/model/soils.h"
#include "core/quantity/formula.h"
#include "core/study/lobes.h"
#include "core/study/tune.h"

namespace rm::study {

namespace {

std::string textOf(model::DimensionKind kind, double value) {
    return fmt::format("{:.12g}{}", value,
                       kind == model::DimensionKind::Length  ? " m"
                       : kind == model::DimensionKind::Angle ? " deg"
                                                             : "");
}

/// Frequency where the reactance goes through zero, nearest to the one given, within 15 % of it.
double resonanceNear(const model::Expansion& expansion, double frequencyHz) {
    const auto found = sweep(expansion, 0.85 * frequencyHz, 1.15 * frequencyHz, 61).resonancesHz();
    if (found.empty()) return 0.0;
    return *std::min_element(found.begin(), found.end(), [&](double a, double b) {
        return std::abs(a - frequencyHz) < std::abs(b - frequencyHz);
    });
}

double shareOf(std::vector<double> values, double share) {
    const auto at = static_cast<std::ptrdiff_t>(std::lround(share * static_cast<double>(values.size() - 1)));
    std::nth_element(values.begin(), values.begin() + at, values.end());
    return values[static_cast<std::size_t>(at)];
}

/// A typed value times a factor.
std::string scaled(const std::string& text, double factor) {
    return text.empty() ? text : fmt::format("({})*{:.9g}", text, factor);
}

model::Design erred(const model::Design& design, const BuildErrors& errors, std::mt19937& random) {
    std::normal_distribution<double> normal;
    model::Design d = design;
    const auto scope = model::scopeOf(design);
    for (auto& dimension : d.dimensions) {
        const auto& only = errors.only;
        const double by = normal(random);
        if (!only.empty() && std::find(only.begin(), only.end(), dimension.name) == only.end()) continue;
        const double error = dimension.kind == model::DimensionKind::Length  ? errors.lengthM
                             : dimension.kind == model::DimensionKind::Angle ? errors.angleDeg
                                                                             : 0.0;
        const auto value = scope.values.find(dimension.name);
        // What follows by a formula errs with what it follows from.
        if (error > 0.0 && value != scope.values.end() && quantity::isPlainNumber(dimension.text))
            dimension.text = textOf(dimension.kind, value->second + error * by);
    }
    for (auto& part : d.parts) {
        const double factor = std::max(0.2, 1.0 + errors.diameterShare * normal(random));
        if (quantity::isPlainNumber(part.conductor.diameter))
            part.conductor.diameter = scaled(part.conductor.diameter, factor);
    }
    const double lift = errors.heightM * normal(random);
    if (errors.heightM > 0.0) d.site.height = fmt::format("({}) + {:.9g} m", d.site.height, lift);
    const double wet = std::exp(errors.groundShare * normal(random));
    if (errors.groundShare > 0.0 && d.site.ground == model::GroundKind::Real) {
        // A soil with a name becomes one of its own figures.
        if (const model::Soil* soil = model::findSoil(d.site.soil)) {
            d.site.soil = model::kCustomSoil;
            d.site.conductivity = fmt::format("{:.9g}", soil->conductivitySm);
            d.site.permittivity = fmt::format("{:.9g}", soil->relativePermittivity);
        }
        d.site.conductivity = scaled(d.site.conductivity, wet);
        d.site.permittivity = scaled(d.site.permittivity, std::sqrt(wet));
    }
    return d;
}

double figureAt(const model::Expansion& expansion, double frequencyHz, const ScanQuantity& quantity) {
    const auto a = analyse(expansion, frequencyHz);
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

model::Design withDimension(const model::Design& design, const std::string& name, double value) {
    model::Design d = design;
    for (auto& dimension : d.dimensions)
        if (dimension.name == name) {
            dimension.text = textOf(dimension.kind, value);
            return d;
        }
    throw Error(fmt::format("There is no dimension named \"{}\".", name));
}

BuildErrors readErrors(const ErrorTexts& texts) {
    const auto read = [](std::string typed, quantity::Kind kind, const char* what) {
        const auto percent = typed.find('%');
        if (percent != std::string::npos) typed.erase(percent);
        double value = 0.0;
        try {
            value = quantity::evaluate(typed, kind, {});
        } catch (const Error& e) {
            throw Error(fmt::format("The error of the {}: {}", what, e.what()));
        }
        if (!(value >= 0.0)) throw Error(fmt::format("The error of the {} has to be zero or more.", what));
        return percent != std::string::npos ? value / 100.0 : value;
    };
    using quantity::Kind;
    BuildErrors errors;
    errors.lengthM = read(texts.length, Kind::Length, "lengths");
    errors.angleDeg = read(texts.angle, Kind::Angle, "angles");
    errors.diameterShare = read(texts.diameter, Kind::Number, "diameters");
    errors.heightM = read(texts.height, Kind::Length, "height");
    errors.groundShare = read(texts.ground, Kind::Number, "ground");
    if (errors.diameterShare > 0.5)
        throw Error("The error of the diameters is above half: type it in percent, as 2 %.");
    return errors;
}

std::vector<Sensitivity> studySensitivity(const model::Design& design, double frequencyHz,
                                          SensitivityStep step, std::stop_token stop) {
    const auto here = model::expand(design);
    requireUsable(here);
    std::vector<Sensitivity> rows;
    for (const auto& dimension : design.dimensions) {
        if (!quantity::isPlainNumber(dimension.text)) continue;
        Sensitivity row;
        row.dimension = dimension.name;
        row.kind = dimension.kind;
        const double value = here.dimensionValue.at(dimension.name);
        const double percent = 0.01 * std::max(1e-6, std::abs(value));
        row.step = dimension.kind == model::DimensionKind::Angle ? 1.0
                   : dimension.kind == model::DimensionKind::Number || step == SensitivityStep::Percent
                       ? percent
                   : step == SensitivityStep::Centimetre ? 1e-2
                                                         : 1e-3;
        rows.push_back(row);
    }
    tbb::parallel_for(std::size_t{0}, rows.size(), [&](std::size_t i) {
        if (stop.stop_requested()) return;
        Sensitivity& row = rows[i];
        const double value = here.dimensionValue.at(row.dimension);
        const auto back = model::expand(withDimension(design, row.dimension, value - row.step));
        const auto further = model::expand(withDimension(design, row.dimension, value + row.step));
        if (!back.usable() || !further.usable()) return;
        const Figures a = analyse(back, frequencyHz).figures;
        const Figures b = analyse(further, frequencyHz).figures;
        row.swr = 0.5 * (b.swr - a.swr);
        row.gainDb = 0.5 * (b.peak.gainDbi - a.peak.gainDbi);
        row.frontToRearDb = 0.5 * (b.frontToRearDb - a.frontToRearDb);
        const double low = resonanceNear(back, frequencyHz);
        const double high = resonanceNear(further, frequencyHz);
        if (low > 0.0 && high > 0.0) row.resonanceHz = 0.5 * (high - low);
    });
    std::stable_sort(rows.begin(), rows.end(), [](const Sensitivity& a, const Sensitivity& b) {
        return std::abs(a.swr) > std::abs(b.swr);
    });
    return rows;
}

Tolerance studyTolerance(const model::Design& design, const std::vector<model::Band>& bands, double lowHz,
                         double highHz, int builds, const BuildErrors& errors, unsigned seed,
                         std::stop_token stop, const Progress& progress) {
    requireUsable(model::expand(design));
    constexpr int kPoints = 21;
    // Errors are drawn one after the other, so that the seed alone decides them.
    std::mt19937 random(seed);
    std::vector<model::Design> built;
    for (int i = 0; i < builds; ++i) built.push_back(erred(design, errors, random));
    const bool goals = std::any_of(design.tune.goals.begin(), design.tune.goals.end(),
                                   [](const model::Goal& g) { return g.enabled; });
    struct One {
        std::vector<double> swr;
        bool meets = false;
        std::vector<GoalState> states;
    };
    std::vector<One> all(built.size());
    std::atomic<int> done{0};
    tbb::parallel_for(std::size_t{0}, built.size(), [&](std::size_t i) {
        if (stop.stop_requested()) return;
        const auto expansion = model::expand(built[i]);
        if (!expansion.usable()) return;
        const auto swept = sweep(expansion, lowHz, highHz, kPoints, stop);
        if (!swept.complete) return;
        for (const auto& p : swept.points) all[i].swr.push_back(p.swr);
        if (goals) {
            all[i].states = readGoals(built[i], bands, 7);
            all[i].meets = allMet(all[i].states);
        }
        if (progress) progress(static_cast<double>(++done) / builds);
    });
    std::erase_if(all, [](const One& one) { return one.swr.empty(); });
    Tolerance t;
    t.builds = static_cast<int>(all.size());
    t.meeting =
        goals ? static_cast<int>(std::count_if(all.begin(), all.end(), [](const One& o) { return o.meets; }))
              : -1;
    std::vector<double> worst;
    for (const auto& one : all) worst.push_back(*std::max_element(one.swr.begin(), one.swr.end()));
    if (!worst.empty()) t.mostOfNine = shareOf(worst, 0.9);
    for (std::size_t g = 0; !all.empty() && g < all[0].states.size(); ++g) {
        if (all[0].states[g].most) continue;
        const auto met =
            std::count_if(all.begin(), all.end(), [g](const One& o) { return o.states[g].met(); });
        t.each.emplace_back(all[0].states[g].sentence, static_cast<int>(met));
    }
    for (const auto& p : sweep(model::expand(design), lowHz, highHz, kPoints).points)
        t.drawnSwr.push_back(p.swr);
    for (int p = 0; p < kPoints && !all.empty(); ++p) {
        std::vector<double> here;
        for (const auto& one : all) here.push_back(one.swr[static_cast<std::size_t>(p)]);
        t.hz.push_back(lowHz + (highHz - lowHz) * p / (kPoints - 1));
        t.lowSwr.push_back(shareOf(here, 0.05));
        t.middleSwr.push_back(shareOf(here, 0.5));
        t.highSwr.push_back(shareOf(here, 0.95));
    }
    return t;
}

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
                scan.value[i] = figureAt(expansion, frequencyHz, quantity);
            } catch (const Error&) {
                // Stays without a value.
            }
        }
        if (progress) progress(static_cast<double>(++done) / static_cast<double>(total));
    });
    scan.complete = !stop.stop_requested();
    return scan;
}

}  // namespace rm::study
