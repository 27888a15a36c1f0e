// A fuzz target: takes any bytes, and ends the process where something is not as it must be.
//
// Each target is a file that defines LLVMFuzzerTestOneInput. With clang it is linked with the fuzzer; with
// any compiler it is linked with replay.cpp, which gives it the files of the corpus: that is a test.
#pragma once

#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <string>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace rm::fuzz {

inline std::string textOf(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

/// What must hold, in every build.
inline void require(bool holds, const char* what, const std::string& detail = {}) {
    if (holds) return;
    std::fprintf(stderr, "does not hold: %s\n%s\n", what, detail.c_str());
    std::abort();
}

}  // namespace rm::fuzz
