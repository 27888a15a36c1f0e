// What the options of reedmast-cli take: numbers as everywhere in the program, within limits that the message
// names.
#pragma once

#include <CLI/CLI.hpp>
#include <string>

namespace rm::cli {

/// A number from `low` to `high`; `unit` is for the message, as "MHz".
CLI::Validator number(double low, double high, const std::string& unit = {});

/// A frequency in MHz that the program works at.
CLI::Validator frequencyMhz();

}  // namespace rm::cli
