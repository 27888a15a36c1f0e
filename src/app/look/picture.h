// Any view of the bench as a picture file.
#pragma once

#include <QString>

class QWidget;

namespace rm::app {

/// Renders the widget as it stands to SVG, PDF or PNG (at twice its size); the ending decides. Throws
/// rm::Error where the file cannot be written or the ending is another.
void writePicture(QWidget& widget, const QString& path);

}  // namespace rm::app
