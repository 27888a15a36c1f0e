// The menus and their keys.
#pragma once

#include "app/session/editing.h"

class QMainWindow;

namespace rm::app {

class Bench;
class Files;
class Questions;

/// Fills the menu bar of the bench; what stages have to offer comes from them.
void buildMenus(Bench& bench, Questions& questions);

}  // namespace rm::app
