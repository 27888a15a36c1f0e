#include "core/project/design_json.h"

#include "core/project/describe_design.h"

namespace rm::io {

void describe(Reader<model::Design>& f, Of<model::Design> design) {
    describe<Reader<model::Design>>(f, design);
}

void describe(Writer<model::Design>& f, Of<model::Design> design) {
    describe<Writer<model::Design>>(f, design);
}

void describe(Reader<model::TunePlan>& f, Of<model::TunePlan> plan) {
    describe<Reader<model::TunePlan>>(f, plan);
}

void describe(Writer<model::TunePlan>& f, Of<model::TunePlan> plan) {
    describe<Writer<model::TunePlan>>(f, plan);
}

model::Design readDesign(const json& j, const std::string& where) {
    model::Design design;
    Reader<model::Design>::readInto(design, j, where);
    return design;
}

json writeDesign(const model::Design& design) {
    return Writer<model::Design>::written(design);
}

model::TunePlan readPlan(const json& j, const std::string& where) {
    model::TunePlan plan;
    Reader<model::TunePlan>::readInto(plan, j, where);
    return plan;
}

}  // namespace rm::io
