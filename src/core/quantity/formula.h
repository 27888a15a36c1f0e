// Numbers as people write them: lengths with any unit, feet with inches and fractions, angles, and formulas
// over named dimensions.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/common.h"

namespace rm::quantity {

/// What a field holds; it decides the unit of a bare number and of the result.
enum class Kind {
    Length,     ///< bare numbers in m, result in m
    Diameter,   ///< bare numbers in mm, result in m
    Angle,      ///< degrees
    Frequency,  ///< bare numbers in MHz, result in Hz
    Number,     ///< no unit
};

/// What a formula may refer to: the dimensions, and lambda of the design frequency.
struct Scope {
    std::map<std::string, double> values;
    double lambdaM = 0.0;
};

/// Value of `text` in SI units (degrees for angles). Understands `12.5 m`, `1250 cm`, `41 ft 6 1/2 in`,
/// `41' 6 1/2"`, `0.25 lambda`, `14 awg`, `14.15 MHz`, `30 deg`, + - * / ^ and brackets, names of the scope,
/// and sqrt, abs, min, max, sin, cos, tan, asin, acos, atan (degrees). Throws rm::Error with one sentence.
double evaluate(const std::string& text, Kind kind, const Scope& scope);

/// Names of dimensions that the text uses, without lambda. Throws rm::Error where it cannot be read.
std::vector<std::string> namesIn(const std::string& text);

/// True where the text is a number with or without a unit: something a slider may replace.
bool isPlainNumber(const std::string& text);

/// A name that a dimension may have: a letter, then letters, digits and underscores, and not a word of
/// formulas.
bool isUsableName(const std::string& name);

/// The name in `candidates` most like `name`, or empty where none is close.
std::string closestName(const std::string& name, const std::vector<std::string>& candidates);

}  // namespace rm::quantity
