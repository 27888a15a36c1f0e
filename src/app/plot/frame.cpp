#include "app/plot/frame.h"

#include <algorithm>
#include <cmath>

#include "app/look/text.h"

namespace rm::app {

QString tickText(double value, double step) {
    const int decimals =
        step >= 1.0 || !(step > 0.0) ? 0 : static_cast<int>(std::ceil(-std::log10(step) - 1e-9));
    // A step of 2.5 needs a decimal more.
    const double scaled = step * std::pow(10.0, decimals);
    const bool half = std::abs(scaled - std::round(scaled)) > 1e-6;
    return written(value, 'f', std::min(9, decimals + (half ? 1 : 0))).replace('-', QChar(0x2212));
}

void paintEndNames(QPainter& painter, const QRectF& area, double width, std::vector<EndName> names) {
    constexpr double kApart = 13.0;
    std::sort(names.begin(), names.end(), [](const EndName& a, const EndName& b) { return a.y < b.y; });
    for (std::size_t i = 1; i < names.size(); ++i) names[i].y = std::max(names[i].y, names[i - 1].y + kApart);
    double most = area.bottom() - 8.0;
    for (auto end = names.rbegin(); end != names.rend(); ++end, most -= kApart)
        end->y = std::min(end->y, most);
    painter.setFont(textFont(kSmallPt, true));
    const Theme theme = Theme::current();
    for (const EndName& end : names) {
        painter.setPen(theme.words(end.colour));
        painter.drawText(QRectF(area.right() + 6, end.y - 8, width - 8, 16), Qt::AlignLeft | Qt::AlignVCenter,
                         end.name);
    }
}

void Frame::paintGrid(QPainter& painter, const Theme& theme, int partsX, int partsY) const {
    painter.setFont(textFont(kTinyPt));
    const double stepY = roundStep(y.span(), partsY);
    for (const double v : ticksBy(y.low, y.high, stepY)) {
        painter.setPen(QPen(theme.line, 0.8));
        painter.drawLine(QPointF(area.left(), yOf(v)), QPointF(area.right(), yOf(v)));
        painter.setPen(theme.softInk);
        painter.drawText(QRectF(area.left() - 50, yOf(v) - 7, 45, 14), Qt::AlignRight | Qt::AlignVCenter,
                         tickText(v, stepY));
    }
    const double stepX = roundStep(x.span(), partsX);
    for (const double v : ticksBy(x.low, x.high, stepX)) {
        painter.setPen(QPen(theme.line, 0.8));
        painter.drawLine(QPointF(xOf(v), area.top()), QPointF(xOf(v), area.bottom()));
        painter.setPen(theme.softInk);
        // At the end of the axis the number stays in the picture.
        const QString number = tickText(v, stepX);
        const double half = 0.5 * painter.fontMetrics().horizontalAdvance(number) + 1.0;
        const double centre = std::min(xOf(v), painter.window().right() - half);
        painter.drawText(QRectF(centre - 40, area.bottom() + 3, 80, 13), Qt::AlignCenter, number);
    }
    painter.setPen(QPen(theme.line, 1.0));
    painter.drawLine(area.bottomLeft(), area.bottomRight());
    painter.drawLine(area.topLeft(), area.bottomLeft());
}

void Frame::paintTitles(QPainter& painter, const Theme& theme, const QString& below,
                        const QString& left) const {
    painter.setFont(textFont(kTinyPt));
    painter.setPen(theme.softInk);
    painter.drawText(QRectF(area.left(), area.bottom() + 16, area.width(), 13), Qt::AlignCenter, below);
    painter.save();
    painter.translate(area.left() - 42, area.center().y());
    painter.rotate(-90.0);
    painter.drawText(
        QRectF(-0.5 * area.height() - 30, -7, area.height() + 60, 14), Qt::AlignCenter,
        painter.fontMetrics().elidedText(left, Qt::ElideRight, static_cast<int>(area.height() + 60)));
    painter.restore();
}

}  // namespace rm::app
