// Laws of numbers as people write them: what is written reads back, in the unit and to the digit it claims.
#include <fmt/format.h>
#include <rapidcheck.h>
#include <rapidcheck/catch.h>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/build/winding.h"
#include "core/model/dimension_kind.h"
#include "core/project/text_table.h"
#include "core/quantity/format.h"
#include "core/quantity/typed_like.h"

using namespace rm;
using namespace rm::quantity;

namespace {

/// Either sign, evenly in the logarithm of its size.
double anySize(double low, double high, bool negative = false) {
    const double size = low * std::pow(high / low, *rc::gen::inRange(0, 100001) / 100000.0);
    return negative && *rc::gen::arbitrary<bool>() ? -size : size;
}

double lengthIn(const std::string& text, double lambdaM = 20.0) {
    return evaluate(text, Kind::Length, {{}, lambdaM});
}

}  // namespace

TEST_CASE("a value that is written for a dimension reads back to the last digit that matters") {
    rc::prop("exactText", [] {
        const auto kind = *rc::gen::element(model::DimensionKind::Length, model::DimensionKind::Angle,
                                            model::DimensionKind::Number);
        const double value = anySize(1e-5, 1e5, true);
        const double back = evaluate(model::exactText(kind, value), model::kindOf(kind), {});
        RC_ASSERT(std::abs(back - value) <= 1e-11 * std::abs(value));
    });
}

TEST_CASE("a length that takes another's place keeps its unit and is as near as its step allows") {
    rc::prop("typedLike", [] {
        const std::string unit = *rc::gen::element<std::string>("m", "cm", "mm", "ft", "in", "lambda");
        const std::string like = fmt::format("{} {}", *rc::gen::inRange(1, 90), unit);
        const double step = *rc::gen::element(0.0, 0.001, 0.01, 0.1);
        const double value = anySize(0.2, 200.0, true);
        const std::string text = typedLike(like, Kind::Length, value, step, 20.0);
        RC_ASSERT(text.ends_with(" " + unit));
        const double near = step > 0.0 ? step : 1e-5;
        // Half a step for the value, and half a digit of what it is written in.
        RC_ASSERT(std::abs(lengthIn(text) - value) <= 1.05 * near + 1e-9);
        // Written once more it stays as it is.
        RC_ASSERT(typedLike(text, Kind::Length, lengthIn(text), step, 20.0) == text);
    });
    CHECK(typedLike("12 m", Kind::Length, 3.0, 0.01, 0.0) == "3 m");
    CHECK(typedLike("10 deg", Kind::Angle, 44.96, 0.5, 0.0) == "45 deg");
    CHECK(typedLike("3", Kind::Number, 2.5, 0.0, 0.0) == "2.5");
    CHECK(typedLike("40' 6\"", Kind::Length, 3.048, 0.01, 0.0) == "10' 0\"");
    // As it is typed, or the next hand finds a formula; and to the marks that the step is made of.
    CHECK(typedLike("40' 6\"", Kind::Length, -5.0, 0.01, 0.0) == "-16' 4 7/8\"");
    CHECK(typedLike("40' 6\"", Kind::Length, -5.0, 0.0254, 0.0) == "-16' 5\"");
    CHECK(typedLike("40' 6\"", Kind::Length, 5.0, 3.0 * 0.0254, 0.0) == "16' 6\"");
    CHECK(typedLike("40.5 ft", Kind::Length, 5.0, 6.0 * 0.0254, 0.0) == "16.5 ft");
}

TEST_CASE("lengths for the tape read back within half of its finest mark") {
    rc::prop("feet and inches", [] {
        const double metres = anySize(0.05, 60.0);
        constexpr double kInch = 0.0254;
        const int parts = *rc::gen::element(8, 16, 32);
        RC_ASSERT(std::abs(lengthIn(formatTape(metres, parts)) - metres) <= 0.5001 * kInch / parts);
        RC_ASSERT(std::abs(lengthIn(formatLength(metres, LengthStyle::FeetInches)) - metres) <=
                  0.5001 * kInch / 8.0);
        // No fraction is ever written that could be shorter, and no twelve inches.
        RC_ASSERT(formatTape(metres, parts).find("12\"") == std::string::npos);
        for (const char* bad : {"2/4", "2/8", "4/8", "6/8", "8/8", "2/16", "16/16", "2/32", "32/32"})
            RC_ASSERT(formatTape(metres, parts).find(std::string(" ") + bad + "\"") == std::string::npos);
    });
    rc::prop("metres and millimetres", [] {
        const double metres = anySize(0.002, 90.0);
        RC_ASSERT(std::abs(lengthIn(formatLength(metres)) - metres) <= 0.00501);
        // Four digits of a diameter.
        RC_ASSERT(std::abs(evaluate(formatDiameter(metres), Kind::Diameter, {}) - metres) <=
                  5.01e-4 * metres);
    });
}

TEST_CASE("frequencies are written in MHz and read back to the kilohertz or better") {
    rc::prop("formatFrequency", [] {
        const double hz = anySize(1e5, 3e9);
        const std::string text = formatFrequency(hz);
        RC_ASSERT(text.ends_with(" MHz"));
        RC_ASSERT(std::abs(evaluate(text, Kind::Frequency, {}) - hz) <= 501.0);
    });
    CHECK(formatFrequency(14.15e6) == "14.150 MHz");
    CHECK(formatFrequency(10.1234e6).starts_with("10.123"));
}

TEST_CASE("a cell of a table is the same number with a point or a comma in it") {
    rc::prop("cellNumber", [] {
        const double value = anySize(1e-3, 999.0, true);
        std::string text = fmt::format("{:.6f}", value);
        const auto point = io::cellNumber(text, false);
        RC_ASSERT(point.has_value());
        RC_ASSERT(std::abs(*point - value) <= 5.1e-7);
        std::replace(text.begin(), text.end(), '.', ',');
        RC_ASSERT(io::cellNumber(text, true) == point);
    });
    // A table that can be read one way is read that way by every style that fits, and by no other.
    int fitting = 0;
    for (const auto& style : io::tableStyles()) {
        const auto cells = io::cellsOf("7,05;50,5;-3,25", style.separator);
        bool numbers = cells.size() == 3;
        for (const auto& cell : cells) numbers = numbers && io::cellNumber(cell, style.decimalComma);
        if (!numbers) continue;
        ++fitting;
        CHECK(io::cellNumber(cells[0], style.decimalComma) == 7.05);
        CHECK(io::describeStyle(style).find("semicolon") != std::string::npos);
    }
    CHECK(fitting == 1);
    CHECK(io::linesOf("a\r\nb\nc\rd").size() == 4);
    CHECK(io::trimmedCell("  \"x y\" \r") == "x y");
}

TEST_CASE("a coil that is wound on any pipe has the inductance that was asked for") {
    rc::prop("windingOn", [] {
        const double former = *rc::gen::elementOf(build::formers());
        const double inductance = anySize(5e-7, 5e-5);
        const auto coil = build::windingOn(former, inductance, 7.1e6);
        RC_PRE(coil.turns >= 2.0);
        RC_ASSERT(coil.formerM == former);
        const double made = build::inductanceOf(former + coil.wireM, coil.turns, coil.lengthM);
        RC_ASSERT(std::abs(made / inductance - 1.0) < 0.02);
        // The wire goes round once a turn.
        RC_ASSERT(std::abs(coil.wireLengthM / (kPi * (former + coil.wireM) * coil.turns) - 1.0) < 0.05);
        RC_ASSERT(coil.q > 0.0);
        RC_ASSERT(coil.resonanceHz > 0.0);
    });
    // More of it needs more wire; the best pipe needs no more than any other that is as long as it is wide.
    double before = 0.0;
    for (const double inductance : {1e-6, 3e-6, 1e-5, 3e-5}) {
        const auto coil = build::windingFor(inductance, 7.1e6);
        CHECK(coil.wireLengthM > before);
        before = coil.wireLengthM;
        CHECK(coil.inductanceH == Approx(inductance));
    }
}

TEST_CASE("values that are sold are within half a step of their series") {
    rc::prop("E24", [] {
        const double value = anySize(1e-12, 1e6);
        const double sold = build::nearestE24(value);
        // The widest step is from 1.3 to 1.5; half way between them the lower one is as near.
        RC_ASSERT(std::abs(std::log(sold / value)) < std::log(1.4 / 1.3) + 1e-6);
        RC_ASSERT(std::abs(build::nearestE24(sold) / sold - 1.0) < 1e-9);
    });
    CHECK(build::nearestE24(47.0) == Approx(47.0));
    CHECK(build::nearestE24(98.0) == Approx(100.0));
}
