#include "core/model/wire_boxes.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace rm::model {

WireBoxes::WireBoxes(const std::vector<PlainWire>& wires) {
    Box all;
    boxes_.reserve(wires.size());
    for (const auto& wire : wires) {
        boxes_.emplace_back(wire.startM);
        boxes_.back().extend(wire.endM);
        all.extend(boxes_.back());
    }
    if (wires.empty()) return;
    all.sizes().maxCoeff(&axis_);
    byLow_.resize(wires.size());
    std::iota(byLow_.begin(), byLow_.end(), std::size_t{0});
    // Coordinates that are no numbers are complained of elsewhere; here they only must not upset the order.
    const auto lowOf = [&](std::size_t wire) {
        const double low = boxes_[wire].min()[axis_];
        return std::isnan(low) ? -HUGE_VAL : low;
    };
    std::sort(byLow_.begin(), byLow_.end(),
              [&](std::size_t a, std::size_t b) { return lowOf(a) < lowOf(b); });
    for (const std::size_t wire : byLow_) {
        const double high = boxes_[wire].max()[axis_];
        low_.push_back(lowOf(wire));
        sorted_.push_back(cornersOf(boxes_[wire]));
        reach_.push_back(reach_.empty() ? high : std::max(high, reach_.back()));
    }
}

const std::vector<std::size_t>& WireBoxes::nearTo(std::size_t wire, double withinM) const {
    return nearTo(boxes_[wire], withinM);
}

const std::vector<std::size_t>& WireBoxes::nearTo(const Vec3& point, double withinM) const {
    return nearTo(Box(point), withinM);
}

const std::vector<std::size_t>& WireBoxes::nearTo(const Box& box, double withinM) const {
    found_.clear();
    const double within = kRounded * withinM;
    const Corners asked = cornersOf(box);
    const auto near = [&](const Corners& other) {
        double squared = 0.0;
        for (std::size_t i = 0; i < 3; ++i) {
            const double gap = std::max({0.0, other.low[i] - asked.high[i], asked.low[i] - other.high[i]});
            squared += gap * gap;
        }
        return squared <= within * within;
    };
    const double from = box.min()[axis_] - within;
    const double to = box.max()[axis_] + within;
    auto k = static_cast<std::size_t>(std::upper_bound(low_.begin(), low_.end(), to) - low_.begin());
    // Backwards to where nothing before reaches this far.
    while (k > 0 && !(reach_[k - 1] < from)) {
        --k;
        if (near(sorted_[k])) found_.push_back(byLow_[k]);
    }
    inOrder();
    return found_;
}

/// Sorts what was found: by a mark at each wire where that is much of the model.
void WireBoxes::inOrder() const {
    if (found_.size() < boxes_.size() / 8) {
        std::sort(found_.begin(), found_.end());
        return;
    }
    marks_.assign(boxes_.size(), 0);
    for (const std::size_t wire : found_) marks_[wire] = 1;
    found_.clear();
    for (std::size_t wire = 0; wire < marks_.size(); ++wire)
        if (marks_[wire] != 0) found_.push_back(wire);
}

WireBoxes::Corners WireBoxes::cornersOf(const Box& box) {
    Corners c;
    for (std::size_t i = 0; i < 3; ++i) {
        c.low[i] = box.min()[static_cast<Eigen::Index>(i)];
        c.high[i] = box.max()[static_cast<Eigen::Index>(i)];
    }
    return c;
}

}  // namespace rm::model
