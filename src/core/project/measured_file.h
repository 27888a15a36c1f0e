// Reads what analysers write: Touchstone one-port files and tables of comma-separated values.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/model/measured.h"
#include "core/project/text_table.h"

namespace rm::io {

/// A table as it was understood.
struct MeasuredTable {
    model::MeasuredData data;
    TableStyle style;
    std::string understood;  ///< "commas between the columns, points in the numbers: frequency, R, X"
};

/// Reads the text of a table in every way that makes sense of all of it; more than one where they differ in
/// what they say. The columns are recognised by their titles, with units in them: frequency with R and X, |Z|
/// and phase, real and imaginary part or dB and phase of the reflection coefficient, return loss and phase,
/// or SWR alone; without titles two columns are frequency and SWR, three are frequency, R and X. `name` is
/// for messages. Throws rm::Error with one sentence that names the file and the line.
std::vector<MeasuredTable> measuredReadings(const std::string& text, const std::string& name);

/// The only way to read it; throws rm::Error where there are several.
model::MeasuredData parseMeasuredCsv(const std::string& text, const std::string& name);

/// Reads a .s1p file (in its one way) or a table; the ending decides, then the text.
std::vector<MeasuredTable> readMeasured(const std::filesystem::path& file);

}  // namespace rm::io
