// Every reference case that needs no real ground, at the default mesh.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/io/reference_cases.h"
#include "core/study/verify.h"

using namespace rm;

TEST_CASE("reference cases in free space and over perfect ground") {
    int solved = 0;
    int waiting = 0;
    for (const auto& c : io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/wires.json")) {
        const auto r = study::verifyCase(c);
        if (r.verdict == study::Verdict::NeedsRealGround) {
            ++waiting;
            continue;
        }
        INFO(c.name << " " << r.reason);
        CHECK(r.verdict == study::Verdict::Pass);
        CHECK(std::abs(r.powerBalance) < 0.002);
        ++solved;
    }
    CHECK(solved == 23);
    CHECK(waiting == 18);
}

TEST_CASE("a case that is damaged is named") {
    CHECK_THROWS_WITH(io::readReferenceCases("/nonexistent.json"), Catch::Contains("/nonexistent.json"));
}
