#include "core/study/varied.h"

#include <fmt/format.h>

#include "core/model/dimension_kind.h"
#include "core/words/words.h"

namespace rm::study {

const model::Dimension& dimensionOf(const model::Design& design, const std::string& name) {
    for (const auto& dimension : design.dimensions)
        if (dimension.name == name) return dimension;
    throw Error(say("There is no dimension named \"{}\".", name));
}

model::Design withDimension(const model::Design& design, const std::string& name, double value) {
    const auto& found = dimensionOf(design, name);
    model::Design d = design;
    d.dimensions[static_cast<std::size_t>(&found - design.dimensions.data())].text =
        model::exactText(found.kind, value);
    return d;
}

}  // namespace rm::study
