#include "core/model/dimension_kind.h"

#include <fmt/format.h>

namespace rm::model {

std::string exactText(DimensionKind kind, double value) {
    return fmt::format("{:.12g}{}", value,
                       kind == DimensionKind::Length  ? " m"
                       : kind == DimensionKind::Angle ? " deg"
                                                      : "");
}

}  // namespace rm::model
