// Matching at a joint: every solution does what it says, also as the blocks that go into the design.
#include <catch2/catch.hpp>
#include <set>

#include "core/circuit/matching.h"
#include "core/study/match.h"

using namespace rm;
using study::MatchFamily;

namespace {

constexpr double kHz = 7.1e6;

study::ImpedanceCurve curveOf(Complex load) {
    study::ImpedanceCurve curve;
    for (int i = 0; i < 11; ++i) {
        curve.hz.push_back(7.0e6 + 2e4 * i);
        curve.ohm.push_back(load + Complex(0.0, 4.0 * (i - 5)));
    }
    return curve;
}

study::MatchRequest lossless() {
    study::MatchRequest r;
    r.frequencyHz = kHz;
    r.coilQ = 0.0;
    r.capacitorQ = 0.0;
    r.loadedQ = 12.0;
    return r;
}

/// The blocks of an option as the design would have them.
std::vector<model::Block> expanded(const study::MatchOption& option) {
    model::Design d;
    d.designFrequency = "7.1 MHz";
    d.parts.push_back({});
    d.parts[0].name = "Wire";
    d.feeds.push_back({});
    d.feeds[0].part = "Wire";
    d.feedPath = option.blocks;
    const auto e = model::expand(d);
    REQUIRE(e.findings.empty());
    return e.feedPath;
}

}  // namespace

TEST_CASE("every match is exact without loss, and the blocks for the design do the same") {
    for (const Complex load : {Complex(20, 0), Complex(150, -80), Complex(30, 200), Complex(2000, -1500)}) {
        INFO(load);
        const auto options = study::matchOptions(curveOf(load), lossless());
        std::set<MatchFamily> families;
        for (const auto& o : options) {
            INFO(o.title);
            families.insert(o.family);
            const auto seen = circuit::walkChain(expanded(o), load, kHz).back();
            CHECK(study::swr(seen.impedanceOhm, 50.0) == Approx(o.swr).epsilon(0.02));
            CHECK(seen.totalLossDb == Approx(o.lossDb).margin(0.005));
            CHECK(o.bandSwr.size() == 11);
            CHECK(o.worstSwr == *std::max_element(o.bandSwr.begin(), o.bandSwr.end()));
            if (o.family == MatchFamily::Stub || o.family == MatchFamily::QuarterWave) {
                CHECK(o.lossDb > 0.0);  // made of real cable
            } else {
                CHECK(o.swr < 1.001);
                CHECK(std::abs(o.lossDb) < 1e-9);
            }
        }
        CHECK(families.size() == 5);
        // Within a family the flattest comes first.
        for (std::size_t i = 1; i < options.size(); ++i)
            if (options[i].family == options[i - 1].family)
                CHECK(options[i].worstSwr >= options[i - 1].worstSwr);
    }
}

TEST_CASE("pi and T networks take over the reactance of the load") {
    using circuit::ThreeElements;
    for (const auto kind : {ThreeElements::PiLowPass, ThreeElements::PiHighPass, ThreeElements::TLowPass,
                            ThreeElements::THighPass})
        for (const Complex load : {Complex(200, 90), Complex(12, -35), Complex(900, 5)}) {
            const auto match = circuit::threeElementNetwork(kind, load, 50.0, 15.0, kHz);
            Complex z = load;
            for (const auto& e : match.elements) z = circuit::twoPort(e, kHz).impedanceInto(z);
            CHECK(std::abs(z - 50.0) < 1e-6);
        }
}

TEST_CASE("standard values are the nearest ones, with the SWR they really give") {
    auto request = lossless();
    request.values = study::Values::Steps12;
    request.coilQ = 150.0;
    const auto options = study::matchOptions(curveOf({150, -80}), request);
    const std::set<std::string> mantissa = {"1",   "1.2", "1.5", "1.8", "2.2", "2.7",
                                            "3.3", "3.9", "4.7", "5.6", "6.8", "8.2"};
    double worst = 1.0;
    for (const auto& o : options) {
        if (o.family != MatchFamily::L) continue;
        worst = std::max(worst, o.swr);
        CHECK(o.lossDb > 0.0);
        for (const auto& arm : o.blocks[0].arms) {
            double v = std::stod(arm.value);
            while (v >= 9.99) v /= 10.0;
            while (v < 0.999) v *= 10.0;
            CHECK(std::any_of(mantissa.begin(), mantissa.end(),
                              [&](const std::string& m) { return std::abs(std::stod(m) - v) < 1e-6; }));
        }
    }
    CHECK(worst > 1.01);
    CHECK(worst < 1.6);
}

TEST_CASE("the best transformer is found, and where it goes in the path") {
    model::Design d;
    d.designFrequency = "7.1 MHz";
    d.parts.push_back({});
    d.parts[0].name = "Wire";
    d.feeds.push_back({});
    d.feeds[0].part = "Wire";
    study::Sweep flat;
    flat.points.push_back({7e6, {2450.0}, 2450.0, 2450.0, 49.0});
    study::Sweep low;
    low.points.push_back({14e6, {1250.0}, 1250.0, 1250.0, 25.0});
    const auto e = model::expand(d);
    const auto one = study::transformerRatios(e, {&flat});
    CHECK(one.front().ratio == "49:1");
    CHECK(one.front().worst == Approx(1.0));
    // Between 2450 and 1250 ohm the geometric mean is best: 35:1.
    const auto both = study::transformerRatios(e, {&flat, &low});
    CHECK(both.front().ratio == "36:1");
    CHECK(both.front().worstSwr.size() == 2);
    for (const bool on : {true, false, true}) {
        d.feedPath.emplace_back();
        d.feedPath.back().enabled = on;
    }
    CHECK(study::placeInPath(d, 0) == 0);
    CHECK(study::placeInPath(d, 1) == 1);
    CHECK(study::placeInPath(d, 2) == 3);
}

TEST_CASE("what cannot be matched is said in a sentence") {
    auto r = lossless();
    CHECK_THROWS_WITH(study::matchOptions(curveOf({0.0, 40.0}), r), Catch::Contains("some resistance"));
    CHECK_THROWS_WITH(study::matchOptions({}, r), Catch::Contains("no impedance"));
    r.targetOhm = 0.0;
    CHECK_THROWS_WITH(study::matchOptions(curveOf(20.0), r), Catch::Contains("above zero"));
    r = lossless();
    r.line = "rope";
    CHECK_THROWS_WITH(study::matchOptions(curveOf(20.0), r), Catch::Contains("rope"));
}

TEST_CASE("the walk through a block begins and ends where the chain says, and can be walked back") {
    const model::Transformer transformer{49.0, 8e-6, 2500.0, 0.12e-6, 100e-12};
    const model::LineKind line{50.0, 0.66, 1.42, 0.018};
    const std::vector<model::Block> blocks = {
        transformer, model::Cable{line, 25.0}, model::Stub{line, 3.0, false}, model::Choke{0.2},
        model::Network{{{model::ElementKind::Inductor, 1.2e-6, false, 200.0},
                        {model::ElementKind::Capacitor, 150e-12, true, {}}}}};
    Complex z(2011.0, -1471.0);
    for (const auto& block : blocks) {
        const auto path = circuit::walkBlock(block, z, kHz, 16);
        const Complex end = circuit::twoPort(block, kHz).impedanceInto(z);
        CHECK(path.front() == z);
        CHECK(std::abs(path.back() - end) < 1e-9 * std::abs(end));
        CHECK(std::abs(circuit::beforeBlock(block, end, kHz) - z) < 1e-8 * std::abs(z));
        // No jumps: neighbours are close on the chart.
        for (std::size_t i = 1; i < path.size(); ++i)
            CHECK(std::abs(study::reflection(path[i], 50.0) - study::reflection(path[i - 1], 50.0)) < 0.9);
        z = end;
    }
}
