#include "core/build/winding.h"

#include <cmath>

#include "core/common.h"

namespace rm::build {

namespace {

constexpr double kWireM = 0.0015;
constexpr double kPitch = 2.0;       ///< of the wire
constexpr double kNeighbours = 2.0;  ///< what turns do to each other's resistance
constexpr double kCopperSm = 5.96e7;
constexpr double kMu0 = 4e-7 * kPi;

}  // namespace

double inductanceOf(double meanDiameterM, double turns, double lengthM) {
    // In metres: L/uH = 39.37 a^2 n^2/(9 a + 10 l).
    const double a = 0.5 * meanDiameterM;
    return 1e-6 / 0.0254 * a * a * turns * turns / (9.0 * a + 10.0 * lengthM);
}

const std::vector<double>& formers() {
    static const std::vector<double> all = {0.016, 0.02,  0.025, 0.032, 0.04,  0.05,
                                            0.063, 0.075, 0.09,  0.11,  0.125, 0.16};
    return all;
}

Winding windingOn(double formerM, double inductanceH, double frequencyHz) {
    Winding w;
    w.inductanceH = inductanceH;
    w.formerM = formerM;
    w.wireM = kWireM;
    w.pitchM = kPitch * kWireM;
    // inductanceOf with length n p solved for n; a is the radius to the middle of the wire.
    const double a = 0.5 * (formerM + w.wireM);
    const double microhenry = 1e6 * inductanceH;
    const double k = a * a / 0.0254;
    const double b = 10.0 * w.pitchM * microhenry;
    w.turns = (b + std::sqrt(b * b + 36.0 * k * a * microhenry)) / (2.0 * k);
    w.lengthM = w.turns * w.pitchM;
    w.wireLengthM = w.turns * std::hypot(2.0 * kPi * a, w.pitchM);
    const double wide = 200.0 * a;  // cm
    const double slender = w.lengthM / (2.0 * a);
    const double farad = 1e-12 * wide * (0.1126 * slender + 0.08 + 0.27 / std::sqrt(slender));
    w.resonanceHz = 1.0 / (2.0 * kPi * std::sqrt(inductanceH * farad));
    const double skin = 1.0 / std::sqrt(kPi * frequencyHz * kMu0 * kCopperSm);
    const double ohm = kNeighbours * w.wireLengthM / (kCopperSm * kPi * w.wireM * skin);
    w.q = 2.0 * kPi * frequencyHz * inductanceH / ohm;
    return w;
}

Winding windingFor(double inductanceH, double frequencyHz) {
    return onBestFormer([&](double former) { return windingOn(former, inductanceH, frequencyHz); },
                        [](const Winding& w) { return w.lengthM; });
}

double nearestE24(double value) {
    constexpr double kSeries[] = {1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3,
                                  3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1, 10.0};
    if (!(value > 0.0)) return value;
    const double decade = std::pow(10.0, std::floor(std::log10(value)));
    double best = decade;
    for (const double one : kSeries)
        if (std::abs(std::log(one * decade / value)) < std::abs(std::log(best / value))) best = one * decade;
    return best;
}

}  // namespace rm::build
