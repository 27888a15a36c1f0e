// Tables that people and analysers write: the whole file decides how it is read, and no number is taken for
// another.
#include <catch2/catch.hpp>

#include "core/project/measured_file.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"

using namespace rm;

namespace {

/// Frequency in MHz and R, X or SWR of every point.
std::vector<std::vector<double>> rows(const std::string& text) {
    INFO(text);
    std::vector<std::vector<double>> out;
    for (const auto& p : io::parseMeasuredCsv(text, "t.csv").points) {
        if (p.impedanceOhm)
            out.push_back({p.frequencyHz / 1e6, p.impedanceOhm->real(), p.impedanceOhm->imag()});
        else
            out.push_back({p.frequencyHz / 1e6, p.swr});
    }
    return out;
}

using Rows = std::vector<std::vector<double>>;

void near(const Rows& read, const Rows& meant) {
    REQUIRE(read.size() == meant.size());
    for (std::size_t i = 0; i < read.size(); ++i) {
        REQUIRE(read[i].size() == meant[i].size());
        for (std::size_t c = 0; c < read[i].size(); ++c) CHECK(read[i][c] == Approx(meant[i][c]));
    }
}

}  // namespace

TEST_CASE("a comma that a blank follows is no decimal comma") {
    near(rows("7.0, 50, 1\n7.1, 51.5, 2\n"), {{7.0, 50.0, 1.0}, {7.1, 51.5, 2.0}});
    near(rows("14.00, 1.53\n14.10, 1.22\n"), {{14.0, 1.53}, {14.1, 1.22}});
    near(rows("MHz, R, X\n7.0, 50, 1\n"), {{7.0, 50.0, 1.0}});
    near(rows("7.0,\t50,\t1\n"), {{7.0, 50.0, 1.0}});
}

TEST_CASE("decimal commas between semicolons, tabs, blanks, and commas with blanks") {
    const Rows meant = {{7.05, 51.5, -2.25}, {7.1, 50.0, 1.0}};
    near(rows("7,05;51,5;-2,25\n7,1;50;1\n"), meant);
    near(rows("7,05\t51,5\t-2,25\n7,1\t50\t1\n"), meant);
    near(rows("7,05 51,5 -2,25\n7,1 50 1\n"), meant);
    near(rows("7,05, 51,5, -2,25\n7,1, 50,0, 1,0\n"), meant);
    near(rows("MHz; R; X\r\n7,05; 51,5; -2,25\r\n7,1; 50; 1\r\n"), meant);
}

TEST_CASE("marks that group thousands are only taken where nothing else can be meant") {
    near(rows("Hz;R;X\n7.050.000;50;1\n"), {{7.05, 50.0, 1.0}});
    near(rows("Hz;R;X\n7,050,000.5;50;1\n"), {{7.0500005, 50.0, 1.0}});
    near(rows("kHz;R;X\n7.050,5;1.250,0;1\n"), {{7.0505, 1250.0, 1.0}});
    // 7,050 might be seven, or seven thousand: a decimal mark is what a single one is.
    near(rows("MHz;R;X\n7,050;50,5;1\n"), {{7.05, 50.5, 1.0}});
}

TEST_CASE("what can be read in two ways is asked, never guessed") {
    const std::string text = "7, 1,5\n8, 1,25\n";
    const auto readings = io::measuredReadings(text, "two.csv");
    REQUIRE(readings.size() == 2);
    CHECK(readings[0].data.points[0].impedanceOhm == Complex(1.0, 5.0));
    CHECK(readings[1].data.points[0].swr == 1.5);
    CHECK(readings[0].understood == "commas between the columns, points in the numbers: frequency, R, X");
    CHECK(readings[1].understood ==
          "commas with blanks between the columns, commas in the numbers: frequency, SWR");
    CHECK_THROWS_WITH(io::parseMeasuredCsv(text, "two.csv"),
                      Catch::StartsWith("two.csv can be read in 2 ways"));
    // Titles decide.
    near(rows("MHz, SWR\n7, 1,5\n"), {{7.0, 1.5}});
    near(rows("MHz, R, X\n7, 1,5\n"), {{7.0, 1.0, 5.0}});
    // Whole numbers are the same either way.
    near(rows("7, 50, 1\n"), {{7.0, 50.0, 1.0}});
    near(rows("7 50 1\n"), {{7.0, 50.0, 1.0}});
}

TEST_CASE("a table of marks, of nothing, and of other letters") {
    CHECK_THROWS_WITH(io::readMeasured(RM_SOURCE_DIR "/tests/found/marks_only.csv"),
                      Catch::Contains("no line of numbers"));
    CHECK(io::readMeasured(RM_SOURCE_DIR "/tests/found/banner.csv").at(0).data.points.size() == 1);
    CHECK(io::readMeasured(RM_SOURCE_DIR "/tests/found/m1.csv").at(0).data.points[1].frequencyHz ==
          Approx(7.1e6));
    CHECK(io::readMeasured(RM_SOURCE_DIR "/tests/found/m4.csv").at(0).data.points[0].swr == Approx(1.53));
    for (const char* text : {"##\n#\n", "\n\n", "!", "//", "\"\"", ",,,\n", ";\n", "7.0\n", "MHz\n7\n"})
        CHECK_THROWS_AS(io::parseMeasuredCsv(text, "t"), Error);
}

TEST_CASE("a frequency that no antenna has is a unit that was mistaken") {
    CHECK_THROWS_WITH(io::parseMeasuredCsv("MHz,SWR\n7050000,1.5\n", "t.csv"),
                      Catch::Contains("check the unit"));
    CHECK_THROWS_WITH(io::parseMeasuredCsv("Hz,SWR\n7.05,1.5\n", "t.csv"), Catch::Contains("check the unit"));
    CHECK_THROWS_AS(io::parseMeasuredCsv("MHz,R,X\n7,1e999,0\n", "t.csv"), Error);
    CHECK_THROWS_AS(io::parseMeasuredCsv("MHz,R,X\n7,nan,0\n", "t.csv"), Error);
}

TEST_CASE("an open end is measured, saved and opened again") {
    const auto read = io::readMeasured(RM_SOURCE_DIR "/tests/found/open.s1p");
    REQUIRE(read.size() == 1);
    const auto& data = read[0].data;
    REQUIRE(data.points.size() == 2);
    CHECK(std::isfinite(data.points[0].impedanceOhm->real()));
    CHECK(data.points[0].impedanceOhm->real() > 1e8);
    CHECK(data.points[0].swr == 1e6);
    CHECK(data.note == "open");
    model::Project project;
    project.designs.emplace_back();
    project.designs[0].measured.emplace_back().data = data;
    const std::string text = io::textOf(project);
    CHECK(text.find("null") == std::string::npos);
    CHECK(io::fromJson(nlohmann::json::parse(text)).designs[0].measured[0].data.points == data.points);
    // A reflection of more than one is no passive antenna, and still no number without end.
    const auto more = io::parseMeasuredCsv("MHz,S11 real,S11 imag\n7,1,0\n7.1,1.2,0\n", "t");
    for (const auto& p : more.points) CHECK(p.swr <= 1e6);
}

TEST_CASE("a comment in another alphabet becomes one that can be saved") {
    const auto data = io::readMeasured(RM_SOURCE_DIR "/tests/found/latin1.s1p").at(0).data;
    CHECK(data.note == "gemessen f\xc3\xbcr");
    model::Project project;
    project.designs.emplace_back();
    project.designs[0].measured.emplace_back().data = data;
    CHECK_NOTHROW(io::textOf(project));
}
