// Designs and their plans as JSON, described member by member in docs/formats.md.
#pragma once

#include "core/project/fields.h"

namespace rm::io {

/// Throws rm::Error that says which member of which item is wrong; `where` names the design.
model::Design readDesign(const json& j, const std::string& where);
json writeDesign(const model::Design& design);

/// Goals, movers and limits alone.
model::TunePlan readPlan(const json& j, const std::string& where);

/// For descriptions that hold designs or plans: these two are compiled once, in design_json.cpp.
void describe(Reader<model::Design>& f, Of<model::Design>);
void describe(Writer<model::Design>& f, Of<model::Design>);
void describe(Reader<model::TunePlan>& f, Of<model::TunePlan>);
void describe(Writer<model::TunePlan>& f, Of<model::TunePlan>);

}  // namespace rm::io
