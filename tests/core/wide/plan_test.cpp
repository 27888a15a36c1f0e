// The file of a study: read, written and read back, and refused in a sentence that names the member.
#include "core/wide/plan.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "folder.h"
#include "wide_plans.h"

using namespace rm;
using Catch::Contains;
using nlohmann::json;

namespace {

wide::Plan planOf(const std::string& text) {
    return wide::readPlan(io::parseJson(text, "It"), "It");
}

const char* const kWhole =
    R"({"format": "reed-mast study", "version": 1, "project": "a.json", "design": "Yagi",
  "work": "tune", "repeat": 7, "seed": 3, "evaluations": 900, "piece": 2, "band": "6 m", "frequency": "50.1 MHz",
  "over": [{"vary": "dimension", "name": "boom", "from": "2 m", "to": "3 m", "points": 5},
           {"vary": "soil", "values": ["marsh", "rock"]}, {"vary": "goal", "number": 2, "from": "1", "to": "2"}],
  "figures": ["gain", "worst SWR"], "errors": {"length": "1 mm", "angle": "1 deg", "diameter": "1 %", "height": "0 m",
  "ground": "10 %"}, "made by": "somebody"})";

}  // namespace

TEST_CASE("wide: a study file is read member by member, and what is not known is kept") {
    const auto plan = planOf(kWhole);
    CHECK(plan.work == wide::Work::Tune);
    REQUIRE(plan.over.size() == 3);
    CHECK(plan.over[0].points == 5);
    CHECK(plan.over[1].vary == wide::Vary::Soil);
    CHECK(plan.over[1].values == std::vector<std::string>{"marsh", "rock"});
    CHECK(plan.over[2].number == 2);
    CHECK(plan.errors.ground == "10 %");
    CHECK(plan.evaluations == 900);
    const json back = wide::writePlan(plan);
    CHECK(back["made by"] == "somebody");
    CHECK(wide::readPlan(back, "It") == plan);
    // What is as usual is not written.
    const json plain = wide::writePlan(wide::Plan{});
    CHECK_FALSE(plain.contains("repeat"));
    CHECK_FALSE(plain.contains("figures"));
}

TEST_CASE("wide: what is no study, or says something that cannot be, is refused by its member") {
    const auto refused = [](const std::string& text, const char* words) {
        CHECK_THROWS_WITH(planOf(text), Contains(words));
    };
    refused("{}", "is no study");
    refused(R"({"format": "reed-mast project"})", "is no study");
    refused(R"({"format": "reed-mast study", "version": 2})", "newer version");
    refused(R"({"format": "reed-mast study", "work": "dance"})", "\"work\" has to be one of");
    refused(R"({"format": "reed-mast study", "over": {}})", "a list");
    refused(R"({"format": "reed-mast study", "over": [{"vary": "mood"}]})", "\"vary\" has to be one of");
    refused(R"({"format": "reed-mast study", "figures": [1]})", "a list of names");
    refused(R"({"format": "reed-mast study", "repeat": "often"})", "a number");
    refused("[1, 2", "It");
}

TEST_CASE("wide: a study finds its project beside itself, and its design by name") {
    const test::Folder folder;
    model::Project project;
    project.title = "Garden";
    project.bands = {{"6 m", 50e6, 50.5e6, {}}};
    project.designs = {test::smallStudy().design, test::poorYagi(0)};
    project.designs[1].name = "Other";
    io::writeProject(project, folder / "garden.json");
    const auto file = [&](const std::string& members) {
        return folder.write("study.json", R"({"format": "reed-mast study", "version": 1, )" + members + "}");
    };
    const auto given = wide::readGiven(file(R"("project": "garden.json", "design": "Other")"));
    CHECK(given.title == "Garden");
    CHECK(given.design.name == "Other");
    REQUIRE(given.bands.size() == 1);
    CHECK(wide::readGiven(file(R"("project": "garden.json")")).design.name == "Yagi");
    CHECK_THROWS_WITH(wide::readGiven(file(R"("project": "garden.json", "design": "Third")")),
                      Contains("no design named \"Third\""));
    CHECK_THROWS_WITH(wide::readGiven(file(R"("design": "Other")")), Contains("names no project"));
    CHECK_THROWS_WITH(wide::readGiven(file(R"("project": "none.json")")), Contains("none.json"));
    // What travels to other processes, and stands in the first line of a result, is the same again.
    const auto back = wide::parseGiven(wide::writeGiven(given), "It");
    CHECK(back.plan == given.plan);
    CHECK(back.design == given.design);
    CHECK(back.workingBand == given.workingBand);
    CHECK_THROWS_WITH(wide::parseGiven(json::object(), "It"), Contains("no result of a study"));
}

TEST_CASE("wide: what is asked of an antenna is varied like its lengths") {
    auto given = test::smallStudy();
    given.plan.work = wide::Work::Tune;
    given.plan.evaluations = 40;
    given.design.tune.limits = {test::limit(model::LimitKind::BoomLength, "3 m")};
    wide::OverText swr;
    swr.vary = wide::Vary::Goal;
    swr.number = 1;
    swr.values = {"1.3", "2"};
    wide::OverText boom;
    boom.vary = wide::Vary::Limit;
    boom.from = "2 m";
    boom.to = "10 ft";
    boom.points = 3;
    given.plan.over = {swr, boom};
    const wide::Cases cases(given);
    REQUIRE(cases.count() == 6);
    CHECK(cases.over()[0].title == "goal_1");
    CHECK(cases.over()[1].title == "limit_1_m");
    const auto last = cases.designOf(5);
    CHECK(last.tune.goals[0].limit == "2");
    CHECK(quantity::evaluate(last.tune.limits[0].value, quantity::Kind::Length, {}) == Approx(3.048));
    CHECK(cases.designOf(0).tune.goals[0].limit == "1.3");
    CHECK(given.design.tune.goals[0].limit == "1.5");
    const auto row = cases.workOut(3);
    CHECK(row.problem.empty());
    CHECK(row.values.size() == cases.titles().size());
}
