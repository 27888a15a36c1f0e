#include "core/project/design_json.h"

#include "core/project/describe_design.h"

namespace rm::io {

model::Design readDesign(const json& j, const std::string& where) {
    model::Design design;
    Reader<model::Design> reader(design, j, where);
    describe(reader, Of<model::Design>());
    return design;
}

json writeDesign(const model::Design& design) {
    return Writer<model::Design>::written(design);
}

model::TunePlan readPlan(const json& j, const std::string& where) {
    model::TunePlan plan;
    Reader<model::TunePlan> reader(plan, j, where);
    describe(reader, Of<model::TunePlan>());
    return plan;
}

}  // namespace rm::io
