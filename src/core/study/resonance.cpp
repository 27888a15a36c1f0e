#include "core/study/resonance.h"

#include <fmt/format.h>

#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <functional>

#include "core/quantity/format.h"
#include "core/stopped.h"
#include "core/study/figures.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// Zero of `f` between a and b, where it changes sign, to a relative tolerance.
double rootBetween(const std::function<double(double)>& f, double a, double fa, double b, double fb) {
    if (a > b) {
        std::swap(a, b);
        std::swap(fa, fb);
    }
    if (fa == 0.0) return a;
    if (fb == 0.0) return b;
    std::uintmax_t iterations = 60;
    const auto close = [](double x, double y) { return std::abs(x - y) < 1e-9 * std::abs(x + y); };
    const auto bracket = boost::math::tools::toms748_solve(f, a, b, fa, fb, close, iterations);
    return 0.5 * (bracket.first + bracket.second);
}

/// Nearest zero of f to x0 on a logarithmic walk both ways; nothing within a factor of `reach`.
std::optional<double> nearestZero(const std::function<double(double)>& f, double x0, double step,
                                  double reach) {
    double up = x0;
    double down = x0;
    double fUp = f(x0);
    double fDown = fUp;
    while (up < x0 * reach) {
        const double nextUp = up * (1.0 + step);
        const double fNextUp = f(nextUp);
        if (std::signbit(fNextUp) != std::signbit(fUp)) return rootBetween(f, up, fUp, nextUp, fNextUp);
        const double nextDown = down / (1.0 + step);
        const double fNextDown = f(nextDown);
        if (std::signbit(fNextDown) != std::signbit(fDown))
            return rootBetween(f, down, fDown, nextDown, fNextDown);
        up = nextUp;
        fUp = fNextUp;
        down = nextDown;
        fDown = fNextDown;
        step *= 1.1;
    }
    return std::nullopt;
}

Complex impedanceAt(const model::Expansion& design, double frequencyHz, const std::stop_token& stop) {
    endWhere(stop);
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(design.model, frequencyHz));
    return antennaImpedance(design.model, mesh, frequencyHz, stop);
}

/// The design with its chosen dimensions multiplied, exactly: a number in metres.
model::Design multiplied(const model::Design& design, const std::vector<std::string>& names,
                         const std::map<std::string, double>& values, double factor, bool asTyped) {
    model::Design scaled = design;
    for (auto& d : scaled.dimensions) {
        if (std::find(names.begin(), names.end(), d.name) == names.end()) continue;
        const double metres = values.at(d.name) * factor;
        d.text = asTyped ? quantity::lengthLike(d.text, metres) : fmt::format("{:.12g} m", metres);
        for (std::string* limit : {&d.low, &d.high})
            if (quantity::isPlainNumber(*limit))
                *limit = quantity::lengthLike(
                    *limit, quantity::evaluate(*limit, quantity::Kind::Length, {}) * factor);
    }
    return scaled;
}

}  // namespace

std::optional<Resonance> findResonance(const model::Expansion& design, double nearHz, std::stop_token stop) {
    requireUsable(design);
    try {
        const auto reactance = [&](double f) { return impedanceAt(design, f, stop).imag(); };
        const auto found = nearestZero(reactance, nearHz, 0.004, 2.0);
        if (!found) return std::nullopt;
        return Resonance{*found, impedanceAt(design, *found, stop)};
    } catch (const Stopped&) {
        return std::nullopt;
    }
}

std::vector<std::string> scalableDimensions(const model::Design& design) {
    std::vector<std::string> names;
    for (const auto& d : design.dimensions)
        if (d.kind == model::DimensionKind::Length && quantity::isPlainNumber(d.text))
            names.push_back(d.name);
    return names;
}

/// How far from a resonance the target may lie, in nepers of frequency, to be a correction of that one.
constexpr double kCorrection = 0.1;

Scaled scaleToFrequency(const model::Design& design, const std::vector<std::string>& dimensions,
                        double targetHz, std::stop_token stop) {
    const auto allowed = scalableDimensions(design);
    if (dimensions.empty())
        throw Error(say("There is nothing to scale: choose at least one dimension that is a plain length."));
    for (const auto& name : dimensions)
        if (std::find(allowed.begin(), allowed.end(), name) == allowed.end())
            throw Error(say("{} cannot be scaled: it is not a plain length.", name));
    const model::Expansion original = model::expand(design);
    requireUsable(original);
    // The one that is meant: close to the target it is to be corrected; farther off the antenna goes to
    // another frequency, and what is at its own is to be there.
    auto before = findResonance(original, targetHz, stop);
    if (!before || std::abs(std::log(before->frequencyHz / targetHz)) > kCorrection)
        if (const auto own = findResonance(original, original.designFrequencyHz, stop)) before = own;
    if (stop.stop_requested()) throw Error(say("Scaling was stopped."));
    if (!before)
        throw Error(say("No resonance within a factor of two of {}: set the lengths roughly first.",
                        quantity::formatFrequency(targetHz)));
    const auto reactance = [&](double factor) {
        const auto scaled =
            model::expand(multiplied(design, dimensions, original.dimensionValue, factor, false));
        requireUsable(scaled);
        return impedanceAt(scaled, targetHz, stop).imag();
    };
    try {
        const auto factor = nearestZero(reactance, before->frequencyHz / targetHz, 0.002, 1.5);
        if (!factor)
            throw Error(say("Scaling {} alone does not bring resonance to {}.", fmt::join(dimensions, ", "),
                            quantity::formatFrequency(targetHz)));
        Scaled result;
        result.factor = *factor;
        result.before = *before;
        result.design = multiplied(design, dimensions, original.dimensionValue, *factor, true);
        // Reported for the values as they were written, rounded to what a tape can tell.
        const auto final = model::expand(result.design);
        const auto after = findResonance(final, targetHz, stop);
        if (!after) throw Stopped();
        result.after = *after;
        return result;
    } catch (const Stopped&) {
        throw Error(say("Scaling was stopped."));
    }
}

}  // namespace rm::study
