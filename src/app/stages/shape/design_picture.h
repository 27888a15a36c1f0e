// A small picture of a design, as the yard draws it.
#pragma once

#include <QImage>

#include "app/look/theme.h"
#include "app/session/results.h"

namespace rm::app {

/// The antenna at an angle, filling the picture. Empty where it has no wires.
QImage designPicture(const ExpansionPtr& expansion, const QSize& size, const Theme& theme);

}  // namespace rm::app
