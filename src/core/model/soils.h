// Ground types by description, with their constants.
#pragma once

#include <string>
#include <vector>

#include "core/model/wire_model.h"

namespace rm::model {

/// A kind of ground. Water relaxes (Debye): its permittivity falls and its loss rises towards VHF.
struct Soil {
    std::string id;    ///< as stored in the project file
    std::string name;  ///< as shown
    double relativePermittivity = 13.0;
    double conductivitySm = 0.005;
    double relaxationHz = 0.0;
    std::string source;
};

/// From the best to the poorest. docs/theory.md, "Ground constants", names the sources.
const std::vector<Soil>& soils();

/// The soil with this id, or nullptr.
const Soil* findSoil(const std::string& id);

/// Real ground of this soil.
Ground groundOf(const Soil& soil);

/// Complex relative permittivity at a frequency: eps_r - j sigma/(w eps0), for water with
/// eps_r -> eps_inf + (eps_r - eps_inf)/(1 + j f/f_relaxation), eps_inf = 0.067 eps_r. Source: Recommendation
/// ITU-R P.527, P.840 (first relaxation of water).
Complex permittivityAt(const Ground& ground, double frequencyHz);

}  // namespace rm::model
