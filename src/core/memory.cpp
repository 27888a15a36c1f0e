#include "core/memory.h"

#include <fmt/format.h>
#include <malloc.h>

#include <fstream>
#include <string>

#include "core/common.h"
#include "core/words/words.h"

namespace rm {

namespace {

constexpr double kGigabyte = 1e9;

}  // namespace

std::optional<double> memoryToSpare() {
    std::ifstream in("/proc/meminfo");
    std::string name;
    double kibibytes = 0.0;
    for (std::string rest; in >> name >> kibibytes; std::getline(in, rest))
        if (name == "MemAvailable:") return 1024.0 * kibibytes;
    return {};
}

void requireMemory(std::size_t unknowns, double bytes, std::optional<double> toSpare) {
    if (!toSpare || bytes <= kMostOfMemory * *toSpare) return;
    throw Error(
        say("{} unknowns take {:.2g} GB, and this machine has {:.2g} GB to spare, of which half may "
            "be used: close "
            "other programs, make the antenna smaller or the frequency lower.",
            unknowns, bytes / kGigabyte, *toSpare / kGigabyte));
}

void requireMemory(std::size_t unknowns, double bytes) {
    if (bytes > kAlwaysThere) requireMemory(unknowns, bytes, memoryToSpare());
}

void keepMemoryTogether() {
    mallopt(M_ARENA_MAX, kMostHeaps);
    mallopt(M_MMAP_THRESHOLD, kLargePiece);
    // Of what is free at the end of a heap, so much stays.
    mallopt(M_TRIM_THRESHOLD, 4 * kLargePiece);
}

void giveBackFreeMemory() {
    malloc_trim(0);
}

}  // namespace rm
