// Numbers written for people: lengths in metric or tape units, frequencies, SWR, decibels.
#pragma once

#include <string>

#include "core/common.h"

namespace rm::quantity {

enum class LengthStyle { Metric, FeetInches };

/// "12.50 m", "34 mm" or "41' 0 1/8\"" (to the nearest eighth of an inch, below 3 m to the nearest
/// sixteenth).
std::string formatLength(double metres, LengthStyle style = LengthStyle::Metric);
/// What is read roughly: "10.6 m" or "34.8 ft", to so many decimals of the unit.
std::string formatRough(double metres, int decimals, LengthStyle style = LengthStyle::Metric);
/// Feet, inches and fractions of an inch to 1/8, 1/16 or 1/32: "1' 2 5/16\"".
std::string formatTape(double metres, int parts);
/// Marks to an inch that a length is told to: 8, or 16 below 3 m.
int tapeParts(double metres);
/// How the core's sentences write lengths from now on, those of all threads: in metres at the start.
void sayLengths(LengthStyle style);
/// A length in a sentence: in metres to so many decimals, or on a tape where it is told to the centimetre or
/// finer, else in feet.
std::string said(double metres, int decimals);
/// Diameters: "2.00 mm".
std::string formatDiameter(double metres);
/// "14.150 MHz", "1 850.0 kHz" below 2 MHz is still MHz: always MHz with three decimals, more where needed.
std::string formatFrequency(double hertz);
/// "1.43", "12.6", "> 99".
std::string formatSwr(double swr);
/// "73.1 + j42.5" in ohm.
std::string formatImpedance(Complex ohm);
/// Signed decibels with one decimal and a true minus sign: "−4.2"; an en dash where nothing is radiated.
std::string formatDb(double db, int decimals = 1);

/// `metres` written in the unit that `like` is written in (metres where it has none), with the precision of a
/// tape.
std::string lengthLike(const std::string& like, double metres);

}  // namespace rm::quantity
