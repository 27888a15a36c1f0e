// Boxes round the wires of a model: most pairs are passed over without a look at the wires themselves.
#pragma once

#include <Eigen/Geometry>
#include <array>
#include <vector>

#include "core/model/wire_model.h"

namespace rm::model {

class WireBoxes {
  public:
    explicit WireBoxes(const std::vector<PlainWire>& wires);

    /// False: two wires are farther apart than this. True says nothing.
    bool near(std::size_t a, std::size_t b, double withinM) const {
        return boxes_[a].squaredExteriorDistance(boxes_[b]) <= kRounded * withinM * withinM;
    }
    /// The same of a point and a wire.
    bool near(const Vec3& point, std::size_t wire, double withinM) const {
        return boxes_[wire].squaredExteriorDistance(point) <= kRounded * withinM * withinM;
    }

    /// The wires that may be this near to a wire (itself among them), or to a point, in their order: no other
    /// is. Finds them in order of their lower ends along the axis on which the wires are spread most; valid
    /// until the next question.
    const std::vector<std::size_t>& nearTo(std::size_t wire, double withinM) const;
    const std::vector<std::size_t>& nearTo(const Vec3& point, double withinM) const;

  private:
    using Box = Eigen::AlignedBox3d;

    const std::vector<std::size_t>& nearTo(const Box& box, double withinM) const;
    void inOrder() const;

    /// Corners as plain numbers: where thousands of wires lie on one another this is asked for every pair.
    struct Corners {
        std::array<double, 3> low, high;
    };
    static Corners cornersOf(const Box& box);

    /// What rounding may make of a distance that is just within.
    static constexpr double kRounded = 1.0 + 1e-9;
    std::vector<Box> boxes_;
    std::vector<Corners> sorted_;  ///< as byLow_
    Eigen::Index axis_ = 0;
    std::vector<std::size_t> byLow_;  ///< wires by the lower end of their box along the axis
    std::vector<double> low_;         ///< these lower ends
    std::vector<double> reach_;       ///< the highest upper end up to there
    mutable std::vector<std::size_t> found_;
    mutable std::vector<char> marks_;
};

}  // namespace rm::model
