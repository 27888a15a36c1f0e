// What the yard shows and from where: the values that its painters and tools share.
#pragma once

#include <QImage>
#include <QStringList>
#include <optional>

#include "app/look/theme.h"
#include "app/plot/pixels.h"
#include "app/session/results.h"
#include "app/stages/shape/camera.h"

namespace rm::app {

struct YardState {
    ExpansionPtr expansion;
    AnalysisPtr analysis;
    LobePtr lobe;
    QStringList remarks;
    Camera camera;
    QSizeF size;
    Vec3 centreM = Vec3::Zero();
    QStringList selected;  ///< names of parts
    QString support;       ///< name of the selected support; empty: none
    bool stale = false;
    bool showCurrents = true;
    bool showLobe = false;
    bool showPhase = false;
    bool handleHeld = false;
    /// The direction that the mouse is on in one of the cuts.
    std::optional<em::Direction> ray;
    /// The field on a plane as a picture, and the plane; null: none is shown.
    QImage field;
    em::PointPlane fieldPlane;
    QString fieldCaption;
    /// Where the limit of the public is reached at a height: of a head and of the window.
    struct KeepLine {
        double heightM = 0.0;
        double farthestM = 0.0;
        std::vector<std::pair<Vec3, Vec3>> pieces;
    };
    std::vector<KeepLine> keep;
    Theme theme = Theme::current();

    bool overGround() const {
        return expansion && expansion->model.ground.kind != model::GroundKind::FreeSpace;
    }
    QPointF at(const Vec3& point) const { return camera.project(point, size).at; }
    /// Of the wires, with the ground below them where there is any, in m.
    double extent() const;
    /// Radius of the compass on the ground.
    double compassReach() const { return 0.5 * extent(); }
    Vec3 pointOf(const model::WirePlace& place) const {
        const auto& wire = expansion->model.wires.at(place.wire);
        return wire.startM + place.at * (wire.endM - wire.startM);
    }
    bool isSelected(const model::PlainWire& wire) const {
        return selected.contains(QString::fromStdString(wire.origin()));
    }
    /// Where the handle stands that raises and lowers the antenna: beside it, level with its lowest point.
    Vec3 handlePoint() const;
};

}  // namespace rm::app
