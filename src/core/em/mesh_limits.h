// What is too large or too far apart to be worked out: told before anything is laid out.
#pragma once

#include "core/model/wire_model.h"

namespace rm::em {

/// The lengths that a mesh is cut by.
struct Wavelengths {
    double airM = 0.0;
    double soilM = 0.0;  ///< in real ground the length over which a wave there turns or falls by 2 pi

    double at(bool inSoil) const { return inSoil ? soilM : airM; }
};
Wavelengths wavelengthsOver(const model::Ground& ground, double frequencyHz);

/// Throws rm::Error with the size and the mend where a model has more unknowns than can be solved, or wires
/// farther apart than their phase can be told.
void requireWorkable(const model::WireModel& model, const Wavelengths& wavelengths);

}  // namespace rm::em
