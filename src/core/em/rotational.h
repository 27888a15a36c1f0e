// Radial systems: n equal sectors round an upright axis make the matrix of their functions block-circulant.
// It is taken apart by the discrete Fourier transform over the bearing into n small systems, and what is not
// in the sectors is joined by a Schur complement: 120 radials cost little more than eight.
//
// P. J. Davis, Circulant Matrices (1979). The functions at the hub, which join every sector to one and the
// same wire, would spoil the symmetry: there each end has its half function, and Kirchhoff's law is one more
// equation.
#pragma once

#include <optional>
#include <stop_token>
#include <vector>

#include "core/em/solver.h"

namespace rm::em {

/// The sectors of a mesh, and what joins them.
struct Rotation {
    std::vector<std::vector<std::size_t>> sectorSpans;  ///< [sector][place]: equal places are equal spans
    std::vector<std::size_t> restSpans;
    int hubNode = -1;  ///< where the sectors meet
    /// Each sector lies in an upright plane through the axis, as straight radials do: two of them are mirror
    /// images of each other.
    bool flatSectors = false;
};

/// The largest system of at least six equal sectors that meet in one node and nowhere else; nothing where
/// there is none.
std::optional<Rotation> findRotation(const Mesh& mesh);

/// As solvePorts, to rounding: the same functions, in another order of elimination. Throws rm::Stopped where
/// it is asked to stop.
PortSolution solveRotational(std::shared_ptr<const Mesh> mesh, const Rotation& rotation, double frequencyHz,
                             const std::stop_token& stop = {});

}  // namespace rm::em
