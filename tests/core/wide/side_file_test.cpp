// What stands beside a result while it is worked on, and what its first line says.
#include <algorithm>
#include <catch2/catch.hpp>
#include <fstream>
#include <iterator>

#include "core/stopped.h"
#include "core/wide/run.h"
#include "core/wide/side_file.h"
#include "core/wide/table.h"
#include "folder.h"
#include "wide_plans.h"

using namespace rm;
using Catch::Contains;

namespace {

std::string wholeOf(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

/// A whole result whose figures are made up: as many rows as the study has.
void writeMadeUp(const wide::Cases& cases, const std::filesystem::path& file,
                 const std::string& program = wide::thisProgram()) {
    const auto format = wide::formatOf(file);
    std::ofstream out(file, std::ios::binary);
    out << wide::headOf(cases, format, {0, cases.count()}, program);
    for (std::size_t i = 0; i < cases.count(); ++i)
        out << wide::lineOf(cases, {i, std::vector<double>(cases.titles().size(), 1.5), ""}, format) << "\n";
}

}  // namespace

TEST_CASE("wide: cases pass between processes as lines, and what is cut short or mixed up is dropped") {
    const wide::Cases cases(test::smallStudy());
    for (const auto format : {wide::Format::Csv, wide::Format::JsonLines}) {
        std::vector<wide::NumberedLine> lines;
        for (const std::size_t n : {3U, 0U, 7U})
            lines.push_back({n, wide::lineOf(cases, {n, {1.0, 2.0, 3.0, 4.0}, ""}, format)});
        const std::string text = wide::textOf(lines);
        const auto back = wide::linesOf(text, format);
        REQUIRE(back.size() == 3);
        for (std::size_t i = 0; i < 3; ++i) {
            CHECK(back[i].number == lines[i].number);
            CHECK(back[i].line == lines[i].line);
        }
        for (std::size_t length = 0; length < text.size(); length += 7) {
            const auto some = wide::linesOf(text.substr(0, length), format);
            CHECK(some.size() == static_cast<std::size_t>(std::count(
                                     text.begin(), text.begin() + static_cast<long>(length), '\n')));
        }
        // A line after another number is none.
        CHECK(wide::linesOf("4\t" + lines[0].line + "\n", format).empty());
        CHECK(wide::linesOf("\n\n3\tx\nnonsense\n", format).empty());
    }
}

TEST_CASE("wide: a side file goes on behind a line that was cut, and belongs to one study") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    const auto line = [&](std::size_t n) {
        return wide::NumberedLine{n, wide::lineOf(cases, {n, {1.0, 2.0, 3.0, 4.0}, ""}, wide::Format::Csv)};
    };
    const auto out = folder / "a.csv";
    const auto file = wide::sideFile(out, 12);
    CHECK(file.filename() == "a.csv.rank12");
    const auto head = wide::sideHead("this study");
    CHECK(head != wide::sideHead("that study"));
    CHECK(head.back() == '\n');
    wide::SideFile(file, head).add(line(2));
    std::ofstream(file, std::ios::app | std::ios::binary) << "5\t6,1";
    wide::SideFile(file, head).add(line(4));
    const auto kept = wide::linesOf(wholeOf(file), wide::Format::Csv);
    // What was cut is gone: its last number may have been cut, too.
    REQUIRE(kept.size() == 2);
    CHECK(kept[0].number == 2);
    CHECK(kept[1].number == 4);
    CHECK(wholeOf(file).find("6,1") == std::string::npos);
    // Another study begins anew.
    wide::SideFile(file, wide::sideHead("that study")).add(line(1));
    CHECK(wide::linesOf(wholeOf(file), wide::Format::Csv).size() == 1);
    // Of all that is there only these.
    for (const char* name : {"a.csv", "a.csv.rank", "a.csv.rank3x", "b.csv.rank1", "a.csv.rank0"})
        folder.write(name, "");
    auto found = wide::sideFiles(out);
    std::sort(found.begin(), found.end());
    REQUIRE(found.size() == 2);
    CHECK(found[0].filename() == "a.csv.rank0");
    CHECK(found[1].filename() == "a.csv.rank12");
    CHECK(wide::sideFiles(folder / "none" / "a.csv").empty());
}

TEST_CASE("wide: a lock of a result is one process's until it ends") {
    const test::Folder folder;
    {
        const wide::ResultLock mine(folder / "a.csv");
        CHECK_THROWS_WITH(wide::ResultLock(folder / "a.csv"), Contains("another run"));
        const wide::ResultLock other(folder / "b.csv");
    }
    const wide::ResultLock again(folder / "a.csv");
    CHECK_THROWS_WITH(wide::ResultLock(folder / "none" / "a.csv"), Contains("cannot be written"));
}

TEST_CASE("wide: the first line names the program, and another version does not go on with it") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    for (const char* name : {"a.csv", "a.jsonl"}) {
        const auto file = folder / name;
        const auto format = wide::formatOf(file);
        const wide::Range all{0, cases.count()};
        writeMadeUp(cases, file);
        CHECK(wide::readResult(file).program == wide::thisProgram());
        CHECK(wide::readBegun(file, wide::headOf(cases, format, all), format, all).rows == cases.count());
        writeMadeUp(cases, file, "reed-mast 0.0.1");
        CHECK(wide::readResult(file).program == "reed-mast 0.0.1");
        CHECK_THROWS_WITH(wide::readBegun(file, wide::headOf(cases, format, all), format, all),
                          Contains("another version") && Contains(wide::thisProgram()));
        wide::RunOptions options;
        options.out = file;
        const auto before = wholeOf(file);
        CHECK_THROWS_WITH(wide::runStudy(cases, options), Contains("another version"));
        CHECK(wholeOf(file) == before);
        // Results without a name are read as well, and are put together with their like.
        writeMadeUp(cases, file, "");
        CHECK(wide::readResult(file).program.empty());
        auto other = test::smallStudy();
        other.plan.seed += 1;
        CHECK_THROWS_WITH(wide::readBegun(file, wide::headOf(wide::Cases(other), format, all), format, all),
                          Contains("another study"));
    }
    CHECK_THROWS_WITH(wide::formatOf("a.txt"), Contains(".csv or .jsonl"));
}

TEST_CASE("wide: parts of two versions are not put together") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    const auto half = [&](const char* name, wide::Range range, const std::string& program) {
        std::ofstream out(folder / name, std::ios::binary);
        out << wide::headOf(cases, wide::Format::Csv, range, program);
        for (std::size_t n = range.first; n < range.end; ++n)
            out << wide::lineOf(cases, {n, {1.0, 2.0, 3.0, 4.0}, ""}, wide::Format::Csv) << "\n";
    };
    half("1.csv", {0, 4}, "reed-mast 0.0.1");
    half("2.csv", {4, 8}, wide::thisProgram());
    CHECK_THROWS_WITH(wide::mergeResults({folder / "1.csv", folder / "2.csv"}, folder / "all.csv"),
                      Contains("another study"));
    half("2.csv", {4, 8}, "reed-mast 0.0.1");
    wide::mergeResults({folder / "1.csv", folder / "2.csv"}, folder / "all.csv");
    CHECK(wide::readResult(folder / "all.csv").program == "reed-mast 0.0.1");
    CHECK(wide::readResult(folder / "all.csv").rows.size() == 8);
}

TEST_CASE("wide: a reading says how far it is, and ends where it is asked to") {
    const test::Folder folder;
    auto given = test::smallStudy();
    given.plan.over[0].points = 3000;
    const wide::Cases cases(given);
    writeMadeUp(cases, folder / "many.csv");
    std::vector<double> heard;
    CHECK(wide::readResult(folder / "many.csv", {}, [&](double share) {
              heard.push_back(share);
          }).rows.size() == 6000);
    REQUIRE(heard.size() >= 5);
    CHECK(std::is_sorted(heard.begin(), heard.end()));
    CHECK(heard.back() <= 1.0);
    std::stop_source stop;
    std::size_t told = 0;
    CHECK_THROWS_AS(wide::readResult(folder / "many.csv", stop.get_token(),
                                     [&](double) {
                                         if (++told == 2) stop.request_stop();
                                     }),
                    Stopped);
    CHECK(told == 2);
    CHECK_THROWS_AS(wide::Table(wide::readResult(folder / "many.csv"), stop.get_token()), Stopped);
}
