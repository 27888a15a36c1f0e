#include "core/study/sweep_curve.h"

#include <algorithm>
#include <cmath>

namespace rm::study {

namespace {

/// Share of the frequency beyond which a resonance could hide between two points.
constexpr double kWidest = 2e-3;
constexpr std::size_t kMostAdded = 4000;
/// Halvings of one gap.
constexpr int kDeepest = 8;

/// How far a reflection coefficient may move between neighbours, of which one has the value `g`: little near
/// a match, where the SWR is read, and near an open end, where a resistance is high.
double allowed(Complex g) {
    return std::max(0.005, std::min(0.01 + 0.08 * std::abs(g), 0.3 * std::abs(1.0 - g)));
}

class Refiner {
  public:
    Refiner(double referenceOhm, const std::function<SweepPoint(double)>& at, const std::stop_token& stop)
        : referenceOhm_(referenceOhm), at_(at), stop_(stop) {}

    std::vector<SweepPoint> run(const std::vector<SweepPoint>& asked) {
        out_.reserve(2 * asked.size());
        for (std::size_t i = 0; i < asked.size() && !stop_.stop_requested(); ++i) {
            if (i > 0) between(asked[i - 1], asked[i]);
            out_.push_back(asked[i]);
        }
        if (added_ == 0 || stop_.stop_requested()) return {};
        return std::move(out_);
    }

  private:
    /// Equal steps that hide nothing, and halves where it bends.
    void between(const SweepPoint& left, const SweepPoint& right) {
        const double low = left.frequencyHz;
        const double high = right.frequencyHz;
        const int steps = std::max(1, static_cast<int>(std::ceil((high - low) / (kWidest * high))));
        SweepPoint before = left;
        for (int i = 1; i <= steps && added_ < kMostAdded; ++i) {
            const bool last = i == steps;
            SweepPoint here = last ? right : at_(low + (high - low) * i / steps);
            halve(before, here, 0);
            if (last) break;
            add(here);
            before = std::move(here);
        }
    }

    void halve(const SweepPoint& left, const SweepPoint& right, int depth) {
        if (depth == kDeepest || added_ >= kMostAdded || near(left, right)) return;
        const SweepPoint middle = at_(0.5 * (left.frequencyHz + right.frequencyHz));
        halve(left, middle, depth + 1);
        add(middle);
        halve(middle, right, depth + 1);
    }

    bool near(const SweepPoint& a, const SweepPoint& b) const {
        const auto moved = [&](Complex from, Complex to) {
            const Complex x = reflection(from, referenceOhm_);
            const Complex y = reflection(to, referenceOhm_);
            return !(std::abs(x - y) > std::min(allowed(x), allowed(y)));
        };
        return moved(a.radioOhm, b.radioOhm) && moved(a.antennaOhm, b.antennaOhm);
    }

    void add(const SweepPoint& p) {
        out_.push_back(p);
        ++added_;
    }

    double referenceOhm_;
    const std::function<SweepPoint(double)>& at_;
    const std::stop_token& stop_;
    std::vector<SweepPoint> out_;
    std::size_t added_ = 0;
};

}  // namespace

std::vector<SweepPoint> withBetween(const std::vector<SweepPoint>& asked, double referenceOhm,
                                    const std::function<SweepPoint(double)>& at,
                                    const std::stop_token& stop) {
    return Refiner(referenceOhm, at, stop).run(asked);
}

}  // namespace rm::study
