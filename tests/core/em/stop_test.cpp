// Long work ends soon after it is asked to, and memory is asked for before it is taken.
#include <catch2/catch.hpp>
#include <chrono>
#include <fstream>
#include <memory>
#include <mutex>
#include <thread>

#include "antennas.h"
#include "core/em/ground/ground_table.h"
#include "core/memory.h"
#include "core/stopped.h"
#include "core/study/sweep.h"

using namespace rm;
using namespace rm::test;

namespace {

using Clock = std::chrono::steady_clock;

double secondsSince(Clock::time_point begin) {
    return std::chrono::duration<double>(Clock::now() - begin).count();
}

/// Long enough for `unknowns` or so at 14 MHz, no two spans alike.
model::WireModel tangle(double lengthM) {
    model::WireModel m;
    Vec3 at(0.0, 0.0, 20.0);
    for (int i = 0; i < static_cast<int>(lengthM / 15.0); ++i) {
        const Vec3 next = at + Vec3(10.0 * std::cos(0.4 * i), 10.0 * std::sin(0.4 * i), 0.3 + 0.01 * (i % 7));
        m.wires.push_back(wire(at, next, 0.001));
        at = next;
    }
    addFeed(m, 0, 0.5);
    return m;
}

/// How long work goes on after it was asked to stop once `after` s have passed.
template <typename Work>
double lateness(double after, const Work& work) {
    std::stop_source stop;
    Clock::time_point asked;
    std::thread hand([&] {
        std::this_thread::sleep_for(std::chrono::duration<double>(after));
        asked = Clock::now();
        stop.request_stop();
    });
    const auto begin = Clock::now();
    CHECK_THROWS_AS(work(stop.get_token()), Stopped);
    const double ended = secondsSince(begin);
    hand.join();
    return ended - std::chrono::duration<double>(asked - begin).count();
}

}  // namespace

TEST_CASE("a field solution of thousands of unknowns stops where it is", "[clock]") {
    const auto m = tangle(9000.0);
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, 14.1e6));
    CHECK(mesh->functions.size() > 3000);
    const auto begin = Clock::now();
    const auto matrix = em::momentMatrix(*mesh, 14.1e6);
    const double filled = secondsSince(begin);
    // In the fill, and in the factorisation.
    for (const double after : {0.3 * filled, filled + 0.3}) {
        const double late =
            lateness(after, [&](std::stop_token stop) { em::solvePorts(mesh, 14.1e6, stop); });
        INFO("asked after " << after << " s of which " << filled << " fill");
        CHECK(late < 0.1);
    }
}

TEST_CASE("what was stopped leaves nothing behind: the next solution is the same", "[clock]") {
    const auto m = tangle(3000.0);
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, 14.1e6));
    const auto first = em::solvePorts(mesh, 14.1e6);
    lateness(0.02, [&](std::stop_token stop) {
        while (true) em::solvePorts(mesh, 14.1e6, stop);
    });
    const auto again = em::solvePorts(mesh, 14.1e6);
    CHECK((again.admittance - first.admittance).norm() < 1e-9 * first.admittance.norm());
}

TEST_CASE("a sweep that is stopped ends with what it has") {
    const auto e = wrapped(tangle(3000.0));
    std::stop_source stop;
    int told = 0;
    const auto swept = study::sweep(e, 14.0e6, 14.3e6, 9, stop.get_token(), [&](double) {
        if (++told == 2) stop.request_stop();
    });
    CHECK_FALSE(swept.complete);
    CHECK(swept.points.size() < 9);
}

TEST_CASE("what the machine cannot spare is refused before it is taken") {
    CHECK_NOTHROW(requireMemory(5000, 4e8, 1e9));
    CHECK_NOTHROW(requireMemory(5000, 4e8, std::nullopt));
    try {
        requireMemory(5000, 6e8, 1e9);
        FAIL("accepted");
    } catch (const Error& e) {
        CHECK_THAT(e.what(),
                   Catch::Contains("5000 unknowns take 0.6 GB") && Catch::Contains("1 GB to spare"));
    }
    // A small antenna does not ask.
    CHECK_NOTHROW(requireMemory(60, 1e5));
    CHECK_THROWS_AS(requireMemory(5000, 1e18), Error);
    REQUIRE(memoryToSpare());
    CHECK(*memoryToSpare() > 1e8);
}

TEST_CASE("what was stopped half way leaves nothing wrong behind", "[clock]") {
    // Tables and pairs are kept from one solution to the next: what a stop left of them must be as if there
    // had been none. A hair beside the frequency everything is worked out afresh.
    model::WireModel m;
    m.ground = averageGround();
    const Vec3 hub(0.0, 0.0, -0.05);
    m.wires.push_back(wire(Vec3::Zero(), {0.0, 0.0, 10.2}, 0.001));
    m.wires.push_back(wire(Vec3::Zero(), hub, 0.001));
    for (int i = 0; i < 24; ++i) {
        const double angle = 2.0 * kPi * i / 24.0;
        m.wires.push_back(wire(hub, hub + 10.0 * Vec3(std::cos(angle), std::sin(angle), 0.0), 0.001));
    }
    addFeed(m, 0, 0.0);
    int stopped = 0;
    for (int n = 0; n < 60; ++n) {
        const double hz = 7.0e6 + 1000.0 * n;
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, hz));
        std::stop_source stop;
        std::thread hand([&] {
            std::this_thread::sleep_for(std::chrono::microseconds(700 * n));
            stop.request_stop();
        });
        try {
            em::solvePorts(mesh, hz, stop.get_token());
        } catch (const Stopped&) {
            ++stopped;
        }
        hand.join();
        const Complex after = em::solvePorts(mesh, hz).admittance(0, 0);
        const Complex fresh = em::solvePorts(mesh, hz + 1e-3).admittance(0, 0);
        INFO("stopped after " << 0.7 * n << " ms: " << 1.0 / after << ", afresh " << 1.0 / fresh);
        CHECK(std::abs(after - fresh) < 1e-6 * std::abs(fresh));
    }
    CHECK(stopped > 5);
}

#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
TEST_CASE("what threads have freed goes back to the machine", "[clock]") {
    const auto residentBytes = [] {
        std::ifstream in("/proc/self/statm");
        double pages = 0.0;
        double resident = 0.0;
        in >> pages >> resident;
        return resident * 4096.0;
    };
    // Small pieces, of which one in a thousand stays: the heap of each thread cannot shrink.
    std::vector<std::unique_ptr<char[]>> kept;
    std::mutex mutex;
    std::vector<std::thread> threads;
    for (int t = 0; t < 4; ++t)
        threads.emplace_back([&] {
            std::vector<std::unique_ptr<char[]>> pieces;
            for (int i = 0; i < 50000; ++i) {
                pieces.push_back(std::make_unique<char[]>(1000));
                std::fill_n(pieces.back().get(), 1000, 'x');
            }
            const std::scoped_lock lock(mutex);
            for (std::size_t i = 999; i < pieces.size(); i += 1000) kept.push_back(std::move(pieces[i]));
        });
    for (auto& thread : threads) thread.join();
    const double before = residentBytes();
    giveBackFreeMemory();
    INFO(before / 1e6 << " MB before, " << residentBytes() / 1e6 << " after");
    CHECK(before - residentBytes() > 100e6);
    CHECK(kept.size() == 200);
}
#endif

TEST_CASE("tables of the ground that take seconds are let go, and are begun anew", "[clock]") {
    // So far apart for this frequency that the kernels turn hundreds of times.
    const em::GroundTable table(em::HalfSpace(averageGround(), 3e9));
    const auto everywhere = [&] {
        em::Lanes kernels;
        for (double zeta = 0.1; zeta < 300.0; zeta += 0.5)
            for (double rho = 100.0; rho < 300.0; rho += 0.5) table.at(rho, zeta, kernels);
    };
    CHECK(lateness(0.05, [&](const std::stop_token& stop) {
              const StopScope scope(stop);
              everywhere();
          }) < 0.1);
    // Nobody asks any more, and so it comes to its end, which is a refusal.
    CHECK_THROWS_AS(everywhere(), Error);
    // The same from the top: a solution that has just begun to build them.
    auto m = tangle(900.0);
    m.ground = averageGround();
    CHECK(lateness(0.05, [&](const std::stop_token& stop) {
              const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(m, 144e6));
              em::solvePorts(mesh, 144e6, stop);
          }) < 0.3);
}
