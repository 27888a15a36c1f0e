#include "app/frame/wheel_guard.h"

#include <QAbstractSpinBox>
#include <QComboBox>
#include <QEvent>
#include <QSlider>

namespace rm::app {

bool WheelGuard::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::Wheel && event->type() != QEvent::Polish) return false;
    auto* widget = qobject_cast<QWidget*>(watched);
    const bool turns = qobject_cast<QSlider*>(watched) != nullptr || qobject_cast<QComboBox*>(watched) != nullptr ||
                       qobject_cast<QAbstractSpinBox*>(watched) != nullptr;
    if (widget == nullptr || !turns) return false;
    // Nor does it bring the focus.
    if (event->type() == QEvent::Polish && widget->focusPolicy() == Qt::WheelFocus)
        widget->setFocusPolicy(Qt::StrongFocus);
    if (event->type() != QEvent::Wheel || widget->hasFocus()) return false;
    event->ignore();
    return true;
}

}  // namespace rm::app
