// Designs against bands, and the pattern over frequency, from the field solutions of the sweeps.
#include "core/study/compare.h"

#include <catch2/catch.hpp>

#include "core/project/project_file.h"
#include "core/study/pattern_sweep.h"

using namespace rm;

namespace {

model::Project heronPoint() {
    return io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
}

}  // namespace

TEST_CASE("the matrix says what each antenna says alone, from the solutions of its sweeps") {
    auto project = heronPoint();
    study::FieldStore fields;
    const auto all = study::compare(project, &fields);
    REQUIRE(all.complete);
    REQUIRE(all.rows.size() == project.designs.size() + project.pins.size());
    int cells = 0;
    int sweeps = 0;
    for (const auto& row : all.rows) {
        const auto& design = row.pin ? project.pins[row.index].design : project.designs[row.index];
        const auto expansion = model::expand(design);
        for (std::size_t b = 0; b < all.bands.size(); ++b) {
            const auto& cell = row.cells[b];
            if (!cell.meant) continue;
            INFO(row.name << " on " << all.bands[b].name << cell.problem);
            REQUIRE(cell.known());
            const auto alone = study::analyse(expansion, all.bands[b].centreHz());
            CHECK(cell.analysis->figures.peak.gainDbi == Approx(alone.figures.peak.gainDbi).margin(0.03));
            CHECK(cell.analysis->figures.efficiency == Approx(alone.figures.efficiency).margin(0.005));
            for (std::size_t a = 0; a < 4; ++a)
                CHECK(cell.watchGainDbi[a] == cell.analysis->elevation.at(all.angles.watchDeg[a]));
            const auto sweep = study::sweep(expansion, all.bands[b].lowHz, all.bands[b].highHz, 11);
            CHECK(cell.worstSwr == Approx(sweep.worstSwr()).epsilon(0.01));
            sweeps += sweep.solutions;
            ++cells;
        }
    }
    CHECK(cells >= 16);
    // No cell has cost a solution beyond those of its sweep, but where a sweep did without the middle.
    CHECK(fields.solutions() <= sweeps + cells / 2);
}

TEST_CASE("the matrix leaves out what a design is not for, names what is wrong, and can be stopped") {
    auto project = heronPoint();
    project.designs.resize(2);
    project.pins.clear();
    project.designs[0].bands = {project.bands[0].name};
    project.designs[1].feeds.clear();
    const auto some = study::compare(project);
    CHECK(some.rows[0].cells[0].known());
    CHECK_FALSE(some.rows[0].cells[1].meant);
    CHECK_FALSE(some.rows[1].cells[1].known());
    CHECK(some.rows[1].cells[1].problem.find("feed") != std::string::npos);
    CHECK_FALSE(study::figureOf(some.rows[1].cells[0], study::CompareQuantity::Peak));
    std::stop_source stop;
    stop.request_stop();
    CHECK_FALSE(study::compare(project, nullptr, stop.get_token()).complete);
}

TEST_CASE("the pattern over frequency rests on what the sweep has solved") {
    const auto project = heronPoint();
    const auto expansion = model::expand(project.designs[0]);
    study::FieldStore fields;
    const double low = 10.0e6;
    const double high = 15.0e6;
    const auto sweep = study::sweep(expansion, low, high, 301, {}, {}, &fields);
    const int before = fields.solutions();
    CHECK(before == sweep.solutions);
    const auto points = study::patternSweep(expansion, low, high, 9, {}, &fields);
    CHECK(fields.solutions() - before <= 4);
    CHECK(points.front().frequencyHz == low);
    CHECK(points.back().frequencyHz == high);
    for (std::size_t i = 1; i < points.size(); ++i) {
        CHECK(points[i].frequencyHz > points[i - 1].frequencyHz);
        CHECK(points[i].frequencyHz - points[i - 1].frequencyHz < 1.01 * (high - low) / 8.0);
    }
    for (const auto& p : points)
        CHECK(p.gainDbi ==
              Approx(study::analyse(expansion, p.frequencyHz).figures.peak.gainDbi).margin(0.05));
    // The same again costs nothing.
    const int now = fields.solutions();
    CHECK(study::patternSweep(expansion, low, high, 9, {}, &fields).size() == points.size());
    CHECK(fields.solutions() == now);
}
