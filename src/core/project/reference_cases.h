// Reads antenna problems with expected values in the neutral form described in docs/formats.md.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/em/far_field.h"
#include "core/model/wire_model.h"

namespace rm::io {

/// Expected values of a case and how far a result may differ.
struct Expectation {
    std::vector<Complex> impedanceOhm;  ///< per feed
    double impedanceToleranceOhm = 0.0;
    std::vector<double> gainDbi;  ///< per look direction; -99 stands for below -60 dBi
    double gainToleranceDb = 0.0;
    double gainWithinDb = 0.0;  ///< directions this close to the maximum are compared
    double maxDbi = 0.0;
};

struct ReferenceCase {
    std::string name;
    double frequencyHz = 0.0;
    model::WireModel model;
    std::vector<em::Direction> look;
    std::optional<Expectation> expected;

    /// No loss anywhere: the average gain has to be one.
    bool lossless() const;
};

/// Throws rm::Error with the name, the case and the member at fault.
std::vector<ReferenceCase> parseReferenceCases(const std::string& text, const std::string& name);

/// Throws rm::Error with the file, the case and the member at fault.
std::vector<ReferenceCase> readReferenceCases(const std::filesystem::path& file);

}  // namespace rm::io
