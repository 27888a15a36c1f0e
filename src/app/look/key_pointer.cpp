#include "app/look/key_pointer.h"

#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPointer>
#include <QScrollArea>
#include <QWidget>
#include <algorithm>

#include "app/look/themed.h"

namespace rm::app {

namespace {

constexpr double kStepPx = 10.0;
constexpr double kFineStepPx = 1.0;
constexpr double kWideStepPx = 50.0;
constexpr double kCrossPx = 9.0;

/// Frame and cross, over the view and out of the mouse's way.
class PointerMark : public Themed<QWidget> {
  public:
    PointerMark(QWidget& view, const QPointF& at, const bool& held) : Themed(&view), at_(at), held_(held) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
        setFocusPolicy(Qt::NoFocus);
        hide();
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(theme_.reed, 2.0));
        p.drawRoundedRect(QRectF(rect()).adjusted(1.0, 1.0, -1.0, -1.0), 4.0, 4.0);
        // On any background: ink with paper round it.
        for (const auto& [colour, width] : {std::pair(theme_.panel, 4.0), std::pair(theme_.ink, 1.6)}) {
            p.setPen(QPen(colour, width, Qt::SolidLine, Qt::FlatCap));
            p.drawLine(at_ - QPointF(kCrossPx, 0.0), at_ + QPointF(kCrossPx, 0.0));
            p.drawLine(at_ - QPointF(0.0, kCrossPx), at_ + QPointF(0.0, kCrossPx));
            if (held_) p.drawEllipse(at_, 0.7 * kCrossPx, 0.7 * kCrossPx);
        }
    }

  private:
    const QPointF& at_;
    const bool& held_;
};

}  // namespace

KeyPointer::KeyPointer(QWidget& view)
    : QObject(&view), view_(view), mark_(new PointerMark(view, at_, held_)) {
    view.setFocusPolicy(Qt::TabFocus);
    view.installEventFilter(this);
}

bool KeyPointer::eventFilter(QObject*, QEvent* event) {
    const QPointer<KeyPointer> here(this);
    switch (event->type()) {
        case QEvent::FocusIn:
            show(true);
            break;
        case QEvent::FocusOut:
        case QEvent::Hide:
            show(false);
            break;
        case QEvent::Resize:
            mark_->resize(view_.size());
            if (shown_) moveTo(at_);
            break;
        case QEvent::KeyPress:
            return key(*static_cast<QKeyEvent*>(event));
        default:
            break;
    }
    return here.isNull();  // nobody is left to get it
}

bool KeyPointer::key(const QKeyEvent& event) {
    const auto modifiers = event.modifiers() & ~Qt::KeypadModifier;
    if (modifiers != Qt::NoModifier && modifiers != Qt::ShiftModifier && modifiers != Qt::ControlModifier)
        return false;
    const double step = modifiers == Qt::ShiftModifier     ? kFineStepPx
                        : modifiers == Qt::ControlModifier ? kWideStepPx
                                                           : kStepPx;
    switch (event.key()) {
        case Qt::Key_Left:
            moveBy(-step, 0.0);
            return true;
        case Qt::Key_Right:
            moveBy(step, 0.0);
            return true;
        case Qt::Key_Up:
            moveBy(0.0, -step);
            return true;
        case Qt::Key_Down:
            moveBy(0.0, step);
            return true;
        case Qt::Key_Home:
            moveTo({0.0, at_.y()});
            return true;
        case Qt::Key_End:
            moveTo({view_.width() - 1.0, at_.y()});
            return true;
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (held_) return letGo(), true;
            if (send(QEvent::MouseButtonPress, Qt::LeftButton))
                send(QEvent::MouseButtonRelease, Qt::LeftButton);
            return true;
        case Qt::Key_Space:
            if (held_) return letGo(), true;
            held_ = true;
            if (send(QEvent::MouseButtonPress, Qt::LeftButton)) mark_->update();
            return true;
        default:
            return false;
    }
}

void KeyPointer::moveBy(double right, double down) {
    moveTo(at_ + QPointF(right, down));
}

void KeyPointer::moveTo(const QPointF& point) {
    at_ = {std::clamp(point.x(), 0.0, std::max(0.0, view_.width() - 1.0)),
           std::clamp(point.y(), 0.0, std::max(0.0, view_.height() - 1.0))};
    // In a view that is larger than its window the cross stays in sight.
    for (QWidget* around = view_.parentWidget(); around != nullptr; around = around->parentWidget())
        if (auto* area = qobject_cast<QScrollArea*>(around)) {
            const QPoint inside = view_.mapTo(area->widget(), at_.toPoint());
            area->ensureVisible(inside.x(), inside.y());
            break;
        }
    if (send(QEvent::MouseMove, Qt::NoButton)) mark_->update();
}

bool KeyPointer::send(QEvent::Type type, Qt::MouseButton button) {
    const Qt::MouseButtons down =
        held_ || type == QEvent::MouseButtonPress ? Qt::MouseButtons(Qt::LeftButton) : Qt::NoButton;
    QMouseEvent event(type, at_, view_.mapToGlobal(at_), button, down, Qt::NoModifier);
    const QPointer<KeyPointer> here(this);
    QApplication::sendEvent(&view_, &event);
    return !here.isNull();
}

void KeyPointer::letGo() {
    held_ = false;
    if (send(QEvent::MouseButtonRelease, Qt::LeftButton)) mark_->update();
}

void KeyPointer::show(bool shown) {
    if (shown == shown_) return;
    shown_ = shown;
    mark_->setVisible(shown);
    if (shown) {
        mark_->setGeometry(view_.rect());
        mark_->raise();
        if (!placed_) at_ = QRectF(view_.rect()).center();
        placed_ = true;
        moveTo(at_);
        return;
    }
    if (held_) {
        held_ = false;
        if (!send(QEvent::MouseButtonRelease, Qt::LeftButton)) return;
    }
    QEvent leave(QEvent::Leave);
    QApplication::sendEvent(&view_, &leave);
}

}  // namespace rm::app
