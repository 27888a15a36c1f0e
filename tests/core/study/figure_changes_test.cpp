// What becomes of every figure where one antenna takes the place of another.
#include "core/study/figure_changes.h"

#include <algorithm>
#include <catch2/catch.hpp>

#include "core/common.h"
#include "core/project/project_file.h"
#include "plans.h"

using namespace rm;
using namespace rm::test;
using Catch::Contains;

namespace {

const study::FigureChange* named(const std::vector<study::FigureChange>& changes, const std::string& name) {
    const auto found =
        std::find_if(changes.begin(), changes.end(), [&](const auto& c) { return c.name == name; });
    return found == changes.end() ? nullptr : &*found;
}

}  // namespace

TEST_CASE("what a longer director takes and gives is told, the worst first") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    const auto& before = *std::find_if(project.designs.begin(), project.designs.end(),
                                       [](const auto& d) { return d.name == "Yagi, 70 MHz"; });
    CHECK(study::figureChanges(before, before, project.bands, project.angles).empty());
    auto after = before;
    for (auto& d : after.dimensions)
        if (d.name == "d3") d.text = "1960 mm";
    const auto changes = study::figureChanges(before, after, project.bands, project.angles);
    const auto* swr = named(changes, "worst SWR on 4 m");
    REQUIRE(swr != nullptr);
    CHECK_FALSE(swr->better);
    CHECK(swr->after > swr->before);
    CHECK_THAT(swr->sentence(), Contains("worst SWR on 4 m 1.1") && Contains(" → "));
    const auto* gain = named(changes, "gain");
    REQUIRE(gain != nullptr);
    CHECK(gain->better);  // a trade, told as one
    CHECK_THAT(gain->sentence(), Contains("dBi"));
    // Bands that the design is not for are left out; what is worse comes first.
    CHECK(named(changes, "worst SWR on 20 m") == nullptr);
    CHECK(std::is_partitioned(changes.begin(), changes.end(), [](const auto& c) { return !c.better; }));
    // The other way round, worse is better.
    for (const auto& back : study::figureChanges(after, before, project.bands, project.angles)) {
        const auto* there = named(changes, back.name);
        REQUIRE(there != nullptr);
        CHECK(back.better != there->better);
        CHECK(back.before == there->after);
    }
}

TEST_CASE("a design that cannot be solved has no figures to compare") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    auto after = project.designs[0];
    after.feeds.clear();
    CHECK_THROWS_AS(study::figureChanges(project.designs[0], after, project.bands, project.angles), Error);
}
