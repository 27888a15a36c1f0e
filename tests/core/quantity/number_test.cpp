// The one reader of plain numbers and of texts from outside.
#include <catch2/catch.hpp>
#include <clocale>

#include "core/common.h"
#include "core/quantity/formula.h"
#include "core/quantity/number.h"

using namespace rm;
using quantity::plainText;
using quantity::readNumber;

TEST_CASE("a number is all of the text, with a point, a sign and a power of ten") {
    CHECK(readNumber("7.05") == 7.05);
    CHECK(readNumber("-0.5e-3") == -0.5e-3);
    CHECK(readNumber("+12") == 12.0);
    CHECK(readNumber(".5") == 0.5);
    CHECK(readNumber("0") == 0.0);
    CHECK(readNumber("1e40") == 1e40);
    for (const char* text :
         {"",    "+",    "-",   "+-1", "7,05",     "7.05 ", " 7.05", "7.0.5",  "0x10",  "1e", "seven",
          "inf", "-inf", "nan", "NAN", "infinity", "1e999", "1e41",  "1e-306", "1e-41", "--1"})
        CHECK_FALSE(readNumber(text));
}

TEST_CASE("the locale of the machine changes no number") {
    const std::string before = std::setlocale(LC_NUMERIC, nullptr);
    for (const char* name : {"de_DE.UTF-8", "C.UTF-8", "C"}) {
        std::setlocale(LC_NUMERIC, name);
        CHECK(readNumber("7.05") == 7.05);
        CHECK(quantity::evaluate("7.05 m", quantity::Kind::Length, {}) == 7.05);
    }
    std::setlocale(LC_NUMERIC, before.c_str());
}

TEST_CASE(
    "numbers too large or too small for any antenna are refused in a sentence, wherever they are written") {
    for (const char* text : {"1e-306 mm", " 1e-306 mm", "1e999 m", "1e-306", "10 m * 1e999"}) {
        INFO(text);
        CHECK_THROWS_AS(quantity::evaluate(text, quantity::Kind::Length, {}), Error);
    }
    // Every number is within bounds, what they come to is not.
    CHECK_THROWS_WITH(quantity::evaluate("1e30 * 1e30", quantity::Kind::Length, {}),
                      Catch::Contains("comes to"));
    CHECK(quantity::evaluate("1e30 / 1e30", quantity::Kind::Length, {}) == 1.0);
    CHECK(quantity::evaluate("cos(90)^4", quantity::Kind::Length, {}) == 0.0);
}

TEST_CASE("texts from outside lose what is no letter") {
    CHECK(plainText("Heron Point") == "Heron Point");
    CHECK(plainText("gemessen f\xfcr") == "gemessen f\xc3\xbcr");
    CHECK(plainText("a\xc3\xa4 \xe2\x82\xac \xf0\x9f\x93\xa1") == "a\xc3\xa4 \xe2\x82\xac \xf0\x9f\x93\xa1");
    CHECK(plainText("red \x1b[31mwire\x1b[0m") == "red  [31mwire [0m");
    CHECK(plainText("name\n# MHz Z RI R 1") == "name # MHz Z RI R 1");
    CHECK(plainText("a\xc2\x9b"
                    "31m") == "a 31m");
    CHECK(plainText("a\xe2\x80\xae"
                    "b\xe2\x80\xa8"
                    "c") == "a b c");
    CHECK(plainText("\x7f") == " ");
    // Cut off in the middle of a letter, or longer than it need be: no UTF-8.
    CHECK(plainText("a\xc3") == "a\xc3\x83");
    CHECK(plainText("\xc0\xaf").size() == 4);
    CHECK(plainText("\xed\xa0\x80").find('\xed') == std::string::npos);
}
