// The Cartesian frame that plots share: an area with two axes, their lines, labels and titles.
#pragma once

#include <QPainter>
#include <QRectF>
#include <algorithm>
#include <vector>

#include "app/look/theme.h"
#include "app/plot/ticks.h"

namespace rm::app {

struct Frame {
    QRectF area;
    Range x;
    Range y;

    double xOf(double value) const { return area.left() + area.width() * (value - x.low) / x.span(); }
    /// Values beyond the ends are drawn at them.
    double yOf(double value) const {
        return area.bottom() - area.height() * (std::clamp(value, y.low, y.high) - y.low) / y.span();
    }
    QPointF at(double xValue, double yValue) const { return {xOf(xValue), yOf(yValue)}; }
    double xAt(double pixel) const { return x.low + x.span() * (pixel - area.left()) / area.width(); }

    /// The lines across with their labels to the left, and those upright with theirs below.
    void paintGrid(QPainter& painter, const Theme& theme, int partsX, int partsY) const;
    /// Titles below and, turned, at the left.
    void paintTitles(QPainter& painter, const Theme& theme, const QString& below, const QString& left) const;
};

/// The name of a curve where it ends, in its colour.
struct EndName {
    double y = 0.0;
    QString name;
    QColor colour;
};

/// Names to the right of an area, `width` pixels wide, pushed apart where they would touch and kept above its
/// bottom.
void paintEndNames(QPainter& painter, const QRectF& area, double width, std::vector<EndName> names);

/// A label with as many decimals as a step asks for.
QString tickText(double value, double step);

}  // namespace rm::app
