// The versions of a file before it was saved over, a few of them, with their time.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace rm::io {

/// So many are kept of every file.
inline constexpr std::size_t kVersionsKept = 5;

struct Version {
    std::filesystem::path file;
    std::string when;  ///< "2026-11-27 19.05.12"

    bool operator==(const Version&) const = default;
};

/// Copies what the file holds now into the folder of its versions below `folder`, and takes the oldest away.
/// Nothing where the file is not there, or is the same as the newest version. Throws rm::Error where it
/// cannot be kept.
void keepVersion(const std::filesystem::path& file, const std::filesystem::path& folder);

/// What is kept of this file, the newest first.
std::vector<Version> versionsOf(const std::filesystem::path& file, const std::filesystem::path& folder);

}  // namespace rm::io
