// Drive sets made by pattern, as a menu.
#pragma once

#include "app/session/editing.h"
#include "core/study/drive_study.h"

class QMenu;

namespace rm::app {

void fillDrivePatterns(QMenu& menu, Session& session, Editing& editing);

/// Makes the drive sets of a pattern, or says why these feeds have none.
void addDrivePattern(Session& session, Editing& editing, study::DrivePattern pattern, double bearingDeg);

}  // namespace rm::app
