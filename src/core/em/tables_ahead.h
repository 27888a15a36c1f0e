// What a mesh will ask of the ground's tables, built on all processors before the first pair asks for it.
//
// Left to themselves, tables grow where a pair of spans comes upon a piece that is missing; every other
// thread that wants the same piece waits, and the first solution at a new frequency runs on one processor.
#pragma once

#include <vector>

#include "core/em/ground/across_table.h"
#include "core/em/mesh.h"

namespace rm::em {

/// Builds the pieces that the pairs of spans `from` with spans `to` fall upon, where the tables are still
/// empty and some wire is in the soil; else it does nothing. A few points of every span stand for all of it:
/// what they miss is built where it is asked for, as ever. Throws rm::Stopped where the StopScope of the
/// thread asks for it, and rm::Error where the kernels change too fast to be tabulated.
void buildTablesAhead(const GroundTables& tables, const Mesh& mesh, const std::vector<std::size_t>& from,
                      const std::vector<std::size_t>& to);

}  // namespace rm::em
