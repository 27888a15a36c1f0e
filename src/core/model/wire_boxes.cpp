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
    const double from = box.min()[axis_] - within;
    const double to = box.max()[axis_] + within;
    auto k = static_cast<std::size_t>(std::upper_bound(low_.begin(), low_.end(), to) - low_.begin());
    // Backwards to where nothing before reaches this far.
    while (k > 0 && !(reach_[k - 1] < from)) {
        --k;
        if (boxes_[byLow_[k]].squaredExteriorDistance(box) <= within * within) found_.push_back(byLow_[k]);
    }
    std::sort(found_.begin(), found_.end());
    return found_;
}

}  // namespace rm::model
