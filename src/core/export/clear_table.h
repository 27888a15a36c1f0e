// How far people have to stay, as a table to hang up or to hand in.
#pragma once

#include <string>

#include "core/export/page.h"
#include "core/study/keep_clear.h"

namespace rm::io {

/// Rows of bands and persons, with the limits and the distances; in words.
Table clearTable(const study::ClearTable& table, bool feetAndInches);

std::string clearText(const study::ClearTable& table, bool feetAndInches = false);
std::string clearCsv(const study::ClearTable& table);

/// The table with what it rests on, on paper.
std::vector<Sheet> clearSheets(const study::ClearTable& table, const TitleBlock& title, bool feetAndInches,
                               Paper paper = Paper::A4);

}  // namespace rm::io
