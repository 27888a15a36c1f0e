#include "app/stages/shape/yard_tool.h"

#include <algorithm>

namespace rm::app {

void paintTag(QPainter& p, const YardState& yard, const QPointF& at, const QStringList& lines) {
    if (lines.isEmpty()) return;
    const auto fontOf = [&](qsizetype i) { return textFont(i == 0 ? kTextPt : kTinyPt, i == 0); };
    double wide = 0.0;
    for (qsizetype i = 0; i < lines.size(); ++i)
        wide = std::max<double>(wide, QFontMetricsF(fontOf(i)).horizontalAdvance(lines[i]));
    const double tall = 16.0 + 12.0 * static_cast<double>(lines.size() - 1);
    QRectF box(at.x() + 16, at.y() + 14, wide + 16, tall + 8);
    // Away from the antenna, so that it does not cover what is being shaped.
    const QPointF middle = yard.at(yard.centreM);
    if (at.x() < middle.x()) box.moveRight(at.x() - 16);
    if (at.y() < middle.y()) box.moveBottom(at.y() - 12);
    // Never outside of the yard, never under the pointer.
    if (box.right() > yard.size.width() - 6) box.moveRight(at.x() - 12);
    if (box.left() < 6) box.moveLeft(6);
    if (box.top() < 28) box.moveTop(28);
    if (box.bottom() > yard.size.height() - 6) box.moveBottom(at.y() - 12);
    // Never over what is in hand.
    if (box.adjusted(-8, -8, 8, 8).contains(at)) {
        const bool below = at.y() + 20 + box.height() < yard.size.height() - 6;
        below ? box.moveTop(at.y() + 20) : box.moveBottom(at.y() - 20);
    }
    QColor back = yard.theme.panel;
    back.setAlphaF(0.94F);
    p.setPen(QPen(yard.theme.line, 1));
    p.setBrush(back);
    p.drawRoundedRect(box, 5, 5);
    double y = box.top() + 4;
    for (qsizetype i = 0; i < lines.size(); ++i) {
        const double height = i == 0 ? 16.0 : 12.0;
        p.setFont(fontOf(i));
        p.setPen(i == 0 ? yard.theme.ink : yard.theme.softInk);
        p.drawText(QRectF(box.left() + 8, y, wide + 4, height), Qt::AlignLeft | Qt::AlignVCenter, lines[i]);
        y += height;
    }
}

}  // namespace rm::app
