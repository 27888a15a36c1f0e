// Draws what stands on the site and the ropes that hang from it.
#pragma once

#include <QPainter>
#include <functional>
#include <utility>
#include <vector>

#include "app/stages/shape/yard_state.h"

namespace rm::app {

/// The lines by which a support is seen and taken hold of.
std::vector<std::pair<Vec3, Vec3>> outlineOf(const model::PlainSupport& support);

class SupportScene {
  public:
    /// Writes a label where there is room for it.
    using Label = std::function<void(const QPointF& at, const QString& words, const QColor& colour)>;

    SupportScene(const YardState& state, QPainter& painter, Label label)
        : s_(state), p_(painter), label_(std::move(label)) {}

    void paint();

  private:
    void support(const model::PlainSupport& support);
    void crown(const Vec3& top, const QColor& colour);
    void rope(const std::vector<Vec3>& points);

    const YardState& s_;
    QPainter& p_;
    Label label_;
};

}  // namespace rm::app
