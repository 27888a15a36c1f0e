// From a measured curve to the saw: made-up measurements of antennas that differ from their drawing in known
// ways.
#include <fmt/format.h>

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "core/build/trim.h"
#include "core/circuit/chain.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"
#include "core/starters/starter.h"
#include "core/study/figures.h"

using namespace rm;
using namespace rm::model;

namespace {

/// What nobody told the model.
struct Hidden {
    double longer = 1.02;
    double raisedM = 0.0;
    double conductivity = 1.0;  ///< times what is said
    double picofarad = 0.0;
    double lossOhm = 0.0;
};

double lengthOf(const Design& design, const std::string& name) {
    return expand(design).dimensionValue.at(name);
}

Design built(Design design, const Hidden& hidden) {
    for (auto& d : design.dimensions)
        if (d.kind == DimensionKind::Length && d.scales && quantity::isPlainNumber(d.text))
            d.text = fmt::format("{:.12g} m", hidden.longer * lengthOf(design, d.name));
    if (hidden.raisedM != 0.0)
        design.site.height = fmt::format("{:.12g} m", expand(design).heightM + hidden.raisedM);
    const Ground ground = expand(design).model.ground;
    if (ground.kind == GroundKind::Real && hidden.conductivity != 1.0) {
        design.site.soil = kCustomSoil;
        design.site.permittivity = fmt::format("{:.9g}", ground.relativePermittivity);
        design.site.conductivity = fmt::format("{:.9g}", hidden.conductivity * ground.conductivitySm);
    }
    return design;
}

Complex seen(Complex z, const Hidden& hidden, double hz) {
    return 1.0 / (1.0 / z + Complex(0.0, 2.0 * kPi * hz * 1e-12 * hidden.picofarad)) + hidden.lossOhm;
}

/// What an analyser at the feed reads, with its noise.
Measured measure(const Design& drawn, const Hidden& hidden, double lowHz, double highHz, unsigned seed,
                 double noise = 0.004) {
    const auto e = expand(built(drawn, hidden));
    std::mt19937 random(seed);
    std::normal_distribution<double> scatter(0.0, noise / std::sqrt(2.0));
    Measured measured;
    measured.name = "Made up";
    measured.atAntenna = true;
    for (int i = 0; i <= 40; ++i) {
        const double hz = lowHz + (highHz - lowHz) * i / 40.0;
        const Complex z = seen(study::analyse(e, hz).figures.antennaOhm, hidden, hz);
        const double reference = e.referenceOhm;
        const Complex g = (z - reference) / (z + reference) + Complex(scatter(random), scatter(random));
        MeasuredPoint point;
        point.frequencyHz = hz;
        point.impedanceOhm = reference * (1.0 + g) / (1.0 - g);
        point.swr = (1.0 + std::abs(g)) / std::max(1e-6, 1.0 - std::abs(g));
        measured.data.points.push_back(point);
    }
    return measured;
}

/// The cut that is really needed: the best worst SWR over the band of the antenna as it stands there.
double trueCut(const Design& drawn, const Hidden& hidden, const std::string& name, const Band& band) {
    const double now = lengthOf(drawn, name);
    const auto worstAt = [&](double change) {
        Design cut = drawn;
        for (auto& d : cut.dimensions)
            if (d.name == name) d.text = fmt::format("{:.12g} m", now * (1.0 + change));
        const auto e = expand(built(cut, hidden));
        double worst = 1.0;
        for (const double hz : {band.lowHz, band.centreHz(), band.highHz}) {
            Complex z = seen(study::analyse(e, hz).figures.antennaOhm, hidden, hz);
            if (!e.feedPath.empty()) z = circuit::walkChain(e.feedPath, z, hz).back().impedanceOhm;
            worst = std::max(worst, study::swr(z, e.referenceOhm));
        }
        return worst;
    };
    // Coarse over eight percent, then finer round the best.
    double best = 0.0;
    for (const double step : {0.005, 0.0005}) {
        const double middle = best;
        double value = 1e9;
        for (int i = -16; i <= 16; ++i) {
            const double worst = worstAt(middle + i * step);
            if (worst >= value) continue;
            value = worst;
            best = middle + i * step;
        }
    }
    return now * best;
}

struct Case {
    const char* kind;
    const char* band;
    const char* dimension;
    Hidden hidden;
};

}  // namespace

TEST_CASE("the advised cut is the one that is needed, within a tenth") {
    const Case cases[] = {
        {"dipole", "40 m", "span", {1.022, 0.6, 1.5, 0.0, 0.8}},
        {"inverted-v", "40 m", "leg", {0.975, 0.0, 1.0, 2.0, 1.5}},
        {"vertical", "20 m", "tall", {1.03, 0.0, 1.8, 0.0, 2.0}},
        {"delta-loop", "20 m", "perimeter", {0.98, 0.4, 1.0, 0.0, 1.0}},
        {"end-fed-sloper", "40 m", "run", {1.025, 0.0, 1.4, 0.0, 0.0}},
        {"yagi-3", "6 m", "driven", {1.012, 0.0, 1.0, 1.0, 0.5}},
    };
    for (const auto& one : cases) {
        starters::Order order;
        order.bands = {*findAllocatedBand(one.band)};
        order.site.ground = GroundKind::Real;
        order.heightM = 10.0;
        Design design = starters::make(one.kind, order);
        const Band& band = order.bands.front();
        design.measured = {measure(design, one.hidden, band.lowHz * 0.95, band.highHz * 1.05, 7)};
        build::TrimRequest request;
        request.dimension = one.dimension;
        request.band = band;
        const auto answer = build::trim(design, request);
        const double needed = trueCut(design, one.hidden, one.dimension, band);
        INFO(one.kind << ": " << build::trimSentence(answer) << " needed " << needed << " misfit "
                      << answer.misfit << " was " << answer.misfitDrawn);
        CHECK(answer.explained);
        CHECK(answer.misfit < 0.3 * answer.misfitDrawn);
        // To a tenth of what is needed, or to what a tape can do.
        CHECK(std::abs(answer.changeM - needed) < 0.1 * std::abs(needed) + 0.001 * answer.nowM);
        CHECK(answer.afterSwr <= answer.beforeSwr);
        REQUIRE_FALSE(answer.causes.empty());
        CHECK(answer.causes.front().cause == build::Cause::Length);
    }
}

TEST_CASE("causes are taken in only where the curve shows them, with their doubt") {
    starters::Order order;
    order.bands = {*findAllocatedBand("40 m")};
    order.site.ground = GroundKind::Real;
    Design design = starters::make("dipole", order);
    const Band& band = order.bands.front();
    build::TrimRequest request;
    request.band = band;

    design.measured = {measure(design, {1.02, 0.0, 1.0, 0.0, 0.0}, 6.8e6, 7.4e6, 3)};
    auto answer = build::trim(design, request);
    REQUIRE(answer.causes.size() == 1);
    CHECK(answer.causes[0].value == Approx(0.02).margin(0.002));
    CHECK(answer.causes[0].sigma < 0.004);
    CHECK(build::trimSentence(answer).find("Shorten span") == 0);
    // The same cut on a tape in inches: sixteenths, and never none of them.
    const std::string tape = build::trimSentence(answer, true);
    INFO(tape);
    CHECK(tape.find("Shorten span") == 0);
    CHECK(tape.find("by " + quantity::formatTape(-answer.changeM, 16) + " (± 1/16\")") != std::string::npos);
    CHECK(tape.find("to " + quantity::formatTape(answer.nowM + answer.changeM, 16) + ": ") !=
          std::string::npos);
    CHECK(tape.find(" 0\"") == std::string::npos);
    CHECK(tape.find(" m:") == std::string::npos);

    // Three ohm of bad joints show, and are no length.
    design.measured = {measure(design, {1.02, 0.0, 1.0, 0.0, 6.0}, 6.8e6, 7.4e6, 3)};
    answer = build::trim(design, request);
    const auto loss = std::find_if(answer.causes.begin(), answer.causes.end(),
                                   [](const auto& c) { return c.cause == build::Cause::Loss; });
    REQUIRE(loss != answer.causes.end());
    CHECK(loss->value == Approx(6.0).margin(2.0));
    CHECK(answer.causes[0].value == Approx(0.02).margin(0.003));
}

TEST_CASE("what fits nothing is said to fit nothing; what is right is left alone") {
    starters::Order order;
    order.bands = {*findAllocatedBand("20 m")};
    order.site.ground = GroundKind::Real;
    Design design = starters::make("dipole", order);
    build::TrimRequest request;
    request.band = order.bands.front();
    design.measured = {measure(design, {1.0, 0.0, 1.0, 0.0, 0.0}, 13.6e6, 14.8e6, 5)};
    auto answer = build::trim(design, request);
    INFO(build::trimSentence(answer));
    CHECK(std::abs(answer.changeM) < 0.004 * answer.nowM);
    // An antenna of another kind altogether.
    for (auto& point : design.measured[0].data.points) {
        const double turn = (point.frequencyHz - 13.6e6) / 1.2e6;
        point.impedanceOhm = Complex(50.0 + 40.0 * std::sin(25.0 * turn), 90.0 * std::cos(19.0 * turn));
    }
    answer = build::trim(design, request);
    CHECK_FALSE(answer.explained);
    CHECK(build::trimSentence(answer).find("reference plane") != std::string::npos);
}

TEST_CASE("a second measurement after the first cut belongs to what was cut") {
    starters::Order order;
    order.bands = {*findAllocatedBand("40 m")};
    order.site.ground = GroundKind::Real;
    Design design = starters::make("dipole", order);
    const Hidden hidden{1.025, 0.5, 1.3, 0.0, 1.0};
    build::TrimRequest request;
    request.band = order.bands.front();
    auto first = measure(design, hidden, 6.7e6, 7.4e6, 11, 0.02);
    for (const auto& d : design.dimensions) first.takenWith.push_back({d.name, d.text, {}});
    design.measured = {first};
    const auto one = build::trim(design, request);
    // Half of it is cut, as careful people do, and measured again.
    design.dimensions.front().text = fmt::format("{:.4f} m", one.nowM + 0.5 * one.changeM);
    auto second = measure(design, hidden, 6.7e6, 7.4e6, 12, 0.02);
    for (const auto& d : design.dimensions) second.takenWith.push_back({d.name, d.text, {}});
    design.measured.push_back(second);
    const auto two = build::trim(design, request);
    INFO(build::trimSentence(one) << " then " << build::trimSentence(two));
    CHECK(two.nowM + two.changeM == Approx(one.nowM + one.changeM).epsilon(0.004));
    CHECK(two.causes.front().sigma <= one.causes.front().sigma);
    CHECK(std::abs(two.changeM - trueCut(design, hidden, "span", request.band)) < 0.004 * two.nowM);
}

TEST_CASE("a cause that an antenna cannot have ends no fit: a wire that would hang in the ground") {
    starters::Order order;
    order.bands = {*findAllocatedBand("40 m")};
    order.site.ground = GroundKind::Real;
    Design design = starters::make("inverted-v", order);
    // Its tips hang a hand above the grass, and what was measured is of a much longer one.
    for (auto& d : design.dimensions)
        if (d.name == "apex") d.text = "5.5 m";
    design.measured = {measure(design, {0.97, 0.0, 1.0, 0.0, 0.0}, 6.7e6, 7.5e6, 9)};
    for (auto& point : design.measured[0].data.points) point.frequencyHz *= 0.93;
    build::TrimRequest request;
    request.band = order.bands.front();
    CHECK_NOTHROW(build::trim(design, request));
}

TEST_CASE("nothing to trim by, nothing to cut: sentences") {
    Design design;
    CHECK_THROWS_AS(build::trim(design, {}), Error);
    starters::Order order;
    order.bands = {*findAllocatedBand("20 m")};
    design = starters::make("dipole", order);
    build::TrimRequest request;
    request.band = order.bands.front();
    CHECK_THROWS_WITH(build::trim(design, request), Catch::Contains("import"));
    request.dimension = "nothing";
    CHECK_THROWS_WITH(build::trim(design, request), Catch::Contains("span"));
}
