#include "core/study/lobes.h"

#include <algorithm>
#include <cmath>

#include "core/study/hop.h"

namespace rm::study {

namespace {

constexpr double kLobeStandsDb = 0.5;
constexpr double kNullBelowMaxDb = 10.0;
constexpr double kNullBelowLobesDb = 3.0;
constexpr double kDeepestDbi = -80.0;  ///< deeper nulls are as deep

/// The samples of a cut as a line or, all round, as a circle without its repeated end.
class Samples {
  public:
    explicit Samples(const Cut& cut) : cut_(cut) {
        closed_ = cut.angleDeg.size() > 2 && cut.angleDeg.back() - cut.angleDeg.front() > 350.0;
        count_ = static_cast<int>(cut.angleDeg.size()) - (closed_ ? 1 : 0);
        step_ = (cut.angleDeg.back() - cut.angleDeg.front()) / static_cast<double>(cut.angleDeg.size() - 1);
    }
    int count() const { return count_; }
    bool closed() const { return closed_; }
    bool has(int i) const { return closed_ || (i >= 0 && i < count_); }
    double gain(int i) const {
        return std::max(kDeepestDbi, cut_.gainDbi[static_cast<std::size_t>(wrapped(i))]);
    }
    /// Goes on past the ends of a circle.
    double angle(double i) const { return cut_.angleDeg.front() + step_ * i; }

    /// Vertex of the parabola through a sample and its neighbours.
    Lobe vertex(int i) const {
        if (!has(i - 1) || !has(i + 1)) return {angle(i), gain(i)};
        const double a = gain(i - 1);
        const double b = gain(i);
        const double c = gain(i + 1);
        const double curve = a - 2.0 * b + c;
        const double shift = curve == 0.0 ? 0.0 : std::clamp(0.5 * (a - c) / curve, -0.5, 0.5);
        return {angle(i + shift), b - 0.25 * (a - c) * shift};
    }

  private:
    int wrapped(int i) const {
        return closed_ ? ((i % count_) + count_) % count_ : std::clamp(i, 0, count_ - 1);
    }

    const Cut& cut_;
    int count_ = 0;
    bool closed_ = false;
    double step_ = 1.0;
};

/// How far one falls (sign 1) or climbs (-1) on the way from sample i until something higher (lower) comes,
/// in one direction; infinite where the cut ends on the way down at its edge.
double fall(const Samples& s, int i, int direction, double sign) {
    const double start = sign * s.gain(i);
    double lowest = start;
    for (int n = 1; n < s.count(); ++n) {
        const int at = i + direction * n;
        if (!s.has(at)) break;
        const double v = sign * s.gain(at);
        if (v > start) break;
        lowest = std::min(lowest, v);
    }
    return start - lowest;
}

bool extremum(const Samples& s, int i, double sign) {
    const double v = sign * s.gain(i);
    return (!s.has(i - 1) || v >= sign * s.gain(i - 1)) && (!s.has(i + 1) || v > sign * s.gain(i + 1));
}

std::optional<double> halfPower(const Samples& s, int top, int direction) {
    const double limit = s.vertex(top).gainDbi - 10.0 * std::log10(2.0);
    for (int n = 1; n < s.count(); ++n) {
        const int at = top + direction * n;
        if (!s.has(at)) return std::nullopt;
        if (s.gain(at) > limit) continue;
        const double before = s.gain(at - direction);
        const double share = (before - limit) / (before - s.gain(at));
        return s.angle(at - direction + direction * share);
    }
    return std::nullopt;
}

double wrap(double degrees, bool closed) {
    if (!closed) return degrees;
    const double r = std::fmod(degrees, 360.0);
    return r < 0.0 ? r + 360.0 : r;
}

}  // namespace

CutFigures readCut(const Cut& cut) {
    CutFigures out;
    if (cut.gainDbi.size() < 3) return out;
    const Samples s(cut);
    int top = 0;
    for (int i = 1; i < s.count(); ++i)
        if (s.gain(i) > s.gain(top)) top = i;
    out.maximum = s.vertex(top);
    out.lowDeg = halfPower(s, top, -1);
    out.highDeg = halfPower(s, top, 1);
    for (int i = 0; i < s.count(); ++i) {
        if (i != top && extremum(s, i, 1.0) &&
            std::min(fall(s, i, 1, 1.0), fall(s, i, -1, 1.0)) >=
                (s.has(i - 1) && s.has(i + 1) ? kLobeStandsDb : 0.0) &&
            std::max(fall(s, i, 1, 1.0), fall(s, i, -1, 1.0)) >= kLobeStandsDb) {
            const Lobe lobe = s.vertex(i);
            // What stays within half power of the maximum is part of the main lobe.
            const bool within =
                out.lowDeg && out.highDeg && lobe.angleDeg > *out.lowDeg && lobe.angleDeg < *out.highDeg;
            if (!within && (!out.sideLobe || lobe.gainDbi > out.sideLobe->gainDbi)) out.sideLobe = lobe;
        }
        if (s.has(i - 1) && s.has(i + 1) && extremum(s, i, -1.0) &&
            out.maximum.gainDbi - s.gain(i) >= kNullBelowMaxDb &&
            std::min(fall(s, i, 1, -1.0), fall(s, i, -1, -1.0)) >= kNullBelowLobesDb)
            out.nulls.push_back(s.vertex(i));
    }
    out.maximum.angleDeg = wrap(out.maximum.angleDeg, s.closed());
    if (out.sideLobe) out.sideLobe->angleDeg = wrap(out.sideLobe->angleDeg, s.closed());
    for (Lobe& null : out.nulls) null.angleDeg = wrap(null.angleDeg, s.closed());
    return out;
}

std::optional<AngleRange> neededAngles(const model::Angles& angles) {
    if (!angles.wanted()) return std::nullopt;
    AngleRange range;
    range.highDeg = angles.nearestKm <= 0.0 ? 90.0 : hopElevationDeg(angles.nearestKm, angles.layerKm);
    if (range.highDeg < 0.0) return std::nullopt;
    range.lowDeg = std::max(0.0, hopElevationDeg(angles.farthestKm, angles.layerKm));
    return range;
}

double meanGainDbi(const Cut& elevation, const AngleRange& range) {
    constexpr int kSteps = 64;
    double sum = 0.0;
    for (int i = 0; i < kSteps; ++i) {
        const double at = range.lowDeg + (range.highDeg - range.lowDeg) * (i + 0.5) / kSteps;
        sum += std::pow(10.0, 0.1 * elevation.at(at));
    }
    return 10.0 * std::log10(std::max(1e-12, sum / kSteps));
}

}  // namespace rm::study
