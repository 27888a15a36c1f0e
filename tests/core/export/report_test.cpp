// The report: every sheet inside of its frame, with what a reader asks for, and stopped at once.
#include <catch2/catch.hpp>
#include <fstream>
#include <set>

#include "core/export/report.h"
#include "core/project/project_file.h"
#include "core/stopped.h"
#include "folder.h"
#include "sheet_checks.h"

using namespace rm;

namespace {

const model::Project& station() {
    static const model::Project project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    return project;
}

bool printed(const std::vector<io::Sheet>& sheets, const std::string& words) {
    for (const auto& sheet : sheets)
        for (const auto& text : sheet.texts)
            if (text.words.find(words) != std::string::npos) return true;
    return false;
}

}  // namespace

TEST_CASE("the report of every demo design stays inside of its frames and says what it holds for") {
    for (const auto& design : station().designs) {
        io::ReportOptions options;
        options.builds = 0;
        options.date = "2026-11-28";
        const auto sheets = io::report(station(), design, options);
        INFO(design.name);
        CHECK(sheets.size() >= 4);
        test::checkSheets(sheets, design.name);
        for (const char* words :
             {"It holds for", "On its bands", "SWR at the radio over MHz", "elevation at bearing",
              "What to cut", "To order", "from above", "2026-11-28"}) {
            INFO(words);
            CHECK(printed(sheets, words));
        }
        for (const auto& band : design.bands) CHECK(printed(sheets, band + ": "));
    }
}

TEST_CASE("a report tells its tolerance, its ropes and its feed path, and is a PDF of as many pages") {
    io::ReportOptions options;
    options.builds = 4;
    const auto named = [](const char* name) {
        for (const auto& d : station().designs)
            if (d.name == name) return d;
        throw Error("no such design");
    };
    double last = 0.0;
    bool rises = true;
    const auto sheets =
        io::report(station(), named("Dipole to the hedge, 30 m"), options, {}, [&](double share) {
            rises = rises && share >= last;
            last = share;
        });
    CHECK(rises);
    CHECK(last == 1.0);
    CHECK(printed(sheets, "How well it must be built"));
    CHECK(printed(sheets, "What hangs"));
    CHECK(printed(sheets, "Hawthorn"));
    CHECK(printed(io::report(station(), named("End-fed, sloper"), options), "From the antenna to the radio"));
    const test::Folder folder;
    const auto file = folder.path / "report.pdf";
    io::writePdf(sheets, file.string());
    std::ifstream in(file, std::ios::binary);
    const std::string pdf((std::istreambuf_iterator<char>(in)), {});
    CHECK(pdf.rfind("%PDF-", 0) == 0);
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(io::report(station(), station().designs[0], options, stop.get_token()), Stopped);
    CHECK_THROWS_AS(io::report(station(), model::Design{}, options), Error);
}
