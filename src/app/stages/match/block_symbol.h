// The drawing of each kind of block in the chain.
#pragma once

#include <QPainter>

#include "core/model/design.h"

namespace rm::app {

/// Draws the symbol of a block inside `box`, the line entering and leaving at half height. Pen and brush are
/// the painter's.
void paintBlockSymbol(QPainter& painter, const QRectF& box, const model::FeedBlock& block);

}  // namespace rm::app
