// Text as large as the desktop's, and everything round it: the window is drawn at the scale that makes its
// text that of other windows.
#pragma once

#include <QSize>

namespace rm::app {

/// How many times larger than drawn at 96 dots per inch the window has to be for its text to be as large as
/// the desktop's, of `points` at `dotsPerInch`: 1 for what is usual or smaller, and no more than lets the
/// window fit into `room` pixels. In steps of a twentieth.
double desktopScale(double points, double dotsPerInch, QSize room);

/// Begins the program anew with that scale, where it is another one than 1 and nobody has chosen one
/// (QT_SCALE_FACTOR); else it returns. For the moment after the application is made and before any window is.
void followDesktopText(char** arguments);

}  // namespace rm::app
