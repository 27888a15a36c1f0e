// Every figure that a study can read, against the same figure read by the study of its own kind.
#include "core/wide/columns.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "core/stopped.h"
#include "core/study/lobes.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"
#include "core/study/tuning/tune.h"
#include "wide_plans.h"

using namespace rm;
using Catch::Contains;

namespace {

constexpr double kHz = 50.2e6;

wide::ReadAt readAt() {
    return {kHz, model::Band{"6 m", 50e6, 50.5e6, {}}, {{"6 m", 50e6, 50.5e6, {}}}};
}

double read(const model::Design& design, const std::string& words, const wide::ReadAt& at = readAt()) {
    return wide::readColumns(design, {wide::columnOf(words)}, at, {}).at(0);
}

}  // namespace

TEST_CASE("wide: each figure is that of the analysis, the sweep, the resonance, the goals") {
    const auto design = test::smallStudy().design;
    const auto expansion = model::expand(design);
    const auto a = study::analyse(expansion, kHz);
    const auto& f = a.figures;
    const auto same = [&](const char* words, double value) {
        INFO(words);
        CHECK(read(design, words) == Approx(value).epsilon(1e-9).margin(1e-12));
    };
    same("resistance", f.antennaOhm.real());
    same("reactance", f.antennaOhm.imag());
    same("SWR", f.swr);
    same("gain", f.peak.gainDbi);
    same("directivity", f.directivityDbi);
    same("takeoff angle", f.peak.direction.elevationDeg);
    same("front-to-back", f.frontToBackDb);
    same("front-to-rear", f.frontToRearDb);
    same("beamwidth", f.beamwidthDeg);
    same("efficiency", 100.0 * f.efficiency);
    same("to the sky", 100.0 * f.skyShare);
    same("ground loss", 100.0 * f.groundShare);
    same("gain at 10 deg", a.elevation.at(10.0));
    same("gain at 22.5 deg", a.elevation.at(22.5));
    const auto swept = study::sweep(expansion, 50e6, 50.5e6, 21);
    same("worst SWR", swept.worstSwr());
    same("best SWR", swept.bestSwr());
    const auto resonance = study::findResonance(expansion, kHz);
    REQUIRE(resonance);
    same("resonance", resonance->frequencyHz / 1e6);
    const auto goals = study::readGoals(design, readAt().bands, 7);
    double largest = -1e300;
    for (const auto& goal : goals)
        if (!goal.most) largest = std::max(largest, goal.miss);
    same("largest miss", largest);
    same("goals met", study::allMet(goals) ? 1.0 : 0.0);
    if (const auto side = study::readCut(a.elevation).sideLobeDb()) same("side lobe", *side);
}

TEST_CASE("wide: titles of figures are different, end in their unit, and need no quotes in a table") {
    std::set<std::string> titles;
    for (const auto& words : wide::columnWords()) {
        const auto column = wide::columnOf(words);
        CHECK(column.words == words);
        CHECK(column.title.find_first_of(", \"") == std::string::npos);
        CHECK(titles.insert(column.title).second);
    }
    CHECK(wide::columnOf("gain at 7 deg").title == "gain_at_7_deg_dBi");
    CHECK(wide::columnOf("gain at 2*11 deg").angleDeg == Approx(22.0));
    CHECK_THROWS_WITH(wide::columnOf("gain at -3 deg"), Contains("between 0 and 180"));
    CHECK_THROWS_WITH(wide::columnOf("gain at dawn"), Contains("dawn"));
    CHECK_THROWS_WITH(wide::columnOf(""), Contains("There are: resistance"));
}

TEST_CASE("wide: what has no value is not a number, and without a band there is no worst SWR") {
    auto design = test::smallStudy().design;
    auto at = readAt();
    at.band.reset();
    CHECK(std::isnan(read(design, "worst SWR", at)));
    CHECK(std::isnan(read(design, "best SWR", at)));
    // Nothing but wishes without a limit: no miss.
    design.tune.goals = {test::goal(model::GoalKind::Gain, "")};
    CHECK(std::isnan(read(design, "largest miss")));
    // A design with errors is an exception, which the row of its case catches.
    design.parts.clear();
    CHECK_THROWS_AS(read(design, "gain"), Error);
}

TEST_CASE("wide: reading figures ends where it is asked to stop") {
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(
        wide::readColumns(test::smallStudy().design, {wide::columnOf("gain")}, readAt(), stop.get_token()),
        Stopped);
}
