// Sweeps as tables for other programs.
#include <catch2/catch.hpp>

#include "core/export/sweep_text.h"

using namespace rm;

TEST_CASE("a table for other programs has numbers in it or nothing") {
    study::Sweep sweep;
    sweep.points.resize(2);
    sweep.points[0].frequencyHz = 14.0e6;
    sweep.points[0].antennaOhm = sweep.points[0].radioOhm = {50.0, 0.0};
    sweep.points[1].frequencyHz = 14.1e6;
    // Total reflection: an SWR without end.
    sweep.points[1].antennaOhm = sweep.points[1].radioOhm = {0.0, 100.0};
    const std::string csv = io::sweepCsv(model::Expansion(), sweep, study::Plane::Radio);
    CHECK(csv.find("14.000000,50.0000,0.0000,1.0000,") != std::string::npos);
    CHECK(csv.find("14.100000,0.0000,100.0000,,") != std::string::npos);
    for (const char* word : {"inf", "nan"}) CHECK(csv.substr(csv.find('\n')).find(word) == std::string::npos);
}
