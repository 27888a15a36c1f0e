#include "app/stages/study_basis.h"

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
    model::Project alone;
    alone.designs.push_back(std::move(design));
    alone.angles = session.project().angles;
    // What heats up at which power is no matter of heights and soils.
    if (varied == Varied::Nothing) alone.powerW = session.project().powerW;
    return io::textOf(alone) + std::to_string(session.frequencyHz());
}

}  // namespace rm::app
