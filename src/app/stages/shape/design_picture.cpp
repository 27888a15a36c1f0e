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
    for (const auto& wire : expansion->model.wires) points.insert(points.end(), {wire.startM, wire.endM});
    const model::Bounds box = expansion->model.bounds();
    state.centreM = state.camera.target = box.centre();
    state.camera.distanceM = std::max(0.05, box.diagonal());
    state.camera.fit(points, size, {28.0, 24.0});
    QImage image(size, QImage::Format_ARGB32_Premultiplied);
    image.fill(theme.yard);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    YardScene(state, p).paintBare();
    return image;
}

}  // namespace rm::app
