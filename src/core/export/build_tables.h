// The tables of a build sheet in words, for paper and for the window.
#pragma once

#include "core/build/sheet.h"
#include "core/export/page.h"

namespace rm::io {

/// What to cut, what hangs and is pegged, holes on booms, lines, coils, capacitors and transformers, what to
/// order; those that are empty are left out.
std::vector<Table> buildTables(const build::BuildSheet& sheet, bool feetAndInches);

}  // namespace rm::io
