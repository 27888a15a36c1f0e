// Amateur bands from 1.8 to 450 MHz.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "core/model/typed.h"

namespace rm::model {

/// A band of a project, with the designer's own edges and favourite spot frequencies.
struct Band {
    std::string name;
    double lowHz = 0.0;
    double highHz = 0.0;
    std::vector<double> spotsHz;

    double centreHz() const { return 0.5 * (lowHz + highHz); }
    Extra extra = {};

    bool operator==(const Band&) const = default;
};

/// SWR up to which a band counts as good, usable and bad but possible, rising.
using SwrLimits = std::array<double, 3>;
inline constexpr SwrLimits kUsualSwrLimits = {1.5, 2.0, 3.0};

/// Usual allocations, the common part of the three ITU regions or region 1 where they differ; projects copy
/// from here and edit their own. Source: ITU Radio Regulations, article 5.
const std::vector<Band>& allocatedBands();

/// The allocated band of this name, or nullptr.
const Band* findAllocatedBand(const std::string& name);

}  // namespace rm::model
