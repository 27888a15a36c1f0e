// The tables of a build sheet in words, for paper and for the window.
#pragma once

#include "core/build/sheet.h"
#include "core/export/page.h"

namespace rm::io {

/// What to cut.
Table cutTable(const build::BuildSheet& sheet, bool feetAndInches);
/// What hangs and is pegged, holes on booms, lines, coils, capacitors and transformers, what to order; those
/// that are empty are left out.
std::vector<Table> otherTables(const build::BuildSheet& sheet, bool feetAndInches);
/// All of them, what to cut first.
std::vector<Table> buildTables(const build::BuildSheet& sheet, bool feetAndInches);

}  // namespace rm::io
