// How far from the antenna people have to stay: which limits, at which power, at which heights.
#pragma once

#include <array>

#include "core/model/extra.h"

namespace rm::model {

enum class LimitSet { Icnirp1998, Icnirp2020, Fcc, Own };

/// Mean over peak power of what is sent: FCC OET Bulletin 65, supplement B (1997), table 2.
enum class SendMode { Carrier, SpeechSsb, ProcessedSsb, Morse };

struct KeepClear {
    LimitSet limits = LimitSet::Icnirp2020;
    SendMode mode = SendMode::Carrier;
    double dutyPercent = 100.0;  ///< of the averaging time, that is sent
    double marginDb = 3.0;       ///< of power, on top
    double headM = 1.8;          ///< height at which people walk
    double windowM = 5.0;        ///< of a chosen window
    double ownVm = 28.0;         ///< limits of one's own, rms
    double ownAm = 0.073;
    Extra extra = {};

    bool operator==(const KeepClear&) const = default;
};

}  // namespace rm::model
