// Where the keyboard is, on views that paint themselves.
#pragma once

class QPainter;
class QWidget;

namespace rm::app {

struct Theme;

/// A frame round the view in the colour of cursors while it has the focus.
void paintFocusFrame(QPainter& p, const QWidget& view, const Theme& theme);

}  // namespace rm::app
