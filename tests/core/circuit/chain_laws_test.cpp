// Laws of two-ports that hold for every block of a feed path, whatever its values.
#include <rapidcheck.h>
#include <rapidcheck/catch.h>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/circuit/chain.h"
#include "core/circuit/reflection.h"

using namespace rm;
using namespace rm::circuit;

namespace {

/// Between two limits, evenly in its logarithm.
double sized(double low, double high) {
    const int step = *rc::gen::inRange(0, 1001);
    return low * std::pow(high / low, step / 1000.0);
}

LineKind anyLine() {
    return {sized(20.0, 600.0), sized(0.5, 1.0), sized(0.01, 2.0), sized(0.001, 0.1)};
}

Element anyElement() {
    Element e;
    e.kind = *rc::gen::element(ElementKind::Inductor, ElementKind::Capacitor, ElementKind::Resistor);
    e.value = e.kind == ElementKind::Inductor    ? sized(1e-8, 1e-4)
              : e.kind == ElementKind::Capacitor ? sized(1e-12, 1e-8)
                                                 : sized(1.0, 1e4);
    e.shunt = *rc::gen::arbitrary<bool>();
    if (*rc::gen::arbitrary<bool>()) e.q = sized(20.0, 1000.0);
    return e;
}

Block anyBlock() {
    switch (*rc::gen::inRange(0, 6)) {
        case 0:
            return Transformer{sized(1.0, 64.0), sized(1e-6, 1e-4), sized(1e3, 1e5), sized(1e-9, 1e-6),
                               sized(1e-12, 2e-10)};
        case 1:
            return Cable{anyLine(), sized(0.1, 60.0)};
        case 2:
            return Stub{anyLine(), sized(0.1, 20.0), *rc::gen::arbitrary<bool>()};
        case 3:
            return anyElement();
        case 4:
            return Choke{sized(0.01, 1.0)};
        default:
            return Network{{anyElement(), anyElement(), anyElement()}};
    }
}

double anyFrequency() {
    return sized(1.8e6, 60e6);
}

Complex anyLoad() {
    return {sized(1.0, 5000.0), (*rc::gen::arbitrary<bool>() ? 1.0 : -1.0) * sized(0.1, 5000.0)};
}

/// Within so many parts of the larger one.
bool sameAs(Complex a, Complex b, double share) {
    return std::abs(a - b) <= share * std::max({std::abs(a), std::abs(b), 1e-9});
}

}  // namespace

TEST_CASE("every block of a feed path is reciprocal, and takes power and gives none") {
    rc::prop("a d - b c = 1, loss at least zero", [] {
        const Block block = anyBlock();
        const double hz = anyFrequency();
        const TwoPort two = twoPort(block, hz);
        const double size = std::abs(two.a * two.d) + std::abs(two.b * two.c);
        RC_ASSERT(std::abs(two.a * two.d - two.b * two.c - 1.0) <= 1e-9 * size);
        RC_ASSERT(two.lossDb(anyLoad()) >= -1e-9 * size);
        // What is seen of a passive load through a passive block takes power, too.
        RC_ASSERT(two.impedanceInto(anyLoad()).real() >= 0.0);
    });
}

TEST_CASE("the plane of a measurement moves through a block and back") {
    rc::prop("beforeBlock undoes impedanceInto", [] {
        const Block block = anyBlock();
        const double hz = anyFrequency();
        const Complex load = anyLoad();
        const TwoPort two = twoPort(block, hz);
        // Where the block eats what comes back, nothing can be told of the load.
        RC_PRE(two.lossDb(load) < 20.0);
        const Complex back = beforeBlock(block, two.impedanceInto(load), hz);
        RC_ASSERT(std::abs(reflection(back, 50.0) - reflection(load, 50.0)) < 1e-6);
    });
}

TEST_CASE("a walk through a block begins at the load and ends at what is seen") {
    rc::prop("first and last point", [] {
        const Block block = anyBlock();
        const double hz = anyFrequency();
        const Complex load = anyLoad();
        const auto way = walkBlock(block, load, hz, 24);
        RC_ASSERT(way.size() >= 24U);
        RC_ASSERT(sameAs(way.front(), load, 1e-9));
        RC_ASSERT(sameAs(way.back(), twoPort(block, hz).impedanceInto(load), 1e-6));
    });
}

TEST_CASE("a chain is its two-ports one after the other, and its loss the sum of theirs") {
    rc::prop("impedance and loss", [] {
        const auto blocks =
            *rc::gen::container<std::vector<int>>(*rc::gen::inRange<std::size_t>(1, 5), rc::gen::just(0));
        std::vector<Block> chain;
        for (std::size_t i = 0; i < blocks.size(); ++i) chain.push_back(anyBlock());
        const double hz = anyFrequency();
        const Complex load = anyLoad();
        const auto joints = walkChain(chain, load, hz);
        RC_ASSERT(joints.size() == chain.size() + 1);
        RC_ASSERT(joints.front().impedanceOhm == load);
        RC_ASSERT(joints.front().totalLossDb == 0.0);
        TwoPort all;
        double sum = 0.0;
        for (std::size_t i = 0; i < chain.size(); ++i) {
            all = twoPort(chain[i], hz).then(all);
            sum += joints[i + 1].blockLossDb;
            RC_ASSERT(std::abs(joints[i + 1].totalLossDb - sum) < 1e-9 * (1.0 + sum));
        }
        RC_PRE(sum < 60.0);
        RC_ASSERT(std::abs(reflection(joints.back().impedanceOhm, 50.0) -
                           reflection(all.impedanceInto(load), 50.0)) < 1e-6);
        RC_ASSERT(std::abs(all.lossDb(load) - sum) < 1e-5 * (1.0 + sum));
    });
}

TEST_CASE("elements in series add as impedances, beside each other as admittances") {
    const Complex a(3.0, 40.0);
    const Complex b(10.0, -25.0);
    const Complex load(50.0, 7.0);
    CHECK(std::abs(seriesElement(a).then(seriesElement(b)).impedanceInto(load) - (load + a + b)) < 1e-12);
    const Complex ya = 1.0 / a;
    const Complex yb = 1.0 / b;
    const Complex seen = shuntElement(ya).then(shuntElement(yb)).impedanceInto(load);
    CHECK(std::abs(1.0 / seen - (1.0 / load + ya + yb)) < 1e-12);
    // A short is a short behind whatever is beside it, an open end what is beside it.
    CHECK(std::abs(shuntElement(ya).impedanceInto(0.0)) < 1e-12);
    const double infinite = std::numeric_limits<double>::infinity();
    CHECK(std::abs(shuntElement(ya).impedanceInto(infinite) - a) < 1e-9);
    // Order matters where kinds differ: an L turned round is another L.
    CHECK(std::abs(seriesElement(a).then(shuntElement(yb)).impedanceInto(load) -
                   shuntElement(yb).then(seriesElement(a)).impedanceInto(load)) > 1.0);
}

TEST_CASE("a quarter wave of line turns an impedance over, a half wave repeats it, a stub is open or short") {
    const LineKind line{75.0, 0.8, 0.0, 0.0};
    const double hz = 21.2e6;
    const double quarterM = 0.25 * 0.8 * kSpeedOfLight / hz;
    const Complex load(30.0, 22.0);
    CHECK(std::abs(twoPort(Cable{line, quarterM}, hz).impedanceInto(load) - 75.0 * 75.0 / load) < 1e-9);
    CHECK(std::abs(twoPort(Cable{line, 2.0 * quarterM}, hz).impedanceInto(load) - load) < 1e-9);
    CHECK(std::abs(twoPort(Stub{line, quarterM, true}, hz).impedanceInto(load) - load) < 1e-9);
    CHECK(std::abs(twoPort(Stub{line, quarterM, false}, hz).impedanceInto(load)) < 1e-9);
    // An eighth, shorted, is a coil of the line's own impedance.
    CHECK(std::abs(1.0 / twoPort(Stub{line, 0.5 * quarterM, true}, hz).c - Complex(0.0, 75.0)) < 1e-9);
}

TEST_CASE("a matched line loses what its kind says, and every other load more") {
    const LineKind line{50.0, 0.66, 0.4, 0.01};
    const Block cable = Cable{line, 37.0};
    const double hz = 28.5e6;
    const double matched = line.matchedLossDb(37.0, hz);
    CHECK(matched == Approx((0.4 * std::sqrt(28.5) + 0.01 * 28.5) * 0.37));
    CHECK(twoPort(cable, hz).lossDb(50.0) == Approx(matched).epsilon(1e-9));
    rc::prop("an uneven load loses no less", [&] {
        // Of a reflection on the line the mean over its phase is meant; a whole number of half waves has it.
        const Block whole = Cable{line, 20.0 * 0.5 * 0.66 * kSpeedOfLight / hz};
        const double least = line.matchedLossDb(std::get<Cable>(whole).lengthM, hz);
        RC_ASSERT(twoPort(whole, hz).lossDb(sized(1.0, 2500.0)) >= least - 1e-9);
    });
}

TEST_CASE("an impedance and what it reflects are one and the same") {
    rc::prop("there and back", [] {
        const Complex z = anyLoad();
        const double reference = sized(10.0, 600.0);
        const Complex gamma = reflection(z, reference);
        RC_ASSERT(std::abs(gamma) < 1.0);
        RC_ASSERT(sameAs(impedanceOf(gamma, reference), z, 1e-7));
        const double ratio = swr(z, reference);
        RC_ASSERT(std::abs(ratio - (1.0 + std::abs(gamma)) / (1.0 - std::abs(gamma))) <= 1e-9 * ratio);
        RC_ASSERT(std::abs(returnLossDb(z, reference) + 20.0 * std::log10(std::abs(gamma))) < 1e-9);
    });
    CHECK(reflection(std::numeric_limits<double>::infinity(), 50.0) == Complex(1.0));
    CHECK(reflection(0.0, 50.0) == Complex(-1.0));
    CHECK(std::isinf(swr(Complex(0.0, 13.0), 50.0)));
}
