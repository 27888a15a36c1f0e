// The interactions of two spans of a mesh, block by block of their local functions: what every matrix of the
// method of moments is made of.
#pragma once

#include <memory>
#include <stop_token>

#include "core/em/ground/across_table.h"
#include "core/em/mesh.h"
#include "core/em/quadrature.h"

namespace rm::em {

/// Interactions of the local functions of two spans divided by j: [function on a][function on b].
struct Block {
    alignas(64) double re[kLanes][kLanes];
    alignas(64) double im[kLanes][kLanes];
};

/// Fills blocks. Each thread remembers the pairs that it has met, from one solution to the next: a dimension
/// that changes costs the pairs of the spans that move. Safe from any number of threads.
class SpanBlocks {
  public:
    /// `mesh` has to outlive this. What is missing of the tables of the ground is built where it is needed,
    /// and left where `stop` asks for it.
    SpanBlocks(const Mesh& mesh, double frequencyHz, std::stop_token stop = {});

    /// <f_m, -E(f_n)>/j for the local functions of two spans, with everything that belongs to the two: the
    /// image or the ground, and on the diagonal the loss along the wire and its coat. What is in the block
    /// before is overwritten. Throws rm::Stopped.
    void fill(std::size_t row, std::size_t column, Block& block) const;

    /// Before the pairs of `from` with `to` are filled in: what they ask of tables that are still empty is
    /// built on all processors.
    void prepare(const std::vector<std::size_t>& from, const std::vector<std::size_t>& to) const;

  private:
    const Mesh& mesh_;
    double k_;
    double frequencyHz_;
    std::stop_token stop_;
    std::shared_ptr<const GroundTables> tables_;
};

}  // namespace rm::em
