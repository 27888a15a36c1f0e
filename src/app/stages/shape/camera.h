// Where the yard is seen from: a point to look at, two angles, a distance.
#pragma once

#include <QPolygonF>
#include <QSizeF>
#include <algorithm>
#include <cmath>
#include <vector>

#include "core/common.h"

namespace rm::app {

/// A point on the screen with its depth (m from the eye).
struct Projected {
    QPointF at;
    double depth = 1.0;
};

/// A camera with a view of one size: its axes are worked out once for many points.
struct Projection {
    Vec3 target;
    Vec3 toEye;
    Vec3 right;
    Vec3 up;
    QPointF middle;
    double eyeM;        ///< from the target
    double pixelsPerM;  ///< at the target

    Projected operator()(const Vec3& point) const {
        const Vec3 d = point - target;
        const double depth = std::max(0.1 * eyeM, eyeM - d.dot(toEye));
        const double scale = pixelsPerM * eyeM / depth;
        return {middle + scale * QPointF(d.dot(right), -d.dot(up)), depth};
    }
};

struct Camera {
    Vec3 target = Vec3::Zero();
    double azimuthDeg = 215.0;  ///< of the eye seen from the target
    double elevationDeg = 18.0;
    double distanceM = 60.0;

    Vec3 toEye() const {
        const double a = azimuthDeg * kDegree;
        const double e = elevationDeg * kDegree;
        return {std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e)};
    }
    Vec3 right() const { return {-std::sin(azimuthDeg * kDegree), std::cos(azimuthDeg * kDegree), 0.0}; }
    Vec3 up() const { return toEye().cross(right()); }

    bool operator==(const Camera& other) const = default;

    /// Pixels per metre at the target for a view of this size.
    double pixelsPerM(const QSizeF& view) const {
        return 1.15 * std::min(view.width(), view.height() * 1.3) / distanceM;
    }

    /// Looks at these points from the same side, so that they fill a view but for margins (pixels), `lower`
    /// below its middle.
    void fit(const std::vector<Vec3>& points, const QSizeF& view, const QSizeF& margins, double lower = 0.0) {
        for (int step = 0; step < 4; ++step) {
            QPolygonF shadow;
            for (const Vec3& point : points) shadow << project(point, view).at;
            const QRectF box = shadow.boundingRect();
            const QPointF off = box.center() - QPointF(0.5 * view.width(), 0.5 * view.height() + lower);
            const double metres = 1.0 / pixelsPerM(view);
            target += metres * (off.x() * right() - off.y() * up());
            distanceM *= std::max({box.width() / std::max(60.0, view.width() - margins.width()),
                                   box.height() / std::max(60.0, view.height() - margins.height()), 1e-3});
        }
    }

    Projection through(const QSizeF& view) const {
        // The eye is a few antennas away: a little perspective, nearly true to scale.
        return {
            target,          toEye(),         right(), up(), QPointF(0.5 * view.width(), 0.5 * view.height()),
            3.5 * distanceM, pixelsPerM(view)};
    }
    Projected project(const Vec3& point, const QSizeF& view) const { return through(view)(point); }
};

}  // namespace rm::app
