// Conductors by name.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace rm::model {

struct Material {
    std::string id;                        ///< as stored in the project file
    std::string name;                      ///< as shown
    std::optional<double> conductivitySm;  ///< none: perfect conductor
    double densityKgM3 = 0.0;              ///< of the metal; of clad steel with 30 % of copper's conductivity
};

/// Conductivities at 20 degrees C and densities from the CRC Handbook of Chemistry and Physics (metals) and
/// common data sheets (alloys).
const std::vector<Material>& materials();

/// The material with this id, or nullptr.
const Material* findMaterial(const std::string& id);

}  // namespace rm::model
