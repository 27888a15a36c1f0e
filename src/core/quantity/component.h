// Values of coils and capacitors written for people, in the unit in which they are sold.
#pragma once

#include <string>

namespace rm::quantity {

/// "197 pF", "1.37 nF", "2.2 µF": three digits, of a value in pF.
std::string formatCapacitance(double picofarad, int digits = 3);
/// "45 nH", "3.72 µH", "1.2 mH": of a value in µH.
std::string formatInductance(double microhenry, int digits = 3);

}  // namespace rm::quantity
