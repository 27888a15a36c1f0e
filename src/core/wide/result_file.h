// The result of a wide study: one line that says what it is of, then one line for each case, in order, as CSV
// or as JSON lines. docs/formats.md has it member by member.
#pragma once

#include <filesystem>
#include <functional>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/wide/cases.h"

namespace rm::wide {

enum class Format { Csv, JsonLines };

/// By the end of the name: .csv, or .jsonl. Throws rm::Error for any other.
Format formatOf(const std::filesystem::path& file);

/// Some of the cases of a study: all of them, or one part of several.
struct Range {
    std::size_t first = 0;
    std::size_t end = 0;  ///< one behind the last
    std::size_t count() const { return end - first; }
};

/// The cases of part `part` of `parts`, counted from 1: nearly equal shares that together are all.
Range partOf(std::size_t cases, std::size_t part, std::size_t parts);

/// "reed-mast 1.2.3": the program that writes.
std::string thisProgram();

/// What stands before the cases, each line with its end: the study with its antenna, the program, and in a
/// CSV the titles.
std::string headOf(const Cases& cases, Format format, Range range,
                   const std::string& program = thisProgram());

/// One case as its line, without its end.
std::string lineOf(const Cases& cases, const Row& row, Format format);

/// The case that a line is of, from 0; nothing where it is none.
std::optional<std::size_t> numberOf(const std::string& line, Format format);

/// A result as it was read.
struct Result {
    Cases cases;
    Range range;
    std::vector<Row> rows;     ///< in order; fewer than the range has where it is not finished
    std::string program = {};  ///< that worked it out, with its version
};

/// `progress` hears which share is read. Throws rm::Error with a sentence that names the file, or
/// rm::Stopped.
Result readResult(const std::filesystem::path& file, const std::stop_token& stop = {},
                  const std::function<void(double)>& progress = {});

/// What may stand in a file that the same study is to be written to: whole lines of it, from the first on.
struct Begun {
    std::size_t rows = 0;
    std::uintmax_t bytes = 0;  ///< up to the end of the last whole line
};
/// Throws rm::Error where the file is of something else, or was begun by another version of the program.
Begun readBegun(const std::filesystem::path& file, const std::string& head, Format format, Range range);

/// Puts the parts of a study together: the same, byte for byte, as if it had been worked out in one. Throws
/// rm::Error where they are of several studies, overlap, or leave something out.
void mergeResults(const std::vector<std::filesystem::path>& parts, const std::filesystem::path& into);

}  // namespace rm::wide
