#include "app/stages/shape/design_picture.h"

#include <QPainter>
#include <algorithm>

#include "app/stages/shape/yard_scene.h"

namespace rm::app {

QImage designPicture(const ExpansionPtr& expansion, const QSize& size, const Theme& theme) {
    if (!expansion || expansion->model.wires.empty()) return {};
    YardState state;
    state.theme = theme;
    state.expansion = expansion;
    state.size = size;
    state.camera.elevationDeg = 22.0;
    std::vector<Vec3> points;
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);
    for (const auto& wire : expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            points.push_back(end);
            low = low.cwiseMin(end);
            high = high.cwiseMax(end);
        }
    state.centreM = state.camera.target = 0.5 * (low + high);
    state.camera.distanceM = std::max(0.05, (high - low).norm());
    for (int step = 0; step < 4; ++step) {
        QPolygonF shadow;
        for (const Vec3& point : points) shadow << state.at(point);
        const QRectF box = shadow.boundingRect();
        const QPointF off = box.center() - QPointF(0.5 * size.width(), 0.5 * size.height());
        const double metres = 1.0 / state.camera.pixelsPerM(state.size);
        state.camera.target += metres * (off.x() * state.camera.right() - off.y() * state.camera.up());
        state.camera.distanceM *=
            std::max({box.width() / (size.width() - 28.0), box.height() / (size.height() - 24.0), 1e-3});
    }
    QImage image(size, QImage::Format_ARGB32_Premultiplied);
    image.fill(theme.yard);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    YardScene(state, p).paintBare();
    return image;
}

}  // namespace rm::app
