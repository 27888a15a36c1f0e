#include "app/stages/shape/yard.h"

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/stages/field_colours.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/stages/shape/support_scene.h"
#include "app/stages/shape/yard_scene.h"
#include "app/stages/shape/yard_tool.h"

namespace rm::app {

namespace {

/// An antenna this small beside its height is looked at by itself.
constexpr double kLostInHeight = 0.45;
constexpr double kHandlePx = 10.0;
constexpr double kWirePx = 8.0;
/// Nobody finds an antenna of so few pixels, or misses that it has shrunk to so much of what was fitted.
constexpr double kSpeckPx = 6.0;
constexpr double kShrunk = 1.0 / 3.0;

double longerSide(const QRectF& box) {
    return std::max(box.width(), box.height());
}

}  // namespace

Yard::Yard(QWidget* parent) : Themed(parent) {
    state_.theme = theme_;
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Yard"));
}

void Yard::addTool(YardTool* tool) {
    tools_.push_back(tool);
    connect(tool, &YardTool::changed, this, qOverload<>(&Yard::update));
}

void Yard::setWires(ExpansionPtr expansion) {
    state_.expansion = std::move(expansion);
    state_.analysis.reset();
    state_.lobe.reset();
    state_.remarks.clear();
    if (!fitted_ && state_.expansion && !state_.expansion->model.wires.empty()) fit();
    keepInSight();
    update();
}

void Yard::setResults(const ResultsPtr& results) {
    if (state_.expansion == results->expansion && state_.analysis == results->analysis &&
        state_.lobe == results->lobe && state_.remarks == results->remarks)
        return;
    setWires(results->expansion);
    state_.analysis = results->analysis;
    state_.lobe = results->lobe;
    state_.remarks = results->remarks;
}

void Yard::setStale(bool stale) {
    if (state_.stale == stale) return;
    state_.stale = stale;
    update();
}

void Yard::setSelectedParts(const QStringList& names) {
    state_.selected = names;
    update();
}

void Yard::setSelectedSupport(const QString& name) {
    if (state_.support == name) return;
    state_.support = name;
    update();
}

void Yard::setCaption(const QString& caption) {
    caption_ = caption;
    update();
}

void Yard::setShowCurrents(bool show) {
    state_.showCurrents = show;
    update();
}

void Yard::setShowLobe(bool show) {
    state_.showLobe = show;
    update();
}

void Yard::setRay(std::optional<em::Direction> direction) {
    state_.ray = direction;
    update();
}

void Yard::setShowPhase(bool show) {
    state_.showPhase = show;
    update();
}

void Yard::setField(const FieldMapPtr& map, const NearLook& look) {
    fieldMap_ = map;
    fieldLook_ = look;
    paintField();
}

void Yard::paintField() {
    constexpr int kAlpha = 150;
    state_.field = QImage();
    if (fieldMap_) {
        const FieldScale scale = fieldScale(*fieldMap_, fieldLook_, false);
        state_.field = fieldImage(*fieldMap_, fieldLook_, scale, theme_, {}, kAlpha);
        state_.fieldPlane = fieldMap_->plane;
        state_.fieldCaption =
            tr("%1 to %2 %3, %4")
                .arg(written(scale.low, 'g', 2))
                .arg(written(scale.high, 'g', 2))
                .arg(study::unitOf(fieldLook_.kind))
                .arg(fieldMap_->place.upright ? tr("upright")
                                              : tr("at %1").arg(lengthUnit().near(fieldMap_->place.heightM)));
    }
    update();
}

void Yard::setKeep(const study::ClearRow* row) {
    state_.keep.clear();
    for (const study::ClearZone* zone : row != nullptr
                                            ? std::vector<const study::ClearZone*>{&row->head, &row->window}
                                            : std::vector<const study::ClearZone*>{}) {
        YardState::KeepLine line;
        line.heightM = zone->heightM;
        line.farthestM = zone->fromMiddleM;
        for (const auto& piece : zone->contour)
            line.pieces.emplace_back(zone->plane.at(piece.fromColumn, piece.fromRow),
                                     zone->plane.at(piece.toColumn, piece.toRow));
        state_.keep.push_back(std::move(line));
    }
    update();
}

void Yard::themeChanged() {
    state_.theme = theme_;
    paintField();
    update();
}

void Yard::fit() {
    if (!state_.expansion || state_.expansion->model.wires.empty()) return;
    const model::Bounds box = state_.expansion->model.bounds();
    const bool lost =
        state_.overGround() && box.low.z() > 0.0 && box.diagonal() < kLostInHeight * box.low.z();
    fitTo(!lost);
}

void Yard::fitTo(bool site) {
    if (!state_.expansion || state_.expansion->model.wires.empty()) return;
    state_.size = size();
    fitSite_ = site;
    const bool ground = site && state_.overGround();
    std::vector<Vec3> points;
    model::Bounds box;
    const auto add = [&](const Vec3& point) {
        points.push_back(point);
        box.include(point);
    };
    for (const auto& wire : state_.expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            add(end);
            if (ground) add({end.x(), end.y(), 0.0});
        }
    if (site)
        for (const auto& support : state_.expansion->supports)
            for (const auto& [from, to] : outlineOf(support)) {
                add(from);
                add(to);
            }
    state_.centreM = state_.camera.target = box.centre();
    state_.camera.distanceM = std::max(0.05, box.diagonal());
    if (ground)  // room for the compass round the antenna
        for (int i = 0; i < 8; ++i)
            points.push_back(Vec3(state_.centreM.x(), state_.centreM.y(), 0.0) +
                             state_.compassReach() * 1.2 *
                                 Vec3(std::cos(i * kPi / 4), std::sin(i * kPi / 4), 0.0));
    const double margin = ground ? 56.0 : 120.0;
    state_.camera.fit(points, size(), {margin, margin + 40.0}, 6.0);
    fitted_ = true;
    touched_ = false;
    fittedPx_ = longerSide(shadow());
    update();
}

/// The wires on the screen.
QRectF Yard::shadow() const {
    QPolygonF ends;
    for (const auto& wire : state_.expansion->model.wires)
        ends << state_.at(wire.startM) << state_.at(wire.endM);
    return ends.boundingRect();
}

/// After a change: an antenna that reaches out of the view or has become small in it is fitted again, where
/// someone chose the view only an antenna of which nothing is seen any more. Nothing moves under a hand.
void Yard::keepInSight() {
    if (!fitted_ || drag_ != Drag::None || !state_.expansion || state_.expansion->model.wires.empty()) return;
    const QRectF wires = shadow();
    const QRectF view = rect();
    bool gone = false;
    if (touched_) {
        gone = longerSide(wires) < kSpeckPx || !view.intersects(wires.adjusted(-1, -1, 1, 1));
    } else {
        const auto handle = heightHandle();
        gone = longerSide(wires) < kShrunk * fittedPx_ || !view.contains(wires) ||
               (handle && !view.contains(*handle));
    }
    if (gone) fitTo(fitSite_);
}

void Yard::resizeEvent(QResizeEvent*) {
    state_.size = size();
    if (fitted_ && !touched_) fitTo(fitSite_);
}

void Yard::focusOutEvent(QFocusEvent* event) {
    for (auto* tool : tools_) tool->lookAway();
    Themed<QWidget>::focusOutEvent(event);
}

void Yard::look(double azimuthDeg, double elevationDeg) {
    state_.camera.azimuthDeg = azimuthDeg;
    state_.camera.elevationDeg = elevationDeg;
    fit();
}

void Yard::viewFromFront() {
    look(0.0, 3.0);
}

void Yard::viewFromSide() {
    look(270.0, 3.0);
}

void Yard::viewFromAbove() {
    look(180.0, 89.0);
}

void Yard::viewAtAnAngle() {
    look(215.0, 18.0);
}

std::optional<QPointF> Yard::heightHandle() const {
    if (!state_.overGround() || state_.expansion->model.wires.empty()) return std::nullopt;
    return state_.at(state_.handlePoint());
}

void Yard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath frame;
    frame.addRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    p.fillRect(rect(), theme_.yard);
    state_.handleHeld = drag_ == Drag::Height;
    YardScene(state_, p, &layers_).paint();
    for (auto* tool : tools_) tool->paint(p, state_);
    // The corners afterwards: every stroke through a rounded clip would take twice as long.
    QPainterPath corners;
    corners.addRect(rect());
    p.fillPath(corners.subtracted(frame), theme_.paper);
    p.setPen(QPen(theme_.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawPath(frame);
    p.setFont(textFont(kTitlePt, true));
    p.setPen(theme_.ink);
    p.drawText(QRectF(12, 8, 100, 18), Qt::AlignLeft | Qt::AlignVCenter, tr("Yard"));
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(100, 8, width() - 112, 18), Qt::AlignRight | Qt::AlignVCenter, caption_);
    if (hasFocus()) {
        p.setPen(QPen(theme_.reed, 1.2));
        p.drawPath(frame);
    }
}

QString Yard::partAt(const QPointF& point) const {
    if (!state_.expansion) return {};
    QString best;
    double nearest = kWirePx;
    for (const auto& wire : state_.expansion->model.wires) {
        const double d = pixelsToLine(point, state_.at(wire.startM), state_.at(wire.endM));
        if (d >= nearest) continue;
        nearest = d;
        best = QString::fromStdString(wire.origin());
    }
    return best;
}

QString Yard::supportAt(const QPointF& point) const {
    if (!state_.expansion) return {};
    QString best;
    double nearest = kWirePx;
    for (const auto& support : state_.expansion->supports)
        for (const auto& [from, to] : outlineOf(support)) {
            const double d = pixelsToLine(point, state_.at(from), state_.at(to));
            if (d >= nearest) continue;
            nearest = d;
            best = QString::fromStdString(support.name);
        }
    return best;
}

void Yard::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    // One thing at a time: a second button does not take over what the first one holds.
    if (drag_ != Drag::None) return;
    button_ = event->button();
    pressed_ = last_ = event->position();
    for (auto* tool : tools_)
        if (tool->press(pressed_, event->modifiers(), event->button())) {
            holding_ = tool;
            drag_ = Drag::Tool;
            return update();
        }
    const auto handle = heightHandle();
    const bool onHandle = handle && QLineF(*handle, pressed_).length() < kHandlePx;
    if (event->button() == Qt::LeftButton && onHandle) {
        drag_ = Drag::Height;
        heightAtPress_ = state_.expansion->heightM;
    } else if (event->button() == Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier)) {
        drag_ = Drag::Turn;
    } else {
        drag_ = Drag::Pan;
    }
    update();
}

void Yard::hover(const QPointF& at) {
    for (auto* tool : tools_) {
        const auto tip = tool->hover(at);
        if (!tip) continue;
        setCursor(Qt::PointingHandCursor);
        setToolTip(*tip);
        return;
    }
    const auto handle = heightHandle();
    if (handle && QLineF(*handle, at).length() < kHandlePx) {
        setCursor(Qt::SizeVerCursor);
        setToolTip(tr("Drag to raise or lower the whole antenna"));
        return;
    }
    const QString part = partAt(at);
    const QString support = part.isEmpty() ? supportAt(at) : QString();
    if (!support.isEmpty()) {
        setCursor(Qt::PointingHandCursor);
        setToolTip(support.toHtmlEscaped() + tr(": click to move it or to change its height"));
        return;
    }
    setCursor(part.isEmpty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    setToolTip(part.isEmpty() ? tr("Drag to turn, Shift-drag to move, wheel to zoom, double-click to fit")
                              : part.toHtmlEscaped() + tr(": click to take hold of it"));
}

void Yard::mouseMoveEvent(QMouseEvent* event) {
    const QPointF now = event->position();
    const QPointF moved = now - last_;
    last_ = now;
    Camera& camera = state_.camera;
    switch (drag_) {
        case Drag::Turn:
            touched_ = true;
            camera.azimuthDeg = std::fmod(camera.azimuthDeg - 0.4 * moved.x() + 360.0, 360.0);
            camera.elevationDeg = std::clamp(camera.elevationDeg + 0.4 * moved.y(), -89.0, 89.0);
            update();
            break;
        case Drag::Pan: {
            touched_ = true;
            const double scale = 1.0 / camera.pixelsPerM(size());
            camera.target += scale * (-moved.x() * camera.right() + moved.y() * camera.up());
            update();
            break;
        }
        case Drag::Height: {
            const double lift =
                (pressed_.y() - now.y()) /
                (camera.pixelsPerM(size()) * std::max(0.2, std::cos(camera.elevationDeg * kDegree)));
            Q_EMIT heightDragged(std::round((heightAtPress_ + lift) * 20.0) / 20.0);
            break;
        }
        case Drag::Tool:
            holding_->drag(now, event->modifiers());
            break;
        case Drag::None:
            hover(now);
    }
}

void Yard::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != button_) return;
    const bool still = QLineF(pressed_, event->position()).length() < 4.0;
    const Drag ended = drag_;
    drag_ = Drag::None;
    if (ended == Drag::Tool) {
        YardTool* tool = holding_;
        holding_ = nullptr;
        tool->release(event->position(), event->modifiers());
    }
    if (ended == Drag::Turn && still) {
        const QString part = partAt(event->position());
        const QString support = part.isEmpty() ? supportAt(event->position()) : QString();
        if (!support.isEmpty())
            Q_EMIT supportClicked(support);
        else
            Q_EMIT partClicked(part, event->modifiers() & Qt::ControlModifier);
    }
    if (ended == Drag::Height) Q_EMIT dragFinished();
    keepInSight();
    update();
}

void Yard::mouseDoubleClickEvent(QMouseEvent* event) {
    for (auto* tool : tools_)
        if (tool->doubleClick(event->position())) return update();
    fit();
}

void Yard::wheelEvent(QWheelEvent* event) {
    zoom(std::pow(0.999, event->angleDelta().y()));
    event->accept();
}

void Yard::zoom(double factor) {
    touched_ = true;
    double& distance = state_.camera.distanceM;
    distance = std::clamp(distance * factor, 0.05 * state_.extent(), 20.0 * state_.extent());
    update();
}

YardTool* Yard::toolFor(const QKeyEvent& key) const {
    for (auto* tool : tools_)
        if (tool->wantsKey(key)) return tool;
    return nullptr;
}

bool Yard::event(QEvent* event) {
    // What a tool takes is no shortcut of the window meanwhile.
    if (event->type() == QEvent::ShortcutOverride && toolFor(*static_cast<QKeyEvent*>(event)) != nullptr) {
        event->accept();
        return true;
    }
    return Themed<QWidget>::event(event);
}

void Yard::keyPressEvent(QKeyEvent* event) {
    if (YardTool* tool = toolFor(*event)) {
        tool->key(*event);
        return update();
    }
    Camera& camera = state_.camera;
    switch (event->key()) {
        case Qt::Key_Left:
            camera.azimuthDeg -= 5.0;
            break;
        case Qt::Key_Right:
            camera.azimuthDeg += 5.0;
            break;
        case Qt::Key_Up:
            camera.elevationDeg = std::min(89.0, camera.elevationDeg + 4.0);
            break;
        case Qt::Key_Down:
            camera.elevationDeg = std::max(-89.0, camera.elevationDeg - 4.0);
            break;
        case Qt::Key_Plus:
            zoom(0.9);
            break;
        case Qt::Key_Minus:
            zoom(1.0 / 0.9);
            break;
        default:
            QWidget::keyPressEvent(event);
            return;
    }
    touched_ = true;
    update();
}

}  // namespace rm::app
