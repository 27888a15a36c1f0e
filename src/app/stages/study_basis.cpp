#include "app/stages/study_basis.h"

#include <algorithm>

#include "core/project/project_file.h"
#include "core/study/radial_study.h"

namespace rm::app {

std::string studyBasis(const Session& session, Varied varied) {
    model::Design design = session.design();
    if (varied == Varied::Height) {
        design.site.height.clear();
    } else if (varied == Varied::Radials) {
        const std::string part = study::radialSystemOf(design);
        design = study::withRadials(std::move(design), part, 0, 0.0);
    } else if (varied == Varied::Ground) {
        design.site.ground = model::GroundKind::Real;
        design.site.soil.clear();
    }
    const std::string basis = studyBasis(session, std::move(design));
    // What heats up at which power is no matter of heights and soils.
    return varied == Varied::Nothing ? basis + std::to_string(session.project().powerW) : basis;
}

std::string studyBasis(const Session& session, model::Design rest) {
    model::Project alone;
    alone.designs.push_back(std::move(rest));
    alone.angles = session.project().angles;
    return io::textOf(alone) + std::to_string(session.frequencyHz());
}

model::Design withoutTyped(model::Design design, const std::vector<std::string>& dimensions) {
    design.name.clear();
    design.tune = {};
    for (auto& d : design.dimensions)
        if (std::find(dimensions.begin(), dimensions.end(), d.name) != dimensions.end()) d.text.clear();
    return design;
}

}  // namespace rm::app
