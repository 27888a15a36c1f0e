// Every reference case at the default mesh.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/project/reference_cases.h"
#include "core/study/verify.h"

using namespace rm;

TEST_CASE("reference cases in free space, over perfect and over real ground") {
    int solved = 0;
    for (const auto& c : io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/wires.json")) {
        const auto r = study::verifyCase(c);
        INFO(c.name << " " << r.reason);
        CHECK(r.verdict == study::Verdict::Pass);
        // Over real ground what is missing in the sky is in the ground.
        if (c.model.ground.kind == model::GroundKind::Real)
            CHECK(r.powerBalance < 0.002);
        else
            CHECK(std::abs(r.powerBalance) < 0.002);
        ++solved;
    }
    CHECK(solved == 41);
}

TEST_CASE("a case that is damaged is named") {
    CHECK_THROWS_WITH(io::readReferenceCases("/nonexistent.json"), Catch::Contains("/nonexistent.json"));
}
