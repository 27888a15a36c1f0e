// From metres to the east and to the north to pixels of a plan with north up, and back.
#pragma once

#include <QPointF>
#include <QRectF>
#include <QSizeF>
#include <algorithm>

namespace rm::app {

struct SiteMap {
    QPointF centreM;  ///< east, north: in the middle of the view
    double pixelsPerM = 20.0;
    QSizeF size;

    QPointF at(const QPointF& eastNorth) const {
        return {0.5 * size.width() + pixelsPerM * (eastNorth.x() - centreM.x()),
                0.5 * size.height() - pixelsPerM * (eastNorth.y() - centreM.y())};
    }
    QPointF metres(const QPointF& pixel) const {
        return {centreM.x() + (pixel.x() - 0.5 * size.width()) / pixelsPerM,
                centreM.y() - (pixel.y() - 0.5 * size.height()) / pixelsPerM};
    }
    /// Shows all of this (in metres), with so many pixels to spare on every side.
    void fit(const QRectF& metres, double margin) {
        centreM = metres.center();
        const double wide = std::max(60.0, size.width() - 2.0 * margin);
        const double high = std::max(60.0, size.height() - 2.0 * margin);
        pixelsPerM =
            std::clamp(std::min(wide / std::max(0.5, metres.width()), high / std::max(0.5, metres.height())),
                       0.02, 2000.0);
    }
    /// Keeps what is under the pixel where it is.
    void zoom(double factor, const QPointF& pixel) {
        const QPointF kept = metres(pixel);
        pixelsPerM = std::clamp(pixelsPerM * factor, 0.02, 2000.0);
        centreM += kept - metres(pixel);
    }
};

}  // namespace rm::app
