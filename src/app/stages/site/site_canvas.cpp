#include "app/stages/site/site_canvas.h"

#include <QFileInfo>
#include <QLineF>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/plot/hand_steps.h"
#include "app/plot/pixels.h"
#include "core/edit/supports.h"

namespace rm::app {

namespace {

constexpr double kTakePx = 11.0;
constexpr double kStillPx = 4.0;

}  // namespace

SiteCanvas::SiteCanvas(Session& session, Editing& editing, QWidget* parent)
    : Themed(parent), session_(session), editing_(editing), hand_(session.document()) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Plan of the site"));
    setToolTip(tr(
        "Drag a support to move it, the ground to move the view; wheel to zoom, double-click to fit, arrow "
        "keys to push what is selected"));
    look_.picture = &picture_;
    look_.theme = theme_;
}

void SiteCanvas::themeChanged() {
    look_.theme = theme_;
    update();
}

void SiteCanvas::refresh() {
    project_ = session_.document().share();
    const auto& design = project_->active();
    look_.expansion = session_.expansion();
    look_.site = &design.site;
    look_.feet = session_.project().feetAndInches;
    const Selection s = session_.selection();
    look_.support = s.type == Selection::Type::Support ? text(edit::nameOf(design, s)) : QString();
    look_.part = session_.selectedPart() != nullptr ? text(session_.selectedPart()->name) : QString();
    picture_.load(design.site.backdrop.file, QFileInfo(session_.document().path()).absolutePath());
    // What is on the bench was changed by something else: the hand holds what is not there any more.
    if (hand_.lost()) {
        drag_ = Drag::None;
        hand_.letGo();
    }
    // A name that was chosen for a wire may be gone by now.
    for (qsizetype i = look_.hanging.size(); i-- > 0;)
        if (std::none_of(design.site.supports.begin(), design.site.supports.end(),
                         [&](const auto& support) { return text(support.name) == look_.hanging[i]; }))
            look_.hanging.removeAt(i);
    if (!fitted_) fit();
    update();
    Q_EMIT readingChanged();
}

void SiteCanvas::fit() {
    if (!look_.expansion) return;
    look_.map.size = size();
    QRectF box;
    const auto add = [&](const Vec3& point) {
        const Vec3 c = model::toCompass(point, look_.expansion->headingDeg);
        const QRectF one(c.x() - 0.5, c.y() - 0.5, 1.0, 1.0);
        box = box.isNull() ? one : box.united(one);
    };
    add(Vec3::Zero());
    for (const auto& support : look_.expansion->supports) {
        add(support.topM);
        add(support.otherM);
    }
    for (const auto& wire : look_.expansion->model.wires) {
        add(wire.startM);
        add(wire.endM);
    }
    look_.map.fit(box, 70.0);
    fitted_ = true;
    update();
}

void SiteCanvas::setTool(Tool tool, model::SupportKind kind) {
    tool_ = tool;
    kind_ = kind;
    look_.hanging.clear();
    look_.scaling.clear();
    look_.measured.reset();
    setCursor(tool == Tool::Look ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
    Q_EMIT toolChanged();
    Q_EMIT readingChanged();
}

QString SiteCanvas::reading() const {
    switch (tool_) {
        case Tool::Put:
            return tr("Click where the %1 stands%2; Escape: none")
                .arg(text(model::supportName(kind_)),
                     model::isEdge(kind_) ? tr(", or drag from end to end") : "");
        case Tool::Hang:
            return look_.hanging.isEmpty() ? tr("Click the support that the wire starts from")
                                           : tr("%1, then? Click the next; the last one again, or Enter: "
                                                "hang it; Escape: not")
                                                 .arg(look_.hanging.join(tr(" to ")));
        case Tool::Measure:
            return look_.measured ? runWords(look_.measured->p1(), look_.measured->p2(), look_.feet)
                                  : tr("Drag from one place to another; Escape: enough measured");
        case Tool::Scale:
            return look_.scaling.size() < 2 ? tr("Click two places of the picture whose distance you know")
                                            : tr("How far is it between them? Type it above");
        case Tool::Look:
            break;
    }
    if (!fit_.held.empty() && drag_ != Drag::None) return text(fit_.held.front());
    if (!picture_.problem().isEmpty()) return picture_.problem();
    if (!look_.pointerM)
        return session_.design().site.supports.empty()
                   ? tr("Put up what stands there, then hang a wire from one to the next.")
                   : tr("What stands here can be dragged; what hangs on it follows.");
    return tr("%1; from the middle %2")
        .arg(placeWords(*look_.pointerM, look_.feet), runWords({0.0, 0.0}, *look_.pointerM, look_.feet));
}

QString SiteCanvas::nameOf(model::Id support) const {
    return text(edit::nameOf(session_.design(), {Selection::Type::Support, support}));
}

std::optional<SiteCanvas::Under> SiteCanvas::under(const QPointF& pixel) const {
    if (!look_.expansion) return std::nullopt;
    std::optional<Under> best;
    double nearest = kTakePx;
    for (const auto& support : session_.design().site.supports)
        for (const auto& plain : look_.expansion->supports) {
            if (plain.name != support.name) continue;
            const QPointF first = look_.at(plain.topM);
            const QPointF other = look_.at(plain.otherM);
            const auto offer = [&](double distance, bool otherEnd, bool whole) {
                if (distance >= nearest) return;
                nearest = distance;
                best = Under{support.id, otherEnd, whole};
            };
            offer(QLineF(first, pixel).length(), false, false);
            if (!model::isEdge(support.kind)) continue;
            offer(QLineF(other, pixel).length(), true, false);
            // The ends win over the line between them.
            offer(pixelsToLine(pixel, first, other) + 4.0, false, true);
        }
    return best;
}

edit::Steps SiteCanvas::steps() const {
    return handSteps(1.0 / look_.map.pixelsPerM, session_.project().feetAndInches);
}

void SiteCanvas::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (drag_ != Drag::None) return;
    pressed_ = last_ = event->position();
    pressedM_ = look_.map.metres(pressed_);
    moved_ = false;
    fit_ = {};
    const auto on = under(pressed_);
    if (event->button() != Qt::LeftButton) {
        drag_ = Drag::Pan;
        return;
    }
    switch (tool_) {
        case Tool::Put:
            if (!model::isEdge(kind_)) return put(pressedM_);
            drag_ = Drag::NewEdge;
            return;
        case Tool::Hang:
            if (on) hangOn(on->support);
            return;
        case Tool::Measure:
            drag_ = Drag::Measure;
            look_.measured.reset();
            return;
        case Tool::Scale:
            if (look_.scaling.size() >= 2) look_.scaling.clear();
            look_.scaling.push_back(pressedM_);
            update();
            Q_EMIT readingChanged();
            return;
        case Tool::Look:
            break;
    }
    drag_ = Drag::Pan;
    if (!on) return;
    session_.document().settleHand();
    session_.select({Selection::Type::Support, on->support});
    held_ = *on;
    hand_.take();
    drag_ = on->other ? Drag::OtherEnd : Drag::Support;
}

void SiteCanvas::moveTo(const QPointF& metres) {
    hand_.apply(tr("Move ") + nameOf(held_.support), [&](model::Design& d) {
        fit_ = held_.whole
                   ? edit::shiftSupport(d, held_.support, metres.x() - pressedM_.x(),
                                        metres.y() - pressedM_.y(), steps())
                   : edit::placeSupport(d, held_.support, held_.other, metres.x(), metres.y(), steps());
    });
}

void SiteCanvas::mouseMoveEvent(QMouseEvent* event) {
    const QPointF now = event->position();
    const QPointF by = now - last_;
    last_ = now;
    look_.pointerM = look_.map.metres(now);
    if (drag_ != Drag::None && !moved_ && QLineF(pressed_, now).length() < kStillPx) return;
    moved_ = moved_ || drag_ != Drag::None;
    switch (drag_) {
        case Drag::Pan:
            look_.map.centreM -= QPointF(by.x(), -by.y()) / look_.map.pixelsPerM;
            break;
        case Drag::Support:
        case Drag::OtherEnd:
            moveTo(*look_.pointerM);
            break;
        case Drag::Measure:
        case Drag::NewEdge:
            look_.measured = QLineF(pressedM_, *look_.pointerM);
            break;
        case Drag::None:
            if (tool_ == Tool::Look) setCursor(under(now) ? Qt::PointingHandCursor : Qt::ArrowCursor);
    }
    update();
    Q_EMIT readingChanged();
}

void SiteCanvas::mouseReleaseEvent(QMouseEvent* event) {
    const Drag ended = drag_;
    drag_ = Drag::None;
    if (ended == Drag::Support || ended == Drag::OtherEnd) hand_.letGo();
    if (ended == Drag::NewEdge) {
        const auto line = look_.measured;
        put(pressedM_, line ? std::optional(line->p2()) : std::nullopt);
    }
    // A click on the ground lets go of what was selected; one on a wire takes it.
    if (ended == Drag::Pan && !moved_ && event->button() == Qt::LeftButton) {
        Selection clicked;
        double nearest = kTakePx;
        if (look_.expansion)
            for (const auto& wire : look_.expansion->model.wires) {
                const double d = pixelsToLine(pressed_, look_.at(wire.startM), look_.at(wire.endM));
                if (d >= nearest) continue;
                nearest = d;
                clicked = edit::itemNamed(session_.design(), wire.origin());
            }
        session_.select(clicked);
    }
    update();
    Q_EMIT readingChanged();
}

void SiteCanvas::put(const QPointF& metres, const std::optional<QPointF>& other) {
    const double step = steps().lengthM;
    const auto rounded = [&](const QPointF& p) {
        return QPointF(std::round(p.x() / step) * step, std::round(p.y() / step) * step);
    };
    const auto kind = kind_;
    setTool(Tool::Look);
    editing_.addSupport(kind, rounded(metres), other ? std::optional(rounded(*other)) : std::nullopt);
}

void SiteCanvas::hangOn(model::Id support) {
    const QString name = nameOf(support);
    if (!look_.hanging.isEmpty() && look_.hanging.last() == name) return finishHanging();
    look_.hanging << name;
    update();
    Q_EMIT readingChanged();
}

void SiteCanvas::finishHanging() {
    std::vector<std::string> names;
    for (const QString& name : look_.hanging) names.push_back(name.toStdString());
    if (names.size() < 2)
        return session_.caution(tr("A wire hangs from two supports at least: click another one."));
    setTool(Tool::Look);
    editing_.addHung(names);
}

void SiteCanvas::scalePicture(double metres, double bearingDeg) {
    if (look_.scaling.size() != 2) throw Error(say("Click two places of the picture first."));
    if (!(metres > 0.01 && metres < 1e5))
        throw Error(say("Type how far it is between the two places: 1 cm to 100 km."));
    const model::Backdrop& now = session_.design().site.backdrop;
    if (!picture_.canShow(now)) throw Error(say("There is no picture to scale: choose one first."));
    const QTransform back = picture_.onto(look_.map, now).inverted();
    const auto share = [&](const QPointF& point) {
        const QPointF pixel = back.map(look_.map.at(point));
        return QPointF(pixel.x() / picture_.image().width(), pixel.y() / picture_.image().height());
    };
    const QPointF first = share(look_.scaling[0]);
    const QPointF second = share(look_.scaling[1]);
    if (QLineF(first, second).length() < 1e-3)
        throw Error(say("The two places are one: click them further apart."));
    const QPointF from = look_.scaling[0];
    const double a = bearingDeg * kDegree;
    session_.document().editDesign(tr("Scale the picture"), [&](model::Design& d) {
        model::Backdrop& b = d.site.backdrop;
        b.firstX = first.x();
        b.firstY = first.y();
        b.secondX = second.x();
        b.secondY = second.y();
        b.firstEastM = from.x();
        b.firstNorthM = from.y();
        b.secondEastM = from.x() + metres * std::sin(a);
        b.secondNorthM = from.y() + metres * std::cos(a);
    });
    setTool(Tool::Look);
}

void SiteCanvas::mouseDoubleClickEvent(QMouseEvent*) {
    if (tool_ == Tool::Look) fit();
}

void SiteCanvas::wheelEvent(QWheelEvent* event) {
    look_.map.zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
    update();
    event->accept();
}

bool SiteCanvas::event(QEvent* event) {
    // What ends a tool does not stop the work of the bench.
    if (event->type() == QEvent::ShortcutOverride && tool_ != Tool::Look &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        event->accept();
        return true;
    }
    return Themed<QWidget>::event(event);
}

void SiteCanvas::keyPressEvent(QKeyEvent* event) {
    const Selection s = session_.selection();
    const bool feet = session_.project().feetAndInches;
    const bool far = event->modifiers() & Qt::ShiftModifier;
    // A tenth of a metre or three inches; a metre or a yard.
    const double step = feet ? (far ? 0.9144 : 0.0762) : (far ? 1.0 : 0.1);
    const auto push = [&](double east, double north) {
        if (s.type != Selection::Type::Support) return;
        session_.document().editDesign(
            tr("Move ") + nameOf(s.id),
            [&](model::Design& d) { edit::shiftSupport(d, s.id, east, north, handSteps(0.01, feet)); },
            tr("push %1").arg(s.id));
    };
    switch (event->key()) {
        case Qt::Key_Left:
            return push(-step, 0.0);
        case Qt::Key_Right:
            return push(step, 0.0);
        case Qt::Key_Up:
            return push(0.0, step);
        case Qt::Key_Down:
            return push(0.0, -step);
        case Qt::Key_Plus:
            look_.map.zoom(1.2, QPointF(0.5 * width(), 0.5 * height()));
            return update();
        case Qt::Key_Minus:
            look_.map.zoom(1.0 / 1.2, QPointF(0.5 * width(), 0.5 * height()));
            return update();
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (tool_ == Tool::Hang) return finishHanging();
            break;
        case Qt::Key_Escape:
            if (tool_ != Tool::Look) return setTool(Tool::Look);
            break;
        default:
            break;
    }
    QWidget::keyPressEvent(event);
}

void SiteCanvas::resizeEvent(QResizeEvent*) {
    look_.map.size = size();
    fit();
}

void SiteCanvas::leaveEvent(QEvent*) {
    look_.pointerM.reset();
    Q_EMIT readingChanged();
}

void SiteCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme_.yard);
    if (look_.site == nullptr) return;
    look_.map.size = size();
    SiteScene(look_, p).paint();
    if (!hasFocus()) return;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme_.reed, 1.2));
    p.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
}

}  // namespace rm::app
