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

TEST_CASE("reference cases with wires on, in and through real ground") {
    int solved = 0;
    for (const auto& c : io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/in_ground.json")) {
        const auto r = study::verifyCase(c);
        INFO(c.name << " " << r.reason);
        CHECK(r.verdict == study::Verdict::Pass);
        CHECK(r.averageGain > 0.0);
        CHECK(r.powerBalance < 0.0);
        ++solved;
    }
    CHECK(solved == 9);
}

TEST_CASE("what must not be solved is not verified either") {
    auto c = io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/in_ground.json").at(1);
    c.model.wires.pop_back();
    CHECK_THROWS_WITH(study::verifyCase(c), Catch::Contains("wire 1 ends on real ground with nothing in it"));
}

TEST_CASE("a case that is damaged is named") {
    CHECK_THROWS_WITH(io::readReferenceCases("/nonexistent.json"), Catch::Contains("/nonexistent.json"));
}
