// One-port Touchstone files: every format, and every way to be wrong.
#include <catch2/catch.hpp>

#include "core/project/touchstone.h"

using namespace rm;

namespace {

Complex only(const std::string& text) {
    const auto points = io::parseTouchstone(text, "file.s1p");
    REQUIRE(points.size() == 1);
    CHECK(points[0].frequencyHz == Approx(7.1e6));
    return points[0].impedanceOhm;
}

void near(Complex a, Complex b) {
    CHECK(std::abs(a - b) < 1e-9 * std::abs(b));
}

std::string refusedTouchstone(const std::string& text) {
    try {
        io::parseTouchstone(text, "file.s1p");
    } catch (const Error& e) {
        return e.what();
    }
    return "accepted";
}

}  // namespace

TEST_CASE("what is written can be read, however near to nothing a part of it is") {
    const std::string text = io::touchstoneText({{1e6, {8.0, 1e-44}}, {2e6, {50.0, 1e-45}}}, 50.0, "tiny");
    const auto again = io::parseTouchstone(text, "file.s1p");
    REQUIRE(again.size() == 2);
    CHECK(again[0].impedanceOhm.real() == Approx(8.0));
    CHECK(again[1].impedanceOhm.imag() == Approx(0.0).margin(1e-9));
}

TEST_CASE("the same impedance in every form of the file") {
    // 100 ohm: reflection 1/3 at 50 ohm, 0 at 100 ohm.
    near(only("# MHz S RI R 50\n7.1 0.33333333333333333 0\n"), 100.0);
    near(only("# MHz S MA R 50\n7.1 0.33333333333333333 0\n"), 100.0);
    near(only("! made up\n# kHz S DB R 50 ! options\n\n7100 -9.5424250943932487 0\n"), 100.0);
    near(only("# Hz S RI R 100\n7100000 0 0\n"), 100.0);
    near(only("# MHZ Z RI R 50\n7.1 2 0\n"), 100.0);
    near(only("# mhz y ri r 50\n7.1 0.5 0\n"), 100.0);
    // What the option line leaves away: GHz, S, MA, 50 ohm.
    near(only("#\n0.0071 0.33333333333333333 180\n"), 25.0);
    near(only("0.0071 0.33333333333333333 180\n"), 25.0);
    // Line ends of another system.
    near(only("# MHz S RI R 50\r\n7.1 0.33333333333333333 0\r\n"), 100.0);
}

TEST_CASE("what is written is read again") {
    std::vector<io::ImpedancePoint> points;
    for (int i = 0; i < 50; ++i)
        points.push_back({3.5e6 + 1e4 * i, Complex(20.0 + 5.0 * i, -300.0 + 13.0 * i)});
    const auto back = io::parseTouchstone(io::touchstoneText(points, 50.0, "made up"), "file.s1p");
    REQUIRE(back.size() == points.size());
    for (std::size_t i = 0; i < back.size(); ++i) {
        CHECK(back[i].frequencyHz == Approx(points[i].frequencyHz));
        CHECK(std::abs(back[i].impedanceOhm - points[i].impedanceOhm) < 1e-4);
    }
}

TEST_CASE("a damaged file is refused with its line") {
    CHECK(refusedTouchstone("# MHz S RI R 50\n7.1 0.3 0\n7.2 soup 0\n") ==
          "file.s1p, line 3: \"soup\" is not a number.");
    CHECK(refusedTouchstone("# MHz S RI R 50\n7.1 0.3\n") ==
          "file.s1p, line 2: a one-port line has three numbers, this one 2.");
    CHECK(refusedTouchstone("# MHz S RI R 50\n7.1 0.3 0\n7.0 0.3 0\n") ==
          "file.s1p, line 3: the frequencies have to rise.");
    CHECK(refusedTouchstone("# MHz H RI R 50\n") ==
          "file.s1p, line 1: \"H\" is not an option of a one-port file.");
    CHECK(refusedTouchstone("# MHz S RI R\n") ==
          "file.s1p, line 1: the reference resistance after R is missing.");
    CHECK(refusedTouchstone("# MHz S RI R -5\n") ==
          "file.s1p, line 1: the reference resistance has to be above zero.");
    CHECK(refusedTouchstone("-1 0 0\n") == "file.s1p, line 1: the frequency has to be above zero.");
    CHECK(refusedTouchstone("! nothing\n") == "file.s1p holds no measured points.");
    CHECK_THROWS_AS(io::readTouchstone("/nonexistent.s1p"), Error);
}
