#include "core/wide/plan.h"

#include <fmt/format.h>

#include "core/project/describe_plan.h"
#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "core/words/words.h"

namespace rm::io {

template <typename Fields>
void describe(Fields& f, Of<wide::OverText>) {
    using wide::OverText;
    using wide::Vary;
    f.choice("vary", &OverText::vary,
             {{"dimension", Vary::Dimension},
              {"height", Vary::Height},
              {"soil", Vary::Soil},
              {"band", Vary::Band},
              {"frequency", Vary::Frequency},
              {"goal", Vary::Goal},
              {"limit", Vary::Limit}},
             When::Always);
    f.text("name", &OverText::name);
    f.integer("number", &OverText::number, 1.0, 1000.0);
    f.text("from", &OverText::from);
    f.text("to", &OverText::to);
    f.integer("points", &OverText::points, 1.0, 1e6);
    f.names("values", &OverText::values);
    f.extra(&OverText::extra);
}

template <typename Fields>
void describe(Fields& f, Of<wide::Plan>) {
    using wide::Plan;
    using wide::Work;
    f.text("project", &Plan::project, When::Always);
    f.text("design", &Plan::design);
    f.choice("work", &Plan::work, {{"solve", Work::Solve}, {"build", Work::Build}, {"tune", Work::Tune}},
             When::Always);
    f.list("over", &Plan::over, "over");
    f.integer("repeat", &Plan::repeat, 1.0, 1e9);
    f.integer("seed", &Plan::seed, 0.0, 1e9);
    f.text("band", &Plan::band);
    f.text("frequency", &Plan::frequency);
    f.names("figures", &Plan::figures);
    f.object("errors", &Plan::errors);
    f.integer("evaluations", &Plan::evaluations, 1.0, 1e9);
    f.integer("piece", &Plan::piece, 0.0, 1e6);
    f.extra(&Plan::extra);
}

}  // namespace rm::io

namespace rm::wide {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "reed-mast study";

}  // namespace

Plan readPlan(const json& j, const std::string& where) {
    if (!j.is_object() || j.value("format", json()) != kFormat)
        throw Error(say("{} is no study: its \"format\" has to be \"{}\".", where, kFormat));
    if (const auto version = j.value("version", json(1)); !version.is_number() || version.get<double>() > 1.0)
        throw Error(say("{} was written by a newer version of the program.", where));
    Plan plan;
    io::Reader<Plan> reader(plan, j, where);
    reader.find("format");
    reader.find("version");
    describe(reader, io::Of<Plan>());
    return plan;
}

json writePlan(const Plan& plan) {
    json j = io::Writer<Plan>::written(plan);
    j["format"] = kFormat;
    j["version"] = 1;
    return j;
}

Given readGiven(const std::filesystem::path& file) {
    Given given;
    given.plan = readPlan(io::readJsonFile(file), file.string());
    if (given.plan.project.empty())
        throw Error(say("{} names no project: give its file as \"project\".", file.string()));
    const auto from = file.parent_path() / given.plan.project;
    const auto project = io::readProject(from);
    given.title = project.title;
    given.bands = project.bands;
    given.design = io::designOf(project, given.plan.design, from.string());
    given.workingBand = project.workingBand;
    return given;
}

json writeGiven(const Given& given) {
    model::Project project;
    project.title = given.title;
    project.bands = given.bands;
    project.workingBand = given.workingBand;
    project.designs = {given.design};
    return {{"study", writePlan(given.plan)}, {"project", io::toJson(project)}};
}

Given parseGiven(const json& j, const std::string& where) {
    if (!j.is_object() || !j.contains("study") || !j.contains("project"))
        throw Error(say("{} is no result of a study.", where));
    const auto project = io::fromJson(j["project"]);
    return {readPlan(j["study"], where), project.title, project.active(), project.bands, project.workingBand};
}

}  // namespace rm::wide
