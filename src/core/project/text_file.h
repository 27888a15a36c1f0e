// Text files on disk: read within limits, written whole or not at all.
#pragma once

#include <cstddef>
#include <filesystem>
#include <string>

namespace rm::io {

/// The most bytes of a file that a person or an analyser writes: projects, measurements, goals.
inline constexpr std::size_t kMostFileBytes = 64U << 20U;

/// The bytes of a plain file. Throws rm::Error with one sentence that names it where it cannot be opened, is
/// no plain file (a pipe or a device would never end), or is larger than `mostBytes`.
std::string readTextFile(const std::filesystem::path& file, std::size_t mostBytes = kMostFileBytes);

/// Writes a text file atomically: a temporary file beside it, flushed, then renamed over it. A file that was
/// there keeps its permissions and, where the system allows it, its owner; a symbolic link stays one, and
/// what it points to is replaced. Throws rm::Error.
void writeTextAtomically(const std::filesystem::path& file, const std::string& text);

}  // namespace rm::io
