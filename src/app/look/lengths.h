// Lengths as the window writes them to be read: in metres, or in feet and inches where its project says so.
// What was typed stays as it was typed.
#pragma once

#include <QString>

#include "core/quantity/format.h"

namespace rm::app {

bool inFeet();
/// The same for what the core writes.
quantity::LengthStyle lengthStyle();
/// Writes lengths in feet and inches from now on, or in metres; whoever paints them learns of it as of a
/// change of locale.
void writeInFeet(bool feet);

/// To so many decimals of a metre. In feet as a tape has it (quantity/format.h); with one decimal or none,
/// what is only read roughly, in feet and tenths or in whole feet.
QString lengthText(double metres, int decimals);

/// What scales of lengths count in.
struct LengthUnit {
    double metres = 1.0;
    QString name;   ///< "m"
    QString whole;  ///< "metres"

    /// A round length of a scale with its unit, of which `count` stands there.
    QString text(double count) const;
    /// A length that was typed in metres, to a tenth: "1.8 m", "5 m", "5.9 ft".
    QString near(double lengthM) const;
};
LengthUnit lengthUnit();

}  // namespace rm::app
