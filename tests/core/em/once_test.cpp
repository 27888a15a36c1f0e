// Done once whatever comes at the same time, and done after all where the first attempt was broken off.
#include "core/em/ground/once.h"

#include <atomic>
#include <catch2/catch.hpp>
#include <chrono>
#include <stdexcept>
#include <thread>
#include <vector>

using rm::em::Once;

TEST_CASE("once: many threads ask, one does it, all find it done") {
    Once once;
    int done = 0;
    std::atomic<int> found{0};
    {
        std::vector<std::jthread> threads;
        for (int i = 0; i < 8; ++i)
            threads.emplace_back([&] {
                once.run([&] {
                    std::this_thread::sleep_for(std::chrono::milliseconds(5));
                    ++done;
                });
                if (done == 1) ++found;
            });
    }
    CHECK(done == 1);
    CHECK(found == 8);
}

TEST_CASE("once: what was broken off is done by the next, and who waits is not left waiting") {
    Once once;
    std::atomic<int> attempts{0};
    std::atomic<int> broken{0};
    int done = 0;
    {
        std::vector<std::jthread> threads;
        for (int i = 0; i < 6; ++i)
            threads.emplace_back([&] {
                try {
                    once.run([&] {
                        std::this_thread::sleep_for(std::chrono::milliseconds(2));
                        if (++attempts < 3) throw std::runtime_error("stopped");
                        ++done;
                    });
                } catch (const std::runtime_error&) {
                    ++broken;
                }
            });
    }
    CHECK(broken == 2);
    CHECK(attempts == 3);
    CHECK(done == 1);
}
