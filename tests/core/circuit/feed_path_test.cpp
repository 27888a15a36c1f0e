// The feed path of a design: worked out, kept in the file, and seen at the radio.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/model/expand.h"
#include "core/project/project_file.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"

using namespace rm;
using namespace rm::model;

namespace {

FeedBlock blockOf(BlockKind kind, const std::string& name) {
    FeedBlock block;
    block.kind = kind;
    block.name = name;
    return block;
}

/// An end-fed half wave for 14.15 MHz with a short counterpoise, over average ground.
Design endFed() {
    Design d;
    Part wire;
    wire.name = "Radiator";
    wire.shape = StraightWire{{"0 m", "0 m", "8 m"}, {"10.1 m", "0 m", "8 m"}};
    d.parts.push_back(wire);
    wire.name = "Counterpoise";
    wire.shape = StraightWire{{"0 m", "0 m", "8 m"}, {"-1 m", "0 m", "8 m"}};
    d.parts.push_back(wire);
    Feed feed;
    feed.part = "Radiator";
    feed.place.kind = PlaceKind::Start;
    d.feeds.push_back(feed);
    d.site.ground = GroundKind::Real;
    return d;
}

bool says(const Design& d, const std::string& words) {
    for (const auto& f : expand(d).findings)
        if ((f.sentence + " " + f.mend).find(words) != std::string::npos) return true;
    return false;
}

}  // namespace

TEST_CASE("through a transformer and a cable the radio sees what the chain says, and the losses add") {
    auto d = endFed();
    const auto bare = study::analyse(expand(d), 14.15e6);
    CHECK(bare.figures.joints.size() == 1);
    CHECK(bare.figures.swr > 20.0);
    d.feedPath = {blockOf(BlockKind::Transformer, "Transformer"), blockOf(BlockKind::Cable, "Cable")};
    const auto a = study::analyse(expand(d), 14.15e6);
    REQUIRE(a.figures.joints.size() == 3);
    CHECK(std::abs(a.figures.impedanceOhm[0] - bare.figures.impedanceOhm[0]) < 1e-6);
    CHECK(std::abs(a.figures.joints[1].impedanceOhm - bare.figures.impedanceOhm[0] / 49.0) < 1e-6);
    CHECK(a.figures.swr == Approx(study::swr(a.figures.joints[2].impedanceOhm, 50.0)));
    CHECK(a.figures.swr < 5.0);
    CHECK(a.figures.joints[2].totalLossDb > 0.9);  // 20 m of thin coax
    CHECK(a.figures.joints[2].totalLossDb ==
          Approx(a.figures.joints[1].blockLossDb + a.figures.joints[2].blockLossDb));
    // Gain is that of the antenna; what is off is left out.
    CHECK(a.figures.peak.gainDbi == Approx(bare.figures.peak.gainDbi));
    d.feedPath[1].enabled = false;
    CHECK(study::analyse(expand(d), 14.15e6).figures.joints.size() == 2);
}

TEST_CASE("a sweep is judged at the radio") {
    auto d = endFed();
    d.feedPath = {blockOf(BlockKind::Transformer, "Transformer"), blockOf(BlockKind::Cable, "Cable")};
    const auto e = expand(d);
    const auto s = study::sweep(e, 13.9e6, 14.5e6, 201);
    REQUIRE(s.points.size() == 201);
    for (const std::size_t i : {0u, 77u, 200u}) {
        const auto one = study::analyse(e, s.points[i].frequencyHz);
        CHECK(s.points[i].swr == Approx(one.figures.swr).epsilon(2e-3));
        CHECK(std::abs(s.points[i].radioOhm - one.figures.joints.back().impedanceOhm) < 0.1);
    }
}

TEST_CASE("every block survives the file, and nonsense in one is named") {
    auto d = endFed();
    auto transformer = blockOf(BlockKind::Transformer, "Unun");
    transformer.ratio = "9:1";
    transformer.magnetising = "8";
    transformer.coreLoss = "2500";
    transformer.leakage = "0.1";
    transformer.compensation = "100";
    auto cable = blockOf(BlockKind::Cable, "Run");
    cable.line = kCustomLine;
    cable.lineOhm = "52";
    cable.lossRoot = "1";
    auto stub = blockOf(BlockKind::Stub, "Stub");
    stub.length = "lambda/8";
    stub.shorted = false;
    auto element = blockOf(BlockKind::Element, "C");
    element.element = ElementKind::Capacitor;
    element.shunt = true;
    element.value = "150";
    element.q = "500";
    auto choke = blockOf(BlockKind::Choke, "Choke");
    choke.enabled = false;
    d.feedPath = {transformer, cable, stub, element, choke};
    Project project;
    project.designs.push_back(d);
    const auto back = io::fromJson(io::toJson(project)).designs[0];
    CHECK(io::toJson(project) == [&] {
        Project again;
        again.designs.push_back(back);
        return io::toJson(again);
    }());
    const auto e = expand(back);
    REQUIRE(e.feedPath.size() == 4);
    CHECK(std::get<Transformer>(e.feedPath[0]).impedanceRatio == Approx(9.0));
    CHECK(*std::get<Transformer>(e.feedPath[0]).compensationF == Approx(100e-12));
    CHECK(std::get<Cable>(e.feedPath[1]).line.impedanceOhm == 52.0);
    CHECK(std::get<Stub>(e.feedPath[2]).lengthM == Approx(wavelengthM(14.15e6) / 8.0));
    CHECK(std::get<Element>(e.feedPath[3]).value == Approx(150e-12));

    const auto broken = [&](auto change) {
        auto b = d;
        change(b);
        return b;
    };
    CHECK(
        says(broken([](Design& b) { b.feedPath[0].ratio = "9:0"; }), "Unun: the ratio has to be above zero"));
    CHECK(says(broken([](Design& b) { b.feedPath[1].velocityFactor = "1.4"; }), "velocity factor is 1.4"));
    CHECK(says(broken([](Design& b) { b.feedPath[1].line = "string"; }), "\"string\" is not a known line"));
    CHECK(says(broken([](Design& b) { b.feedPath[2].length = "-1 m"; }),
               "Stub: the length has to be above zero"));
    CHECK(says(broken([](Design& b) { b.feedPath[3].value = "soup"; }), "C, the value"));
}

TEST_CASE("lines and chokes of any length and loss give numbers: from a dead end nothing comes back") {
    auto d = endFed();
    for (const auto* length : {"100 km", "1e9 m"}) {
        INFO(length);
        auto cable = blockOf(BlockKind::Cable, "Cable");
        cable.length = length;
        d.feedPath = {cable, cable, cable};
        const auto far = study::analyse(expand(d), 14.15e6).figures;
        CHECK(std::isfinite(far.joints.back().impedanceOhm.real()));
        CHECK(std::isfinite(far.swr));
        CHECK(far.swr < 1.02);  // the line's own impedance
        auto stub = blockOf(BlockKind::Stub, "Stub");
        stub.length = length;
        d.feedPath = {stub};
        CHECK(std::isfinite(study::analyse(expand(d), 14.15e6).figures.swr));
        // Between two points of the antenna, too.
        d.feedPath.clear();
        PhasingLine line;
        line.fromPart = "Radiator";
        line.from = {PlaceKind::Middle, ""};
        line.toPart = "Counterpoise";
        line.to = {PlaceKind::Middle, ""};
        line.length = length;
        d.lines = {line};
        CHECK(std::isfinite(study::analyse(expand(d), 14.15e6).figures.impedanceOhm[0].real()));
        d.lines.clear();
    }
    auto choke = blockOf(BlockKind::Choke, "Choke");
    choke.loss = "1e6";
    d.feedPath = {choke};
    const auto dead = study::analyse(expand(d), 14.15e6).figures;
    CHECK(std::isfinite(dead.joints.back().impedanceOhm.real()));
    CHECK(std::isfinite(dead.joints.back().impedanceOhm.imag()));
}
