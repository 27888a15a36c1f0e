// Files on disk: read within limits, replaced whole, with what they had before.
#include <sys/stat.h>
#include <unistd.h>
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>

#include "core/common.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "folder.h"

using namespace rm;
namespace fs = std::filesystem;
using rm::test::Folder;

namespace {

mode_t modeOf(const fs::path& file) {
    struct stat is {};
    REQUIRE(::lstat(file.c_str(), &is) == 0);
    return is.st_mode & 07777;
}

}  // namespace

TEST_CASE("a file that is replaced keeps its permissions") {
    const Folder folder;
    const auto file = folder / "private.json";
    io::writeTextAtomically(file, "one");
    for (const mode_t mode : {0600U, 0640U, 0664U}) {
        REQUIRE(::chmod(file.c_str(), mode) == 0);
        io::writeTextAtomically(file, "two");
        CHECK(modeOf(file) == mode);
        CHECK(io::readTextFile(file) == "two");
    }
    CHECK(folder.files() == 1);
}

TEST_CASE("a symbolic link stays one, and what it points to is replaced") {
    const Folder folder;
    fs::create_directory(folder / "elsewhere");
    const auto target = folder.path / "elsewhere" / "real.json";
    const auto link = folder / "link.json";
    const auto chain = folder / "chain.json";
    io::writeTextAtomically(target, "one");
    fs::create_symlink("elsewhere/real.json", link);
    fs::create_symlink(link, chain);
    io::writeTextAtomically(chain, "two");
    CHECK(fs::is_symlink(link));
    CHECK(fs::is_symlink(chain));
    CHECK(io::readTextFile(target) == "two");
    CHECK(io::readTextFile(chain) == "two");
    // One that leads nowhere yet.
    fs::create_symlink("new.json", folder / "early.json");
    io::writeTextAtomically(folder / "early.json", "three");
    CHECK(fs::is_symlink(folder / "early.json"));
    CHECK(io::readTextFile(folder / "new.json") == "three");
    // One that leads to itself is an error and no hang.
    fs::create_symlink("round.json", folder / "round.json");
    CHECK_THROWS_WITH(io::writeTextAtomically(folder / "round.json", "x"), Catch::Contains("lead nowhere"));
    CHECK_THROWS_AS(io::readTextFile(folder / "round.json"), Error);
}

TEST_CASE("what cannot be written leaves what was there, and nothing beside it") {
    const Folder folder;
    const auto file = folder / "kept.json";
    io::writeTextAtomically(file, "one");
    CHECK_THROWS_WITH(io::writeTextAtomically(folder.path / "none" / "x.json", "two"),
                      Catch::Contains("cannot be written"));
    if (::geteuid() != 0) {
        ::chmod(file.c_str(), 0400);
        CHECK_THROWS_AS(io::writeTextAtomically(file, "two"), Error);
        ::chmod(folder.path.c_str(), 0500);
        CHECK_THROWS_AS(io::writeTextAtomically(folder / "other.json", "two"), Error);
        ::chmod(folder.path.c_str(), 0700);
    }
    CHECK_THROWS_AS(io::writeTextAtomically("/dev/full", "two"), Error);
    CHECK_THROWS_AS(io::writeTextAtomically(folder.path, "two"), Error);
    CHECK(io::readTextFile(file) == "one");
    CHECK(folder.files() == 1);
}

TEST_CASE("pipes, devices and folders are no files, and what is too large is not read") {
    const Folder folder;
    const auto pipe = folder / "pipe.json";
    REQUIRE(::mkfifo(pipe.c_str(), 0600) == 0);
    for (const fs::path& file : {pipe, fs::path("/dev/zero"), fs::path("/dev/stdin"), folder.path}) {
        INFO(file.string());
        CHECK_THROWS_AS(io::readTextFile(file), Error);
        CHECK_THROWS_AS(io::readProject(file), Error);
    }
    const auto large = folder / "large.json";
    std::ofstream(large) << "[";
    fs::resize_file(large, 100U << 20U);
    CHECK_THROWS_WITH(io::readProject(large), Catch::Contains("larger than 64 MB"));
    CHECK(io::readTextFile(large, 200U << 20U).size() == 100U << 20U);
}
