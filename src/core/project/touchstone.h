// One-port Touchstone 1.1 files (.s1p): what analysers write and read.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/common.h"

namespace rm::io {

/// An impedance measured or computed at one frequency.
struct ImpedancePoint {
    double frequencyHz = 0.0;
    Complex impedanceOhm;
};

/// Reads the text of a one-port file: units Hz, kHz, MHz and GHz, formats MA, DB and RI, parameters S, Z and
/// Y, any reference resistance; comments after "!". `name` is for messages. Throws rm::Error with one
/// sentence that names the file and the line. Source: Touchstone File Format Specification, Rev. 1.1
/// (EIA/IBIS Open Forum, 2002).
std::vector<ImpedancePoint> parseTouchstone(const std::string& text, const std::string& name);
std::vector<ImpedancePoint> readTouchstone(const std::filesystem::path& file);

/// The text of a file with reflection coefficients as real and imaginary parts, in MHz, to `referenceOhm`.
std::string touchstoneText(const std::vector<ImpedancePoint>& points, double referenceOhm,
                           const std::string& comment);

}  // namespace rm::io
