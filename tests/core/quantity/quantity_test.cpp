// Lengths as people write them.
#include <catch2/catch.hpp>

#include "core/quantity/format.h"
#include "core/quantity/formula.h"

using namespace rm;
using quantity::evaluate;
using quantity::Kind;

namespace {
const quantity::Scope kScope{{{"leg", 10.0}, {"slope", 30.0}, {"h", 12.0}}, 20.0};
double length(const std::string& text) {
    return evaluate(text, Kind::Length, kScope);
}
}  // namespace

TEST_CASE("lengths in every unit") {
    CHECK(length("12.5 m") == 12.5);
    CHECK(length("12.5") == 12.5);
    CHECK(length("1250 cm") == 12.5);
    CHECK(length("12500mm") == 12.5);
    CHECK(length("41 ft 6 1/2 in") == Approx(41 * 0.3048 + 6.5 * 0.0254));
    CHECK(length("41' 6 1/2\"") == Approx(41 * 0.3048 + 6.5 * 0.0254));
    CHECK(length("41′ 6½″") == Approx(41 * 0.3048 + 6.5 * 0.0254));
    CHECK(length("41ft") == Approx(41 * 0.3048));
    CHECK(length("6 1/2 in") == Approx(6.5 * 0.0254));
    CHECK(length("3/4 in") == Approx(0.75 * 0.0254));
    CHECK(length("0.25 lambda") == 5.0);
    CHECK(length("0.25 λ") == 5.0);
    CHECK(length("12,5 m") == 12.5);
    CHECK(length("1e-1 m") == Approx(0.1));
    CHECK(length("-3 m") == -3.0);
    CHECK(length("−3 m") == -3.0);
}

TEST_CASE("formulas over dimensions, angles in degrees") {
    CHECK(length("lambda/4") == 5.0);
    CHECK(length("h - 4") == 8.0);
    CHECK(length("leg*cos(slope)") == Approx(10 * std::cos(kPi / 6)));
    CHECK(length("h - 4 ft") == Approx(12 - 4 * 0.3048));
    CHECK(length("max(leg, h)/2") == 6.0);
    CHECK(length("2*(leg + 50 cm)") == 21.0);
    CHECK(length("sqrt(leg^2 + h^2)") == Approx(std::hypot(10.0, 12.0)));
    CHECK(evaluate("atan(1)", Kind::Angle, kScope) == Approx(45.0));
}

TEST_CASE("short lengths are on a tape to the sixteenth of an inch, long ones to the eighth") {
    const auto tape = [](double inches) {
        return quantity::formatLength(inches * 0.0254, quantity::LengthStyle::FeetInches);
    };
    CHECK(tape(38.0 + 5.0 / 16.0) == "3' 2 5/16\"");
    CHECK(tape(-(38.0 + 5.0 / 16.0)) == "−3' 2 5/16\"");
    CHECK(tape(138.0 + 5.1 / 16.0) == "11' 6 3/8\"");
}

TEST_CASE("a value in the unit of something else is refused, not read as so many of the field's own") {
    using Catch::Contains;
    CHECK_THROWS_WITH(evaluate("44' 1 1/2\"", Kind::Angle, kScope),
                      Contains("is a length: an angle in degrees is wanted here"));
    CHECK_THROWS_WITH(length("30 deg"), Contains("is an angle: a length"));
    CHECK_THROWS_WITH(length("-14.1 MHz"), Contains("is a frequency: a length"));
    CHECK_THROWS_WITH(length("5 %"), Contains("is a percentage: a length"));
    CHECK_THROWS_WITH(evaluate("20 m", Kind::Frequency, kScope), Contains("is a length: a frequency"));
    CHECK_THROWS_WITH(evaluate("2 m", Kind::Number, kScope), Contains("a number without a unit"));
    CHECK_THROWS_WITH(evaluate("30 deg", Kind::Diameter, kScope), Contains("a diameter"));
    CHECK_THROWS_WITH(length("3 m + 30 deg"), Contains("adds up a length and an angle"));
    CHECK_THROWS_WITH(length("2 deg - (1 + 30 deg)"), Contains("is an angle"));
    // What a product comes to only its author knows.
    CHECK(length("10 m * sin(30 deg)") == Approx(5.0));
    CHECK(evaluate("atan(3 m / 3 m)", Kind::Angle, kScope) == Approx(45.0));
    CHECK(evaluate("10 m / 4 m", Kind::Number, kScope) == Approx(2.5));
    CHECK(length("1 m + 3 ft - 2 in + 0.1 lambda") == Approx(3.8636));
}

TEST_CASE("bare numbers take the unit of their field") {
    CHECK(evaluate("2", Kind::Diameter, kScope) == 0.002);
    CHECK(evaluate("25.4/2", Kind::Diameter, kScope) == Approx(0.0127));
    CHECK(evaluate("1/4 in", Kind::Diameter, kScope) == Approx(0.00635));
    CHECK(evaluate("14 awg", Kind::Diameter, kScope) == Approx(0.001628).epsilon(1e-3));
    CHECK(evaluate("12 AWG", Kind::Diameter, kScope) == Approx(0.002053).epsilon(1e-3));
    CHECK(evaluate("14.15", Kind::Frequency, kScope) == Approx(14.15e6));
    CHECK(evaluate("3650 kHz", Kind::Frequency, kScope) == 3.65e6);
    CHECK(evaluate("30", Kind::Angle, kScope) == 30.0);
    CHECK(evaluate("30°", Kind::Angle, kScope) == 30.0);
    CHECK(evaluate("5 %", Kind::Number, kScope) == Approx(0.05));
}

TEST_CASE("a number or a name alone is what it is as a formula") {
    for (const auto& [kind, united] :
         {std::pair{Kind::Length, "3 1/2 in"}, std::pair{Kind::Diameter, "3 1/2 in"},
          std::pair{Kind::Frequency, "7 kHz"}, std::pair{Kind::Angle, "12 deg"},
          std::pair{Kind::Number, "5 %"}})
        for (const std::string alone : {"leg", " h ", "lambda", "pi", "7.25", " 7.25 ", united, "1/3"}) {
            INFO(alone);
            CHECK(evaluate(alone, kind, kScope) ==
                  Approx(evaluate(alone + "*1", kind, kScope)).epsilon(1e-15));
        }
    // Where a name of the scope is one that formulas have themselves, it is theirs.
    const quantity::Scope odd{{{"pi", 5.0}}, 20.0};
    CHECK_THROWS(evaluate("pi", Kind::Number, odd));
    // Side by side they are not read as one, whatever else there is.
    const quantity::Scope joined{{{"leg", 1.0}, {"h", 2.0}, {"legh", 3.0}}, 20.0};
    CHECK_THROWS_WITH(evaluate("leg h", Kind::Length, joined), Catch::Contains("before \"h\""));
    CHECK_THROWS_WITH(length("5 m leg"), Catch::Contains("before \"leg\""));
    CHECK_THROWS_WITH(length("lag"), Catch::Contains("did you mean leg"));
}

TEST_CASE(
    "feet and inches with a hyphen between them are not guessed at; two marks of feet are one of inches") {
    CHECK(length("33' 6''") == Approx(33.5 * 0.3048));
    CHECK(length("33′ 6′′") == Approx(33.5 * 0.3048));
    for (const char* twofold : {"33'-6\"", "33'-6 1/2\"", "33ft-6in", "2*(33'-6'')"})
        CHECK_THROWS_WITH(length(twofold), Catch::Contains("feet and inches, or as feet less inches"));
    CHECK(length("33' - 6\"") == Approx(32.5 * 0.3048));
    CHECK(length("33'-2'") == Approx(31.0 * 0.3048));
    CHECK(length("33'-1 m") == Approx(33.0 * 0.3048 - 1.0));
}

TEST_CASE("what cannot be read gets one sentence that helps") {
    using Catch::Contains;
    CHECK_THROWS_WITH(length(""), Contains("missing"));
    CHECK_THROWS_WITH(length("legg"), Contains("did you mean leg"));
    CHECK_THROWS_WITH(length("wing"), Contains("wing, which is not a dimension"));
    CHECK_THROWS_WITH(length("2 leg"), !Contains("error"));
    CHECK_THROWS_WITH(length("(leg"), Contains("brackets"));
    CHECK_THROWS_WITH(length("12 m 5"), Contains("put +, -, * or /"));
    CHECK_THROWS_WITH(length("33' 6"), Contains("an inch mark"));
    CHECK_THROWS_WITH(evaluate("lambda/4", Kind::Length, {}), Contains("set the design frequency"));
    CHECK_THROWS_WITH(length("1/0"), Contains("no finite value"));
    CHECK_THROWS_WITH(length("1.2.3"), Contains("not a number"));
    CHECK_THROWS_AS(evaluate("lambda", Kind::Length, {}), Error);
}

TEST_CASE("names of dimensions") {
    CHECK(quantity::namesIn("leg*cos(slope) + lambda/4") == std::vector<std::string>{"leg", "slope"});
    CHECK(quantity::namesIn("41' 6\"").empty());
    CHECK(quantity::isUsableName("leg_2"));
    for (const char* bad : {"", "2leg", "lambda", "sin", "a b", "a-b"})
        CHECK_FALSE(quantity::isUsableName(bad));
    CHECK(quantity::isPlainNumber("41' 6\""));
    CHECK(quantity::isPlainNumber("12.5 m"));
    CHECK(quantity::isPlainNumber("-60 deg"));
    CHECK(quantity::isPlainNumber(" - 0.5 m"));
    CHECK(quantity::isPlainNumber("−16' 5 3/8\""));
    CHECK_FALSE(quantity::isPlainNumber("-leg"));
    CHECK_FALSE(quantity::isPlainNumber("1 - 2"));
    CHECK_FALSE(quantity::isPlainNumber("--1"));
    CHECK_FALSE(quantity::isPlainNumber("-"));
    CHECK_FALSE(quantity::isPlainNumber("leg"));
    CHECK_FALSE(quantity::isPlainNumber("1 m + 2 m"));
    CHECK(quantity::closestName("hieght", {"width", "height"}) == "height");
    CHECK(quantity::closestName("zzz", {"width", "height"}).empty());
}

TEST_CASE("numbers are written for people") {
    using namespace quantity;
    CHECK(formatLength(12.3456) == "12.346 m");
    CHECK(formatLength(0.02) == "0.02 m");
    CHECK(formatLength(12.649, LengthStyle::FeetInches) == "41' 6\"");
    CHECK(formatLength(12.6524, LengthStyle::FeetInches) == "41' 6 1/8\"");
    CHECK(formatLength(0.3048 * 2 - 0.0001, LengthStyle::FeetInches) == "2' 0\"");
    CHECK(formatSwr(1.434) == "1.43");
    CHECK(formatSwr(std::numeric_limits<double>::infinity()) == "> 99");
    CHECK(formatImpedance({73.13, -42.5}) == "73.1 − j42.5");
    CHECK(formatDb(-4.25) == "−4.2");
    CHECK(formatDb(-0.01) == "0.0");
    CHECK(formatDb(-80.0) == "–");
    CHECK(lengthLike("41' 6\"", 12.649) == "41' 6\"");
    CHECK(lengthLike("100 mm", 0.2) == "200.0 mm");
    CHECK(lengthLike("10 m", 10.25) == "10.2500 m");
    CHECK(lengthLike("10 ft", 3.048 * 1.5) == "15.000 ft");
}

TEST_CASE("a written length reads back as itself") {
    for (const double metres : {0.0123, 1.0, 9.8765, 41.23}) {
        CHECK(evaluate(quantity::formatLength(metres), Kind::Length, {}) == Approx(metres).epsilon(5e-4));
        const auto tape = quantity::formatLength(metres, quantity::LengthStyle::FeetInches);
        CHECK(evaluate(tape, Kind::Length, {}) == Approx(metres).margin(0.0254 / 16));
    }
}
