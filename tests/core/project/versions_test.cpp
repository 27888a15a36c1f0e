// What a file was before it was saved over.
#include <catch2/catch.hpp>
#include <fstream>

#include "core/common.h"
#include "core/project/text_file.h"
#include "core/project/versions.h"
#include "folder.h"

using namespace rm;
namespace fs = std::filesystem;

TEST_CASE("the last versions of a file are kept, apart from those of its namesakes") {
    const rm::test::Folder folder;
    const auto versions = folder / "versions";
    fs::create_directories(folder / "a");
    fs::create_directories(folder / "b");
    const auto one = folder.path / "a" / "yagi.json";
    const auto two = folder.path / "b" / "yagi.json";
    io::keepVersion(one, versions);
    CHECK(io::versionsOf(one, versions).empty());
    for (int i = 0; i < 9; ++i) {
        std::ofstream(one) << "a" << i;
        io::keepVersion(one, versions);
        // Saved again without a change: no second copy.
        io::keepVersion(one, versions);
    }
    std::ofstream(two) << "b";
    io::keepVersion(two, versions);
    const auto kept = io::versionsOf(one, versions);
    REQUIRE(kept.size() == io::kVersionsKept);
    for (std::size_t i = 0; i < kept.size(); ++i)
        CHECK(io::readTextFile(kept[i].file) == "a" + std::to_string(8 - static_cast<int>(i)));
    REQUIRE(io::versionsOf(two, versions).size() == 1);
    CHECK(io::readTextFile(io::versionsOf(two, versions)[0].file) == "b");
    // Where they cannot be kept it is said.
    std::ofstream(folder / "in the way") << "x";
    std::ofstream(one) << "other";
    CHECK_THROWS_WITH(io::keepVersion(one, folder / "in the way"), Catch::Contains("cannot be kept"));
}
