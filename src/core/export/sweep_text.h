// A sweep as comma-separated values or as a Touchstone file, seen from the radio or from the antenna.
#pragma once

#include <string>

#include "core/model/expand.h"
#include "core/study/measured_curve.h"

namespace rm::io {

/// Columns frequency_MHz, R_ohm, X_ohm, SWR, return_loss_dB at the plane, to the reference of the sweep, and
/// feed_path_loss_dB.
std::string sweepCsv(const model::Expansion& design, const study::Sweep& sweep, study::Plane plane);

/// Touchstone text (io/touchstone.h) that says it is modelled.
std::string sweepTouchstone(const std::string& designName, const study::Sweep& sweep, study::Plane plane);

}  // namespace rm::io
