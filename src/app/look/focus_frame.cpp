#include "app/look/focus_frame.h"

#include <QPainter>
#include <QWidget>

#include "app/look/theme.h"

namespace rm::app {

void paintFocusFrame(QPainter& p, const QWidget& view, const Theme& theme) {
    if (!view.hasFocus()) return;
    p.setOpacity(1.0);
    p.setPen(QPen(theme.heather, 1.0));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(QRectF(view.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
}

}  // namespace rm::app
