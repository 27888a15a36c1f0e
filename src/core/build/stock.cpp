#include "core/build/stock.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace rm::build {

namespace {

class Layout {
  public:
    Layout(const std::vector<double>& lengths, double stock, double kerf)
        : lengths_(lengths), stock_(stock), kerf_(kerf) {
        std::vector<std::size_t> order(lengths.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(),
                         [&](std::size_t a, std::size_t b) { return lengths[a] > lengths[b]; });
        for (const std::size_t i : order) {
            if (lengths[i] > stock) {
                plan.tooLong.push_back(i);
                continue;
            }
            StockBar* best = nullptr;
            for (auto& bar : plan.bars)
                if (fits(bar, i) && (best == nullptr || bar.leftM < best->leftM)) best = &bar;
            if (best == nullptr) best = &plan.bars.emplace_back(StockBar{{}, stock});
            put(*best, i);
        }
        // Empty the bar that holds least into the others, exchanging pieces for longer ones where that helps.
        while (emptyOne()) {
        }
        for (auto& bar : plan.bars)
            std::stable_sort(bar.pieces.begin(), bar.pieces.end(),
                             [&](std::size_t a, std::size_t b) { return lengths_[a] > lengths_[b]; });
    }

    StockPlan plan;

  private:
    /// The last cut of a bar may fall on its end.
    bool fits(const StockBar& bar, std::size_t i) const { return lengths_[i] <= bar.leftM + 1e-9; }

    void put(StockBar& bar, std::size_t i) {
        bar.pieces.push_back(i);
        bar.leftM = std::max(0.0, bar.leftM - lengths_[i] - kerf_);
    }

    double filled(const StockBar& bar) const {
        double sum = 0.0;
        for (const std::size_t i : bar.pieces) sum += lengths_[i];
        return sum;
    }

    void recount(StockBar& bar) const {
        bar.leftM = stock_;
        for (const std::size_t i : bar.pieces) bar.leftM = std::max(0.0, bar.leftM - lengths_[i] - kerf_);
    }

    bool place(std::vector<StockBar>& bars, std::size_t i) {
        StockBar* best = nullptr;
        for (auto& bar : bars)
            if (fits(bar, i) && (best == nullptr || bar.leftM < best->leftM)) best = &bar;
        if (best != nullptr) {
            put(*best, i);
            return true;
        }
        // Exchange it for a shorter one that fits elsewhere.
        for (auto& bar : bars)
            for (auto& other : bar.pieces) {
                if (lengths_[other] >= lengths_[i] || lengths_[i] > bar.leftM + lengths_[other] + kerf_)
                    continue;
                for (auto& target : bars) {
                    if (&target == &bar || !fits(target, other)) continue;
                    const std::size_t moved = other;
                    other = i;
                    recount(bar);
                    put(target, moved);
                    return true;
                }
            }
        return false;
    }

    bool emptyOne() {
        if (plan.bars.size() < 2) return false;
        const auto least =
            std::min_element(plan.bars.begin(), plan.bars.end(),
                             [&](const auto& a, const auto& b) { return filled(a) < filled(b); });
        auto bars = plan.bars;
        const auto at = static_cast<std::size_t>(least - plan.bars.begin());
        const auto pieces = bars[at].pieces;
        bars.erase(bars.begin() + static_cast<std::ptrdiff_t>(at));
        for (const std::size_t i : pieces)
            if (!place(bars, i)) return false;
        plan.bars = std::move(bars);
        return true;
    }

    const std::vector<double>& lengths_;
    double stock_;
    double kerf_;
};

}  // namespace

double StockPlan::leftM() const {
    double left = 0.0;
    for (const auto& bar : bars) left += bar.leftM;
    return left;
}

StockPlan layOut(const std::vector<double>& lengthsM, double stockM, double kerfM) {
    return Layout(lengthsM, stockM, kerfM).plan;
}

std::size_t fewestBars(const std::vector<double>& lengthsM, double stockM, double kerfM) {
    double sum = 0.0;
    std::size_t halves = 0;
    for (const double length : lengthsM) {
        if (length > stockM) continue;
        sum += length + kerfM;
        if (2.0 * length + kerfM > stockM) ++halves;
    }
    return std::max(halves, static_cast<std::size_t>(std::ceil(sum / (stockM + kerfM) - 1e-9)));
}

}  // namespace rm::build
