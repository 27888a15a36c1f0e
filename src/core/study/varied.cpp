#include "core/study/varied.h"

#include <fmt/format.h>

namespace rm::study {

std::string exactText(model::DimensionKind kind, double value) {
    return fmt::format("{:.12g}{}", value,
                       kind == model::DimensionKind::Length  ? " m"
                       : kind == model::DimensionKind::Angle ? " deg"
                                                             : "");
}

model::Design withDimension(const model::Design& design, const std::string& name, double value) {
    model::Design d = design;
    for (auto& dimension : d.dimensions)
        if (dimension.name == name) {
            dimension.text = exactText(dimension.kind, value);
            return d;
        }
    throw Error(fmt::format("There is no dimension named \"{}\".", name));
}

}  // namespace rm::study
