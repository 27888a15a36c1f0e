// The made-up analyser, and the lines that are spoken with one.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/build/simulated_analyser.h"
#include "core/circuit/chain.h"
#include "core/project/analyser_lines.h"
#include "core/study/figures.h"
#include "demo.h"

using namespace rm;

TEST_CASE(
    "without hidden causes and noise an analyser measures the model; each cause is seen for what it is") {
    const auto d = test::demoDesign("Inverted V, 60 m");
    const double hz = 5.36e6;
    const auto model = study::analyse(model::expand(d), hz).figures;
    build::HiddenTruth truth;
    truth.atRadio = false;
    CHECK(std::abs(build::SimulatedAnalyser(d, truth).measure(hz) - model.antennaOhm) < 1e-6);
    truth.causes[build::indexOf(build::Cause::Loss)] = 7.0;
    CHECK(std::abs(build::SimulatedAnalyser(d, truth).measure(hz) - model.antennaOhm - 7.0) < 1e-6);
    truth.causes = {};
    truth.causes[build::indexOf(build::Cause::Length)] = 0.02;
    // Longer is tuned lower: more reactance at the same place.
    CHECK(build::SimulatedAnalyser(d, truth).measure(hz).imag() > model.antennaOhm.imag() + 5.0);
    // Noise is that of the reflection coefficient, and the same for the same seed.
    truth.causes = {};
    truth.noise = 0.01;
    build::SimulatedAnalyser noisy(d, truth);
    build::SimulatedAnalyser again(d, truth);
    const auto reflected = [](Complex z) { return (z - 50.0) / (z + 50.0); };
    double square = 0.0;
    constexpr int kReadings = 200;
    for (int i = 0; i < kReadings; ++i) {
        const Complex read = noisy.measure(hz);
        CHECK(read == again.measure(hz));
        square += std::norm(reflected(read) - reflected(model.antennaOhm));
    }
    CHECK(std::sqrt(square / kReadings) == Approx(0.01).epsilon(0.2));
    // At the radio the feed path is in between.
    const auto fed = test::demoDesign("End-fed, sloper");
    const auto expansion = model::expand(fed);
    const Complex antenna = study::analyse(expansion, 14.1e6).figures.antennaOhm;
    const Complex radio = circuit::walkChain(expansion.feedPath, antenna, 14.1e6).back().impedanceOhm;
    const build::HiddenTruth plain;
    CHECK(std::abs(build::SimulatedAnalyser(fed, plain).measure(14.1e6) - radio) < 1e-6);
    CHECK(std::abs(radio - antenna) > 100.0);
    auto broken = d;
    broken.parts.front().conductor.diameter = "0 mm";
    CHECK_THROWS_AS(build::SimulatedAnalyser(broken, plain), Error);
}

TEST_CASE("a sweep is asked for in one line, and nonsense is answered with one sentence") {
    const io::AnalyserSweep sweep{7e6, 7.2e6, 5};
    CHECK(io::sweepLine(sweep) == "sweep 7000000 7200000 5\n");
    const auto read = io::readSweepLine("sweep 7000000 7200000 5");
    CHECK(read.lowHz == 7e6);
    CHECK(read.highHz == 7.2e6);
    CHECK(read.points == 5);
    CHECK(read.frequencyHz(4) == 7.2e6);
    for (const char* const bad :
         {"", "sweep", "hello", "sweep 1 2", "sweep 7e6 7e6 5", "sweep 8e6 7e6 5", "sweep 7e6 8e6 1",
          "sweep 7e6 8e6 2.5", "sweep 7e6 8e6 1e9", "sweep nan 8e6 5", "sweep 7e6 1e300 5",
          "sweep 7e6 8e6 5 6", "sweep -7e6 8e6 5", "sweep 0 8e6 5"}) {
        INFO(bad);
        CHECK_THROWS_AS(io::readSweepLine(bad), Error);
    }
}

TEST_CASE(
    "what an analyser sends is taken in pieces of any size, and refused where it is not what was asked") {
    const io::AnalyserSweep sweep{7e6, 7.1e6, 3};
    std::string sent;
    for (int i = 0; i < 3; ++i) sent += io::pointLine(sweep.frequencyHz(i), Complex(40.0 + i, -5.0 * i));
    sent += "done\n";
    for (std::size_t piece = 1; piece < sent.size(); piece += 3) {
        io::AnalyserReader reader(sweep);
        for (std::size_t at = 0; at < sent.size(); at += piece) reader.take(sent.substr(at, piece));
        REQUIRE(reader.done());
        REQUIRE(reader.data().points.size() == 3);
        CHECK(reader.data().referenceOhm == 50.0);
        CHECK(reader.data().points[2].frequencyHz == 7.1e6);
        CHECK(*reader.data().points[2].impedanceOhm == Complex(42.0, -10.0));
        CHECK(reader.data().points[0].swr == Approx(1.25));
    }
    const auto answer = [&](const std::string& text) {
        io::AnalyserReader reader(sweep);
        std::string said;
        try {
            reader.take(text);
        } catch (const Error& e) {
            said = e.what();
        }
        return said;
    };
    CHECK(answer("error There is no antenna.\n") == "The analyser says: There is no antenna.");
    CHECK(answer("done\n") == "The analyser sent 0 points of 3.");
    CHECK(answer("point 7000000 50 nan\n") ==
          "The analyser says \"point 7000000 50 nan\": one of these is no number.");
    CHECK(answer("point 7000000 50\n") ==
          "The analyser says \"point 7000000 50\", which is no point of a sweep.");
    CHECK(answer("point 7010000 50 0\n") == "The analyser measured at 7010000 Hz, which was not asked for.");
    CHECK(answer(sent.substr(0, sent.size() - 5) + "point 7100000 1 1\n") ==
          "The analyser measured at 7100000 Hz, which was not asked for.");
    CHECK(answer(std::string(5000, 'x')) ==
          "The analyser sends no lines: is something else at this address?");
    CHECK(answer("HTTP/1.1 400 Bad Request\r\n") ==
          "The analyser says \"HTTP/1.1 400 Bad Request \", which is no point of a sweep.");
    CHECK(answer("\n\npoint 7000000 -0.1 3\r\n").empty());
}
