// Which lengths are critical, and which forgive.
#pragma once

#include <stop_token>
#include <vector>

#include "core/build/pieces.h"

namespace rm::build {

/// Beyond this a length matters to nobody.
inline constexpr double kFreeM = 1.0;

/// What it does to an antenna that one piece is off, where all pieces that its length is shared with are off
/// alike.
struct Care {
    /// No number of the design changes its length without parting what is joined, or at all: nothing is
    /// known.
    bool known = false;
    /// How far off it may be, longer or shorter, until one of them has changed by what is noticed: the SWR by
    /// 0.05, the gain by 0.1 dB, front-to-rear by 1 dB. Nothing forgives more than `kFreeM`.
    double keepToM = kFreeM;
    double hzPerMm = 0.0;  ///< of the resonance nearest to the frequency, without sign; 0 where there is none
    double swrPerMm = 0.0;  ///< of the SWR at the radio there, without sign, as the next two
    double gainDbPerMm = 0.0;
    double rearDbPerMm = 0.0;  ///< front-to-rear
};

/// One for each piece of the cut list of the design, of every length that stands in the design as a number:
/// slopes from differences of a millimetre (study/tuning/sensitivities), and the way to what is noticed in
/// steps that grow, because at the best length the slope of the SWR says nothing. Throws rm::Error for a
/// design with errors.
std::vector<Care> careOf(const model::Design& design, double frequencyHz, std::stop_token stop = {});

}  // namespace rm::build
