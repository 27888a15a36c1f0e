// What cannot be meant gets one sentence that names the part, and no figure.
#include <catch2/catch.hpp>

#include "core/em/solver.h"
#include "core/model/expand.h"
#include "core/model/limits.h"
#include "core/project/project_file.h"
#include "core/study/figures.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"
#include "core/study/tuning/tune.h"
#include "plans.h"

using namespace rm;

namespace {

model::Design found(const char* file) {
    return io::readProject(std::string(RM_SOURCE_DIR "/tests/found/") + file).designs.at(0);
}

model::Design dipole() {
    auto design = found("thick_300mm.json");
    design.parts[0].conductor.diameter = "2 mm";
    return design;
}

std::string worst(const model::Design& design) {
    const auto e = model::expand(design);
    for (const auto& f : e.findings)
        if (f.severity == model::Severity::Error) return f.sentence + " " + f.mend;
    return {};
}

void refused(const model::Design& design, const std::string& part, const std::string& why) {
    const std::string said = worst(design);
    INFO(said);
    CHECK(said.find(part) != std::string::npos);
    CHECK(said.find(why) != std::string::npos);
    CHECK_THROWS_AS(study::analyse(model::expand(design), 14.1e6), Error);
}

}  // namespace

TEST_CASE("thickness is judged at every frequency that is solved") {
    const auto thick = model::expand(found("thick_300mm.json"));
    REQUIRE(thick.usable());
    CHECK_NOTHROW(study::analyse(thick, 14.15e6));
    CHECK_THROWS_WITH(study::analyse(thick, 432e6),
                      Catch::Contains("W is 0.43 wavelengths thick at 432 MHz"));
    CHECK_THROWS_WITH(study::sweep(thick, 14e6, 432e6, 5), Catch::Contains("too much for a wire"));
    CHECK_THROWS_AS(em::makeMesh(thick.model, 432e6), Error);
    // Between the two limits it is worked out and said.
    CHECK(model::findingsAt(thick, 14.15e6).empty());
    const auto warned = model::findingsAt(thick, 40e6);
    REQUIRE(warned.size() == 1);
    CHECK(warned[0].severity == model::Severity::Warning);
    CHECK(warned[0].part == "W");
    CHECK_NOTHROW(study::analyse(thick, 40e6));
    const auto none = model::findingsAt(thick, 432e6);
    REQUIRE(none.size() == 1);
    CHECK(none[0].severity == model::Severity::Error);
}

TEST_CASE("a frequency is from a kilohertz to a hundred gigahertz, everywhere") {
    const auto good = model::expand(dipole());
    for (const double hz :
         {0.0, -14e6, 1.0, 1e12, 1e300, std::nan(""), std::numeric_limits<double>::infinity()}) {
        INFO(hz);
        CHECK_THROWS_AS(study::analyse(good, hz), Error);
        CHECK_THROWS_AS(study::sweep(good, hz, 14e6, 3), Error);
        CHECK_THROWS_AS(study::sweep(good, 14e6, hz, 3), Error);
        CHECK_THROWS_AS(study::findResonance(good, hz), Error);
    }
    auto design = dipole();
    for (const char* text : {"0", "-14 MHz", "1 Hz", "1e12 MHz", ""}) {
        design.designFrequency = text;
        CHECK_FALSE(worst(design).empty());
    }
}

TEST_CASE("two feeds in one place would have to agree") {
    refused(found("two_feeds_one_place.json"), "A and B are in the same place on W", "Move one of them");
    auto apart = found("two_feeds_one_place.json");
    apart.feeds[1].place.kind = model::PlaceKind::Percent;
    apart.feeds[1].place.value = "52";
    CHECK(worst(apart).empty());
    apart.feeds[1].place.value = "50.001";
    refused(apart, "A and B", "same place");
}

TEST_CASE("numbers that nobody means are named with their part") {
    auto design = dipole();
    const auto with = [&](const auto& change) {
        auto d = dipole();
        change(d);
        return d;
    };
    refused(with([](auto& d) { d.parts[0].conductor.diameter = "1e-30 mm"; }), "W", "thick");
    refused(with([](auto& d) { d.parts[0].conductor.diameter = "0.0005 mm"; }), "W", "0.001 mm or more");
    refused(with([](auto& d) { d.feeds[0].amplitude = "1e300"; }), "Feed", "amplitude");
    refused(with([](auto& d) { d.feeds[0].amplitude = "1e9"; }), "Feed", "from 0 to 1e+06");
    refused(with([](auto& d) { d.feeds[0].amplitude = "1e-12"; }), "Feed", "has no voltage");
    refused(with([](auto& d) { d.reference = "0.001"; }), "0.001 ohm", "reference impedance");
    const auto cable = [&](const char* root, const char* linear, const char* ohm) {
        return with([&](auto& d) {
            model::FeedBlock block;
            block.name = "Coax";
            block.kind = model::BlockKind::Cable;
            block.line = model::kCustomLine;
            block.lineOhm = ohm;
            block.velocityFactor = "0.66";
            block.lossRoot = root;
            block.lossLinear = linear;
            block.length = "20 m";
            d.feedPath = {block};
        });
    };
    CHECK(worst(cable("1", "0.01", "50")).empty());
    refused(cable("-1", "0.01", "50"), "Coax", "the loss by root of frequency is -1");
    refused(cable("1", "-2", "50"), "Coax", "the loss by frequency is -2");
    refused(cable("1", "0", "1e9"), "Coax", "the impedance of the line");
    design.parts[0].conductor.diameter = "1e-306 mm";
    CHECK_THAT(worst(design), Catch::Contains("W"));
    CHECK_FALSE(worst(found("denormal_stod.json")).empty());
}

TEST_CASE("copies of copies and bands without measure end in a sentence") {
    CHECK_THROWS_AS(study::analyse(model::expand(found("copies_64x64x64x64.json")), 14e6), Error);
    // A part that cannot be worked out has no wires to count.
    auto broken = found("copies_64x64x64x64.json");
    std::get<model::StraightWire>(broken.parts.at(0).shape).end[1] = "not_there/2";
    CHECK(model::hasError(model::expand(broken).findings));
    CHECK_THROWS_AS(study::analyse(model::expand(found("span_1e30_oob_read.json")), 14e6), Error);
    CHECK_THROWS_AS(io::readProject(RM_SOURCE_DIR "/tests/found/number_overflow.json"), Error);
    CHECK_THROWS_AS(io::readProject(RM_SOURCE_DIR "/tests/found/sweep_band_heap_overflow.json"), Error);
}

TEST_CASE("names carry no orders to a terminal or a file") {
    const auto project = io::readProject(RM_SOURCE_DIR "/tests/found/thick_300mm.json");
    auto j = io::toJson(project);
    j["title"] = "T\x1b]0;owned\x07";
    j["designs"][0]["name"] = "D\n# MHz Z RI R 1";
    j["designs"][0]["parts"][0]["name"] = "W\x1b[2K";
    j["designs"][0]["feeds"][0]["part"] = "W\x1b[2K";
    const auto read = io::fromJson(j);
    CHECK(read.title == "T ]0;owned ");
    CHECK(read.designs[0].name == "D # MHz Z RI R 1");
    CHECK(read.designs[0].parts[0].name == read.designs[0].feeds[0].part);
    CHECK(model::expand(read.designs[0]).usable());
}

TEST_CASE("tuning solves no more antennas than it may") {
    auto design = test::poorYagi(1);
    design.tune.goals = {test::goal(model::GoalKind::Swr, "1.5", "50 MHz", "50.5 MHz"),
                         test::goal(model::GoalKind::FrontToRear, "15", "50 MHz", "50.5 MHz")};
    study::TuneOptions options;
    options.starts = 2;
    for (const long most : {5L, 100L}) {
        options.maxEvaluations = most;
        const auto result = study::tune(design, {}, options);
        // What is under way when the limit is reached ends: a reading of every frequency, on each of two
        // threads.
        CHECK(result.best.evaluations <= most + 80);
        CHECK(result.stopped);
    }
}
