// A folder for files of a test, gone with it.
#pragma once

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <string>

namespace rm::test {

struct Folder {
    std::filesystem::path path;

    Folder() {
        std::string name = (std::filesystem::temp_directory_path() / "reedmast-XXXXXX").string();
        path = ::mkdtemp(name.data());
    }
    Folder(const Folder&) = delete;
    Folder& operator=(const Folder&) = delete;
    ~Folder() { std::filesystem::remove_all(path); }
    std::filesystem::path operator/(const char* name) const { return path / name; }
    std::filesystem::path write(const char* name, const std::string& text) const {
        std::ofstream(path / name) << text;
        return path / name;
    }
    /// How many things are in it.
    std::size_t files() const {
        return static_cast<std::size_t>(
            std::distance(std::filesystem::directory_iterator(path), std::filesystem::directory_iterator()));
    }
};

}  // namespace rm::test
