// Draws the plan of the site: the picture under it, a grid to measure by, what stands there, wires and ropes
// from above, distances and bearings.
#pragma once

#include <QPainter>
#include <optional>
#include <vector>

#include "app/look/theme.h"
#include "app/session/results.h"
#include "app/stages/site/backdrop.h"
#include "app/stages/site/site_map.h"

namespace rm::app {

/// What the plan shows beside the design.
struct SiteLook {
    SiteMap map;
    ExpansionPtr expansion;
    const model::Site* site = nullptr;
    const BackdropPicture* picture = nullptr;
    QString support;                 ///< name of the selected one
    QString part;                    ///< name of the selected part
    QStringList hanging;             ///< supports chosen for a wire so far
    std::optional<QLineF> measured;  ///< east and north, m
    std::vector<QPointF> scaling;    ///< the points clicked to scale the picture, m
    std::optional<QPointF> pointerM;
    bool feet = false;
    Theme theme = Theme::current();

    /// Where a point of the design appears from above.
    QPointF at(const Vec3& pointM) const {
        const Vec3 compass = model::toCompass(pointM, expansion->headingDeg);
        return map.at({compass.x(), compass.y()});
    }
};

class SiteScene {
  public:
    SiteScene(const SiteLook& look, QPainter& painter) : s_(look), p_(painter) {}

    void paint();

  private:
    void picture();
    void grid();
    void north();
    void wires();
    void ropes();
    void supports();
    void distances();
    void measure();
    QPointF at(const Vec3& pointM) const { return s_.at(pointM); }
    void label(const QPointF& at, const QString& words, const QColor& colour, bool centred = false);
    /// A line with its length and bearing on it.
    void measured(const QPointF& fromM, const QPointF& toM, const QColor& colour);

    const SiteLook& s_;
    QPainter& p_;
    std::vector<QRectF> taken_;
};

/// "3.2 m east, −1 m north"
QString placeWords(const QPointF& eastNorthM, bool feet);

/// Length and bearing of a line on the plan: "12.40 m, 087°".
QString runWords(const QPointF& fromM, const QPointF& toM, bool feet);

}  // namespace rm::app
