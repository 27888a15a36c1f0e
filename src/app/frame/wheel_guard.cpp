#include "app/frame/wheel_guard.h"

#include <QAbstractScrollArea>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QEvent>
#include <QSlider>
#include <QWheelEvent>

namespace rm::app {

bool WheelGuard::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::Wheel && event->type() != QEvent::Polish) return false;
    auto* widget = qobject_cast<QWidget*>(watched);
    const bool turns = qobject_cast<QSlider*>(watched) != nullptr ||
                       qobject_cast<QComboBox*>(watched) != nullptr ||
                       qobject_cast<QAbstractSpinBox*>(watched) != nullptr;
    if (widget == nullptr || !turns) return false;
    // Nor does it bring the focus.
    if (event->type() == QEvent::Polish && widget->focusPolicy() == Qt::WheelFocus)
        widget->setFocusPolicy(Qt::StrongFocus);
    if (event->type() != QEvent::Wheel || widget->hasFocus()) return false;
    const auto* wheel = static_cast<QWheelEvent*>(event);
    QWidget* around = widget->parentWidget();
    while (around != nullptr && qobject_cast<QAbstractScrollArea*>(around) == nullptr)
        around = around->parentWidget();
    if (around != nullptr) {
        QWidget* paper = static_cast<QAbstractScrollArea*>(around)->viewport();
        QWheelEvent scroll(paper->mapFromGlobal(wheel->globalPosition()), wheel->globalPosition(),
                           wheel->pixelDelta(), wheel->angleDelta(), wheel->buttons(), wheel->modifiers(),
                           wheel->phase(), wheel->inverted());
        QApplication::sendEvent(paper, &scroll);
    }
    event->accept();
    return true;
}

}  // namespace rm::app
