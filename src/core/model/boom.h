// What a metal boom does to the elements on it, and what has to be added to them when they are cut.
#pragma once

#include "core/model/element_row.h"

namespace rm::model {

/// The thickest boom in wavelengths that the correction was measured for.
inline constexpr double kThickestBoomWavelengths = 0.055;

/// What to add to the free-space length of a straight element, in metres: C/B = 25.195 B/lambda -
/// 229 (B/lambda)^2 for elements bonded to a round metal boom of diameter B that they pass through, half of
/// it where they pass through insulated, a quarter where they lie above it; a square boom counts as a round
/// one of its side. Zero for no boom and an insulating one. Source: polynomial by I. White after the
/// measurements of G. Hoch, in The VHF/UHF DX Book (1992), chapter 7; the quarter is a rule of thumb.
double boomCorrectionM(BoomKind kind, double diameterM, double lambdaM);

}  // namespace rm::model
