#include "core/study/varied.h"

#include <fmt/format.h>

#include "core/model/dimension_kind.h"

namespace rm::study {

model::Design withDimension(const model::Design& design, const std::string& name, double value) {
    model::Design d = design;
    for (auto& dimension : d.dimensions)
        if (dimension.name == name) {
            dimension.text = model::exactText(dimension.kind, value);
            return d;
        }
    throw Error(fmt::format("There is no dimension named \"{}\".", name));
}

}  // namespace rm::study
