// reedmast-cli: the engine without a window. Tables for people, --json for machines, errors in one sentence
// on standard error.
#include <cstdio>
#include <exception>

#include "cli/commands.h"
#include "core/common.h"
#include "core/version.h"

int main(int argc, char** argv) {
    CLI::App app{
        "Reed Mast, antennas over real ground, without a window. Projects are files in JSON; tables are for "
        "people, --json is for machines."};
    app.set_version_flag("--version", std::string("reedmast-cli ") + rm::kVersion);
    app.require_subcommand(1);
    int exitCode = rm::cli::kDone;
    rm::cli::addProjectCommands(app, exitCode);
    rm::cli::addFeedPathCommands(app, exitCode);
    rm::cli::addCompareCommand(app, exitCode);
    rm::cli::addTuneCommand(app, exitCode);
    rm::cli::addTradeCommand(app, exitCode);
    rm::cli::addBuildCommands(app, exitCode);
    rm::cli::addRadialsCommand(app, exitCode);
    rm::cli::addSiteCommands(app, exitCode);
    rm::cli::addArrayCommands(app, exitCode);
    rm::cli::addCutCommand(app, exitCode);
    rm::cli::addDrawCommand(app, exitCode);
    rm::cli::addReportCommand(app, exitCode);
    rm::cli::addTrimCommand(app, exitCode);
    rm::cli::addFieldCommands(app, exitCode);
    rm::cli::addCableCommands(app, exitCode);
    rm::cli::addStarterCommands(app, exitCode);
    rm::cli::addStudyCommands(app, exitCode);
    rm::cli::addVerifyCommand(app, exitCode);
    rm::cli::addDescribedCommands(app, exitCode);
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? rm::cli::kDone : rm::cli::kFailed;
    } catch (const std::exception& e) {
        std::fprintf(stderr, "%s\n", e.what());
        return rm::cli::kFailed;
    }
    return exitCode;
}
