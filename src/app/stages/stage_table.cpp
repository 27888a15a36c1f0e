#include "app/stages/stage_table.h"

#include "app/stages/band/band_stage.h"
#include "app/stages/boom/boom_stage.h"
#include "app/stages/build/build_stage.h"
#include "app/stages/chokes/choke_stage.h"
#include "app/stages/clear/clear_stage.h"
#include "app/stages/compare/compare_stage.h"
#include "app/stages/coupling/coupling_stage.h"
#include "app/stages/currents/current_stage.h"
#include "app/stages/drives/drive_stage.h"
#include "app/stages/field/field_stage.h"
#include "app/stages/grounds/ground_stage.h"
#include "app/stages/heights/height_stage.h"
#include "app/stages/match/match_stage.h"
#include "app/stages/parts/parts_stage.h"
#include "app/stages/radials/radial_stage.h"
#include "app/stages/shape/shape_stage.h"
#include "app/stages/site/site_stage.h"
#include "app/stages/spacing/spacing_stage.h"
#include "app/stages/trim/trim_stage.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/wide/wide_stage.h"

namespace rm::app {

std::vector<std::unique_ptr<Stage>> makeStages(Session& session, Editing& editing) {
    std::vector<std::unique_ptr<Stage>> stages;
    stages.push_back(std::make_unique<ShapeStage>(session, editing));
    stages.push_back(std::make_unique<SiteStage>(session, editing));
    stages.push_back(std::make_unique<MatchStage>(session, editing));
    stages.push_back(std::make_unique<TuneStage>(session, editing));
    stages.push_back(std::make_unique<CompareStage>(session));
    stages.push_back(std::make_unique<BuildStage>(session));
    stages.push_back(std::make_unique<TrimStage>(session));
    stages.push_back(std::make_unique<BandStage>(session));
    stages.push_back(std::make_unique<HeightStage>(session, editing));
    stages.push_back(std::make_unique<GroundStage>(session));
    stages.push_back(std::make_unique<RadialStage>(session));
    stages.push_back(std::make_unique<CurrentStage>(session));
    stages.push_back(std::make_unique<PartsStage>(session, editing));
    stages.push_back(std::make_unique<ChokeStage>(session));
    stages.push_back(std::make_unique<FieldStage>(session));
    stages.push_back(std::make_unique<ClearStage>(session));
    stages.push_back(std::make_unique<BoomStage>(session));
    stages.push_back(std::make_unique<DriveStage>(session, editing));
    stages.push_back(std::make_unique<CouplingStage>(session, editing));
    stages.push_back(std::make_unique<SpacingStage>(session));
    stages.push_back(std::make_unique<WideStage>(session));
    return stages;
}

}  // namespace rm::app
