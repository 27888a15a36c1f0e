// Distances on the screen.
#pragma once

#include <QPointF>
#include <algorithm>
#include <cmath>

namespace rm::app {

/// Distance of a point from the line between two others, in pixels.
inline double pixelsToLine(const QPointF& point, const QPointF& from, const QPointF& to) {
    const QPointF along = to - from;
    const double length2 = QPointF::dotProduct(along, along);
    const double t =
        length2 > 0.0 ? std::clamp(QPointF::dotProduct(point - from, along) / length2, 0.0, 1.0) : 0.0;
    const QPointF d = point - (from + t * along);
    return std::hypot(d.x(), d.y());
}

}  // namespace rm::app
