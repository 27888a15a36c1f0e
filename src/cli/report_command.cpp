// report: one PDF to hand on.
#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "core/export/report.h"

namespace rm::cli {

namespace {

struct ReportCommand {
    Options project;
    std::string out;
    std::string paper = "A4";
    bool feet = false;
    int builds = io::ReportOptions{}.builds;
};

int run(const ReportCommand& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    const std::string& out = options.out;
    if (out.size() < 5 || out.compare(out.size() - 4, 4, ".pdf") != 0)
        throw Error(fmt::format("{}: a report is a .pdf.", out));
    io::ReportOptions report;
    report.paper = io::paperNamed(options.paper);
    report.feetAndInches = options.feet || loaded.project.feetAndInches;
    report.date = today();
    report.builds = options.builds;
    const auto sheets = io::report(loaded.project, loaded.design, report);
    io::writePdf(sheets, out);
    fmt::print("{}: {} sheets\n", out, sheets.size());
    return kDone;
}

}  // namespace

void addReportCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<ReportCommand>();
    CLI::App* command =
        app.add_subcommand("report", "What it is, does and takes to build, as one PDF to hand on");
    addProjectOptions(command, options->project);
    command->add_option("out", options->out, "File to write: .pdf")->required();
    command->add_option("--paper", options->paper, "A4, A3 or Letter");
    command->add_flag("--feet", options->feet, "Lengths in feet and inches");
    command->add_option("--builds", options->builds, "Builds of the tolerance run; 0: none")
        ->check(CLI::Range(0, 2000));
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
