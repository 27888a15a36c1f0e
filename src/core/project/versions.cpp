#include "core/project/versions.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <algorithm>
#include <chrono>

#include "core/common.h"
#include "core/project/text_file.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

namespace fs = std::filesystem;

/// One folder for every file, named after it and told from its namesakes by where they are (FNV-1a, 64 bits).
fs::path folderOf(const fs::path& file, const fs::path& folder) {
    std::uint64_t hash = 0xcbf29ce484222325ULL;
    for (const char c : fs::absolute(file).lexically_normal().string())
        hash = (hash ^ static_cast<unsigned char>(c)) * 0x100000001b3ULL;
    return folder / fmt::format("{} {:016x}", file.stem().string(), hash);
}

}  // namespace

std::vector<Version> versionsOf(const fs::path& file, const fs::path& folder) {
    std::vector<Version> versions;
    std::error_code none;
    for (const auto& item : fs::directory_iterator(folderOf(file, folder), none))
        versions.push_back({item.path(), item.path().stem().string()});
    // By when they were copied: within a second the names tell no order.
    std::sort(versions.begin(), versions.end(), [](const auto& a, const auto& b) {
        std::error_code gone;
        return fs::last_write_time(a.file, gone) > fs::last_write_time(b.file, gone);
    });
    return versions;
}

void keepVersion(const fs::path& file, const fs::path& folder) {
    std::error_code failed;
    if (!fs::is_regular_file(file, failed)) return;
    const auto before = versionsOf(file, folder);
    if (!before.empty() && readTextFile(before.front().file) == readTextFile(file)) return;
    const fs::path own = folderOf(file, folder);
    const auto now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    const std::string when = fmt::format("{:%Y-%m-%d %H.%M.%S}", fmt::localtime(now));
    fs::create_directories(own, failed);
    // Two in one second are told apart.
    fs::path place = own / (when + file.extension().string());
    for (int i = 2; fs::exists(place); ++i)
        place = own / fmt::format("{} {}{}", when, i, file.extension().string());
    fs::copy_file(file, place, failed);
    if (failed) {
        std::error_code none;
        fs::remove(place, none);
        throw Error(
            say("The version of {} before cannot be kept: {}.", file.filename().string(), failed.message()));
    }
    for (std::size_t i = kVersionsKept - 1; i < before.size(); ++i) fs::remove(before[i].file, failed);
}

}  // namespace rm::io
