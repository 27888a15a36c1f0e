// What painted views say to those who cannot see them. A view that paints itself is painted once more onto a
// device that keeps only its words and where they are: so assistive programs read what is on the screen, row
// by row, and no view has to say anything twice.
#pragma once

#include <QRect>
#include <QString>
#include <vector>

class QWidget;

namespace rm::app {

/// Words that stand beside each other in a view, and their place in it, px.
struct PaintedRow {
    QString text;
    QRect place;
};

/// The words that a widget paints itself, without its children: rows from the top, each from left to right.
/// What is apart in a row is divided by a comma.
std::vector<PaintedRow> paintedRows(QWidget& widget);

/// From now on assistive programs find these rows in every view that paints itself.
void readPaintedViews();

}  // namespace rm::app
