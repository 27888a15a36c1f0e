#include "app/stages/match/block_symbol.h"

#include <QPainterPath>

namespace rm::app {

namespace {

using model::BlockKind;
using model::ElementKind;

/// A coil of four turns between two points.
void coil(QPainter& p, QPointF from, QPointF to) {
    const QPointF step = (to - from) / 4.0;
    const QPointF out(step.y(), -step.x());
    QPainterPath path(from);
    for (int i = 0; i < 4; ++i) {
        const QPointF a = from + i * step;
        path.cubicTo(a + 1.3 * out, a + step + 1.3 * out, a + step);
    }
    p.drawPath(path);
}

/// Two plates in the middle between two points.
void capacitor(QPainter& p, QPointF from, QPointF to) {
    const QPointF along = to - from;
    const double length = std::hypot(along.x(), along.y());
    const QPointF unit = along / length;
    const QPointF side = QPointF(-unit.y(), unit.x()) * 7.0;
    const QPointF middle = 0.5 * (from + to);
    for (const double which : {-1.0, 1.0}) {
        const QPointF plate = middle + which * 2.5 * unit;
        p.drawLine(plate - side, plate + side);
        p.drawLine(plate, which < 0.0 ? from : to);
    }
}

void element(QPainter& p, ElementKind kind, QPointF from, QPointF to) {
    if (kind == ElementKind::Inductor) return coil(p, from, to);
    if (kind == ElementKind::Capacitor) return capacitor(p, from, to);
    const QPointF middle = 0.5 * (from + to);
    const bool flat = std::abs(to.x() - from.x()) > std::abs(to.y() - from.y());
    const QRectF body(middle - QPointF(flat ? 9 : 4, flat ? 4 : 9), QSizeF(flat ? 18 : 8, flat ? 8 : 18));
    p.drawRect(body);
    p.drawLine(from, flat ? QPointF(body.left(), from.y()) : QPointF(from.x(), body.top()));
    p.drawLine(flat ? QPointF(body.right(), to.y()) : QPointF(to.x(), body.bottom()), to);
}

/// From the line down to the common wire, ended by a short bar.
void across(QPainter& p, ElementKind kind, QPointF top, double bottom) {
    const QPointF end(top.x(), bottom - 3.0);
    element(p, kind, top, end);
    p.drawLine(end - QPointF(6, 0), end + QPointF(6, 0));
}

}  // namespace

void paintBlockSymbol(QPainter& p, const QRectF& box, const model::FeedBlock& block) {
    const double y = box.center().y();
    const QPointF left(box.left(), y);
    const QPointF right(box.right(), y);
    const QPointF middle = box.center();
    p.setBrush(Qt::NoBrush);
    switch (block.kind) {
        case BlockKind::Transformer: {
            const double gap = 6.0;
            p.drawLine(left, QPointF(middle.x() - gap - 6, y));
            p.drawLine(QPointF(middle.x() + gap + 6, y), right);
            p.drawEllipse(QPointF(middle.x() - gap, y), 11.0, 11.0);
            p.drawEllipse(QPointF(middle.x() + gap, y), 11.0, 11.0);
            break;
        }
        case BlockKind::Cable:
        case BlockKind::QuarterWave: {
            const QRectF body(box.left() + 7, y - 6, box.width() - 14, 12);
            p.drawRoundedRect(body, 6, 6);
            p.drawLine(left, right);
            if (block.kind == BlockKind::QuarterWave)
                p.drawText(QRectF(body.left(), body.top() - 15, body.width(), 14), Qt::AlignCenter, "λ/4");
            break;
        }
        case BlockKind::Stub: {
            p.drawLine(left, right);
            const double bottom = box.bottom() - 2;
            p.drawRoundedRect(QRectF(middle.x() - 4, y + 3, 8, bottom - y - 5), 4, 4);
            p.drawLine(middle, QPointF(middle.x(), bottom));
            if (block.shorted) p.drawLine(QPointF(middle.x() - 8, bottom), QPointF(middle.x() + 8, bottom));
            break;
        }
        case BlockKind::Element:
            if (block.shunt) {
                p.drawLine(left, right);
                across(p, block.element, middle, box.bottom());
            } else {
                element(p, block.element, left + QPointF(6, 0), right - QPointF(6, 0));
                p.drawLine(left, left + QPointF(6, 0));
                p.drawLine(right - QPointF(6, 0), right);
            }
            break;
        case BlockKind::Network: {
            const double each =
                box.width() / static_cast<double>(std::max<std::size_t>(1, block.arms.size()));
            double x = box.left();
            for (const auto& arm : block.arms) {
                if (arm.shunt) {
                    p.drawLine(QPointF(x, y), QPointF(x + each, y));
                    across(p, arm.element, QPointF(x + 0.5 * each, y), box.bottom());
                } else {
                    element(p, arm.element, QPointF(x, y), QPointF(x + each, y));
                }
                x += each;
            }
            break;
        }
        case BlockKind::Choke:
            p.drawLine(left, right);
            p.drawEllipse(middle, 12.0, 12.0);
            p.drawEllipse(middle, 6.0, 6.0);
            break;
    }
}

}  // namespace rm::app
