// The project file: nothing is lost on the way, and damage is told.
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/model/expand.h"
#include "core/project/project_file.h"
#include "folder.h"

using namespace rm;
using nlohmann::json;
using rm::test::Folder;

namespace {

const std::filesystem::path kDemo = RM_SOURCE_DIR "/demo/heron_point.json";

std::string slurp(const std::filesystem::path& file) {
    std::ifstream in(file);
    return {std::istreambuf_iterator<char>(in), {}};
}

}  // namespace

TEST_CASE("written and read again, a project is the same") {
    const Folder folder;
    const auto project = io::readProject(kDemo);
    io::writeProject(project, folder.path / "copy.json");
    CHECK(io::toJson(io::readProject(folder.path / "copy.json")) == io::toJson(project));
    CHECK(json::parse(slurp(folder.path / "copy.json")).at("version") == io::kProjectVersion);
    // No temporary file is left behind.
    CHECK(std::distance(std::filesystem::directory_iterator(folder.path), {}) == 1);
}

TEST_CASE("members that this version does not know are kept") {
    auto j = json::parse(slurp(kDemo));
    j["future"] = {1, 2, 3};
    j["designs"][0]["pins"] = "later";
    j["designs"][0]["site"]["trees"] = 4;
    j["designs"][0]["parts"][0]["colour"] = "red";
    j["designs"][0]["dimensions"][0]["step"] = "1 mm";
    j["designs"][0]["feeds"][0]["power"] = 100;
    const auto back = io::toJson(io::fromJson(j));
    CHECK(back["future"] == json({1, 2, 3}));
    CHECK(back["designs"][0]["pins"] == "later");
    CHECK(back["designs"][0]["site"]["trees"] == 4);
    CHECK(back["designs"][0]["parts"][0]["colour"] == "red");
    CHECK(back["designs"][0]["dimensions"][0]["step"] == "1 mm");
    CHECK(back["designs"][0]["feeds"][0]["power"] == 100);
}

TEST_CASE("damaged, foreign and newer files are refused in one sentence") {
    using Catch::Contains;
    const Folder folder;
    const auto refused = [&](const std::string& text) {
        try {
            io::readProject(folder.write("bad.json", text));
        } catch (const Error& e) {
            return std::string(e.what());
        }
        return std::string("accepted");
    };
    CHECK_THAT(refused("{\n\"format\": \"reed-mast project\",\n\"designs\": [\n"),
               Contains("bad.json is damaged") && Contains("line 4"));
    CHECK_THAT(refused("[]"), Contains("bad.json cannot be read"));
    CHECK_THAT(refused("{}"), Contains("not a Reed Mast project"));
    CHECK_THAT(refused("{\"format\": \"reed-mast project\", \"version\": 99}"),
               Contains("newer") && Contains("99"));
    CHECK_THAT(refused("{\"format\": \"reed-mast project\", \"version\": 1, \"designs\": []}"),
               Contains("no design"));
    auto j = json::parse(slurp(kDemo));
    j["designs"][0]["parts"][0]["shape"] = "spiral";
    CHECK_THAT(refused(j.dump()), Contains("Inverted V") && Contains("spiral"));
    j = json::parse(slurp(kDemo));
    j["designs"][0]["site"]["ground"] = "cheese";
    CHECK_THAT(refused(j.dump()), Contains("ground") && Contains("perfect"));
    j = json::parse(slurp(kDemo));
    j["bands"][0]["high MHz"] = 1;
    CHECK_THAT(refused(j.dump()), Contains("60 m"));
    j = json::parse(slurp(kDemo));
    j["designs"][0]["parts"][0]["foot"] = {1, 2};
    CHECK_THAT(refused(j.dump()), Contains("foot"));
}

TEST_CASE("every kind of damage to the demo is either harmless or told, never a crash") {
    const std::string text = slurp(kDemo);
    const Folder folder;
    for (std::size_t cut = 0; cut < text.size(); cut += 997) {
        try {
            (void)io::readProject(folder.write("cut.json", text.substr(0, cut)));
            FAIL("half a project was accepted");
        } catch (const Error& e) {
            CHECK(std::string(e.what()).find("cut.json") != std::string::npos);
        }
    }
    // A wrong type in any member of the first design.
    const auto root = json::parse(text);
    for (const auto& [name, value] : root["designs"][0].items()) {
        auto j = root;
        j["designs"][0][name] = value.is_array() ? json("text") : json::array({1});
        CHECK_THROWS_AS(io::fromJson(j), Error);
    }
}

TEST_CASE("a failed save leaves the old file alone") {
    const Folder folder;
    const auto file = folder.write("kept.json", "old");
    std::filesystem::create_directory(folder.path / "dir.json");
    CHECK_THROWS_AS(io::writeProject(io::readProject(kDemo), folder.path / "dir.json"), Error);
    CHECK_THROWS_AS(io::writeProject(io::readProject(kDemo), folder.path / "none" / "x.json"), Error);
    CHECK(slurp(file) == "old");
    // And no half-written part file stays beside it.
    for (const auto& entry : std::filesystem::directory_iterator(folder.path))
        CHECK(entry.path().extension() == ".json");
}

TEST_CASE("every design of the demo is worked out without an error") {
    for (const auto& design : io::readProject(kDemo).designs) {
        INFO(design.name);
        const auto e = model::expand(design);
        CHECK(e.findings.empty());
        CHECK(e.usable());
    }
}
