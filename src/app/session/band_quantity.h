// The quantities that the band instrument shows.
#pragma once

namespace rm::app {

enum class BandQuantity { Swr, Impedance, Smith, ReturnLoss, Phase, Loss, Gain, FrontToBack, Takeoff };

/// The quantity is one of the pattern, so that Results::patterns is needed.
inline bool ofPattern(BandQuantity q) {
    return q == BandQuantity::Gain || q == BandQuantity::FrontToBack || q == BandQuantity::Takeoff;
}

}  // namespace rm::app
