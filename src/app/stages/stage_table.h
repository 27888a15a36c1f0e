// All stages, in the order in which they stand in the menus.
#pragma once

#include <memory>
#include <vector>

#include "app/stages/stage.h"

namespace rm::app {

std::vector<std::unique_ptr<Stage>> makeStages(Session& session, Editing& editing);

}  // namespace rm::app
