// Boxes round the wires of a model: most pairs are passed over without a look at the wires themselves.
#pragma once

#include <Eigen/Geometry>
#include <vector>

#include "core/model/wire_model.h"

namespace rm::model {

class WireBoxes {
  public:
    explicit WireBoxes(const std::vector<PlainWire>& wires) {
        boxes_.reserve(wires.size());
        for (const auto& wire : wires) {
            boxes_.emplace_back(wire.startM);
            boxes_.back().extend(wire.endM);
        }
    }
    /// False: two wires are farther apart than this. True says nothing.
    bool near(std::size_t a, std::size_t b, double withinM) const {
        return boxes_[a].squaredExteriorDistance(boxes_[b]) <= kRounded * withinM * withinM;
    }
    /// The same of a point and a wire.
    bool near(const Vec3& point, std::size_t wire, double withinM) const {
        return boxes_[wire].squaredExteriorDistance(point) <= kRounded * withinM * withinM;
    }

  private:
    /// What rounding may make of a distance that is just within.
    static constexpr double kRounded = 1.0 + 1e-9;
    std::vector<Eigen::AlignedBox3d> boxes_;
};

}  // namespace rm::model
