// The commands of reedmast-cli. Each adds itself to the argument parser; its work runs when it was chosen.
#pragma once

#include <CLI/CLI.hpp>

namespace rm::cli {

/// Exit codes: did what was asked; found errors or differences; could not do it at all.
inline constexpr int kDone = 0;
inline constexpr int kFound = 1;
inline constexpr int kFailed = 2;

/// solve, pattern and check. `exitCode` receives the outcome of the command that ran.
void addProjectCommands(CLI::App& app, int& exitCode);

/// sweep and match: what the radio sees.
void addFeedPathCommands(CLI::App& app, int& exitCode);

/// compare.
void addCompareCommand(CLI::App& app, int& exitCode);

/// tune.
void addTuneCommand(CLI::App& app, int& exitCode);

/// trade.
void addTradeCommand(CLI::App& app, int& exitCode);

/// matters, tolerance and scan.
void addBuildCommands(CLI::App& app, int& exitCode);

/// radials.
void addRadialsCommand(CLI::App& app, int& exitCode);
void addCutCommand(CLI::App& app, int& exitCode);

/// draw.
void addDrawCommand(CLI::App& app, int& exitCode);

/// report.
void addReportCommand(CLI::App& app, int& exitCode);

/// trim.
void addTrimCommand(CLI::App& app, int& exitCode);

/// field and clear: close to the antenna.
void addFieldCommands(CLI::App& app, int& exitCode);

/// choke and parts.
void addCableCommands(CLI::App& app, int& exitCode);

/// starters and starter.
void addStarterCommands(CLI::App& app, int& exitCode);

/// heights, grounds and scale.
void addSiteCommands(CLI::App& app, int& exitCode);

/// drives, coupling, stack and currents.
void addArrayCommands(CLI::App& app, int& exitCode);

/// study and merge.
void addStudyCommands(CLI::App& app, int& exitCode);

/// manual and completion: the program described by itself.
void addDescribedCommands(CLI::App& app, int& exitCode);

/// verify.
void addVerifyCommand(CLI::App& app, int& exitCode);

}  // namespace rm::cli
