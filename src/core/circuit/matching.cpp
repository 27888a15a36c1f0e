#include "core/circuit/matching.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/words/words.h"

namespace rm::circuit {

namespace {

/// An element with this reactance (series) in ohm.
Element seriesFor(double reactanceOhm, double frequencyHz) {
    const double w = 2.0 * kPi * frequencyHz;
    if (reactanceOhm > 0.0) return {ElementKind::Inductor, reactanceOhm / w, false, {}};
    return {ElementKind::Capacitor, -1.0 / (w * reactanceOhm), false, {}};
}

/// An element with this susceptance (shunt) in siemens.
Element shuntFor(double susceptanceS, double frequencyHz) {
    const double w = 2.0 * kPi * frequencyHz;
    if (susceptanceS > 0.0) return {ElementKind::Capacitor, susceptanceS / w, true, {}};
    return {ElementKind::Inductor, -1.0 / (w * susceptanceS), true, {}};
}

std::string nameOf(const std::vector<Element>& elements) {
    std::string name;
    for (const auto& e : elements) {
        if (!name.empty()) name += say(", then ");
        name += e.shunt ? say("shunt ") : say("series ");
        name += e.kind == ElementKind::Inductor ? say("inductor") : say("capacitor");
    }
    return name;
}

LumpedMatch networkOf(std::vector<Element> elements) {
    return {nameOf(elements), std::move(elements)};
}

/// Wraps into [0, 0.5) wavelengths.
double half(double wavelengths) {
    const double r = std::fmod(wavelengths, 0.5);
    return r < 0.0 ? r + 0.5 : r;
}

}  // namespace

std::vector<LumpedMatch> lNetworks(Complex load, double targetOhm, double frequencyHz) {
    if (!(load.real() > 0.0)) throw Error(say("Only an impedance with some resistance can be matched."));
    std::vector<LumpedMatch> found;
    const double r = load.real();
    const double x = load.imag();
    const Complex y = 1.0 / load;
    const double g = y.real();
    const double tinyOhm = 1e-9 * targetOhm;
    // Already the right resistance: one series element takes the reactance away.
    if (std::abs(r - targetOhm) <= tinyOhm) {
        if (std::abs(x) > tinyOhm) found.push_back(networkOf({seriesFor(-x, frequencyHz)}));
    }
    if (std::abs(g * targetOhm - 1.0) <= 1e-9) {
        if (std::abs(y.imag()) * targetOhm > 1e-9)
            found.push_back(networkOf({shuntFor(-y.imag(), frequencyHz)}));
    }
    // Shunt across the load, series towards the target.
    const double under = g / targetOhm - g * g;
    if (under > 1e-12 * g * g)
        for (const double sign : {1.0, -1.0}) {
            const double total = sign * std::sqrt(under);
            const double shunt = total - y.imag();
            const double series = total / (g * g + total * total);
            if (std::abs(shunt) * targetOhm < 1e-9) continue;  // the series element alone does it
            found.push_back(networkOf({shuntFor(shunt, frequencyHz), seriesFor(series, frequencyHz)}));
        }
    // Series at the load, shunt across the target.
    const double over = r * targetOhm - r * r;
    if (over > 1e-12 * r * r)
        for (const double sign : {1.0, -1.0}) {
            const double total = sign * std::sqrt(over);
            const double series = total - x;
            const double shunt = total / (r * r + total * total);
            if (std::abs(series) < tinyOhm) continue;
            found.push_back(networkOf({seriesFor(series, frequencyHz), shuntFor(shunt, frequencyHz)}));
        }
    return found;
}

LumpedMatch threeElementNetwork(ThreeElements kind, double loadOhm, double targetOhm, double q,
                                double frequencyHz) {
    const double larger = std::max(loadOhm, targetOhm);
    const double smaller = std::min(loadOhm, targetOhm);
    if (!(smaller > 0.0)) throw Error(say("Only resistances above zero can be matched."));
    if (q * q < larger / smaller - 1.0)
        throw Error(say(
            "The Q of a pi or T network has to be at least the square root of the ratio of the resistances "
            "less one."));
    const bool pi = kind == ThreeElements::PiLowPass || kind == ThreeElements::PiHighPass;
    const bool low = kind == ThreeElements::PiLowPass || kind == ThreeElements::TLowPass;
    const double middle = pi ? larger / (1.0 + q * q) : smaller * (1.0 + q * q);
    const auto endQ = [&](double r) { return std::sqrt(pi ? r / middle - 1.0 : middle / r - 1.0); };
    const double qLoad = endQ(loadOhm);
    const double qTarget = endQ(targetOhm);
    // Low pass: inductors in series, capacitors across; high pass: the other way round.
    const double sign = low ? 1.0 : -1.0;
    std::vector<Element> elements;
    if (pi) {
        elements.push_back(shuntFor(sign * qLoad / loadOhm, frequencyHz));
        elements.push_back(seriesFor(sign * middle * (qLoad + qTarget), frequencyHz));
        elements.push_back(shuntFor(sign * qTarget / targetOhm, frequencyHz));
    } else {
        elements.push_back(seriesFor(sign * loadOhm * qLoad, frequencyHz));
        elements.push_back(shuntFor(sign * (qLoad + qTarget) / middle, frequencyHz));
        elements.push_back(seriesFor(sign * targetOhm * qTarget, frequencyHz));
    }
    return networkOf(std::move(elements));
}

LumpedMatch threeElementNetwork(ThreeElements kind, Complex load, double targetOhm, double q,
                                double frequencyHz) {
    const bool pi = kind == ThreeElements::PiLowPass || kind == ThreeElements::PiHighPass;
    const double w = 2.0 * kPi * frequencyHz;
    const Complex y = 1.0 / load;
    LumpedMatch match =
        threeElementNetwork(kind, pi ? 1.0 / y.real() : load.real(), targetOhm, q, frequencyHz);
    // What the load brings along is taken off the arm beside it.
    std::vector<Element>& elements = match.elements;
    const Element first = elements.front();
    const bool coil = first.kind == ElementKind::Inductor;
    const double own = coil ? w * first.value : -1.0 / (w * first.value);
    const double left = pi ? -1.0 / own - y.imag() : own - load.imag();
    elements.erase(elements.begin());
    if (std::abs(left) > 1e-9 * (pi ? 1.0 / targetOhm : targetOhm))
        elements.insert(elements.begin(), pi ? shuntFor(left, frequencyHz) : seriesFor(left, frequencyHz));
    return networkOf(std::move(elements));
}

std::vector<StubMatch> singleStubs(Complex load, double z0Ohm) {
    if (!(load.real() > 0.0)) throw Error(say("Only an impedance with some resistance can be matched."));
    const Complex gamma = (load - z0Ohm) / (load + z0Ohm);
    const double size = std::abs(gamma);
    std::vector<StubMatch> matches;
    if (size < 1e-12) return matches;
    for (const double sign : {1.0, -1.0}) {
        // y = 1 + jb on the circle of this |gamma|: gamma = -jb/(2 + jb).
        const double b = sign * 2.0 * size / std::sqrt(1.0 - size * size);
        const Complex there = -Complex(0.0, b) / Complex(2.0, b);
        StubMatch match;
        match.susceptance = b;
        match.distance = half((std::arg(gamma) - std::arg(there)) / (4.0 * kPi));
        match.openLength = half(std::atan(-b) / (2.0 * kPi));
        match.shortedLength = half(std::atan(1.0 / b) / (2.0 * kPi));
        matches.push_back(match);
    }
    std::sort(matches.begin(), matches.end(),
              [](const auto& a, const auto& b) { return a.distance < b.distance; });
    return matches;
}

std::vector<QuarterWaveMatch> quarterWaves(Complex load, double z0Ohm) {
    const Complex gamma = (load - z0Ohm) / (load + z0Ohm);
    const double size = std::abs(gamma);
    const double ratio = (1.0 + size) / (1.0 - size);
    const double toMaximum = half(std::arg(gamma) / (4.0 * kPi));
    const double toMinimum = half(std::arg(gamma) / (4.0 * kPi) + 0.25);
    return {{toMaximum, z0Ohm * ratio, z0Ohm * std::sqrt(ratio)},
            {toMinimum, z0Ohm / ratio, z0Ohm / std::sqrt(ratio)}};
}

double standardValue(double value, int perDecade) {
    static constexpr std::array<double, 24> kSteps = {1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0,
                                                      2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3,
                                                      4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1};
    if (!(value > 0.0)) return value;
    const std::size_t stride = perDecade <= 12 ? 2 : 1;
    double best = 0.0;
    for (const double decade : {std::floor(std::log10(value)), std::floor(std::log10(value)) + 1.0})
        for (std::size_t i = 0; i < kSteps.size(); i += stride) {
            const double candidate = kSteps[i] * std::pow(10.0, decade);
            if (best == 0.0 || std::abs(std::log(candidate / value)) < std::abs(std::log(best / value)))
                best = candidate;
        }
    return best;
}

}  // namespace rm::circuit
