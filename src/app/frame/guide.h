// Where the guide for designers lies on this machine.
#pragma once

#include <QString>

namespace rm::app {

/// The guide that was installed with the program, or else that of the source it was built in; empty: there is
/// none.
QString guidePath();

}  // namespace rm::app
