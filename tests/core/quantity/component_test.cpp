// Coils and capacitors in the unit in which they are sold.
#include "core/quantity/component.h"

#include <catch2/catch.hpp>

using rm::quantity::formatCapacitance;
using rm::quantity::formatInductance;

TEST_CASE("capacitors are written without powers of ten, in pF, nF or µF") {
    CHECK(formatCapacitance(197.37) == "197 pF");
    CHECK(formatCapacitance(1366.6) == "1.37 nF");
    CHECK(formatCapacitance(5380.0) == "5.38 nF");
    CHECK(formatCapacitance(2.0) == "2 pF");
    CHECK(formatCapacitance(0.52) == "0.52 pF");
    CHECK(formatCapacitance(999.7) == "1 nF");
    CHECK(formatCapacitance(12345.0) == "12.3 nF");
    CHECK(formatCapacitance(123456.0) == "123 nF");
    CHECK(formatCapacitance(2.2e6) == "2.2 µF");
    CHECK(formatCapacitance(62.377, 4) == "62.38 pF");
    CHECK(formatCapacitance(0.0) == "0 pF");
}

TEST_CASE("coils are written in nH, µH or mH") {
    CHECK(formatInductance(3.7229) == "3.72 µH");
    CHECK(formatInductance(0.6454) == "0.645 µH");
    CHECK(formatInductance(0.045) == "45 nH");
    CHECK(formatInductance(14.2) == "14.2 µH");
    CHECK(formatInductance(1200.0) == "1.2 mH");
    CHECK(formatInductance(250.0) == "250 µH");
}
