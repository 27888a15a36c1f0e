// Reads what analysers write: Touchstone one-port files and tables of comma-separated values.
#pragma once

#include <filesystem>
#include <string>

#include "core/model/measured.h"

namespace rm::io {

/// Reads the text of a table. The columns are recognised by their titles, with units in them: frequency with
/// R and X, |Z| and phase, real and imaginary part or dB and phase of the reflection coefficient, return loss
/// and phase, or SWR alone; without titles two columns are frequency and SWR, three are frequency, R and X.
/// Separated by comma, semicolon, tab or blanks; decimal commas where the separator is none. `name` is for
/// messages. Throws rm::Error with one sentence that names the file and the line.
model::MeasuredData parseMeasuredCsv(const std::string& text, const std::string& name);

/// Reads a .s1p file or a table; the ending decides, then the text.
model::MeasuredData readMeasured(const std::filesystem::path& file);

}  // namespace rm::io
