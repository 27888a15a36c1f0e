// How port quantities and currents change with the geometry, without solving again.
#pragma once

#include <optional>

#include "core/em/solver.h"

namespace rm::em {

/// Derivatives by one geometric parameter, per unit of it.
struct PortDerivative {
    MatrixXc admittance;     ///< ports x ports
    MatrixXc localCurrents;  ///< local functions x ports
};

/// A solution that keeps its factors. For Z X = W and Y = W^T X with Z symmetric, dY = X^T dW + dW^T X - X^T
/// dZ X and dX = Z^-1 (dW - dZ X): a refill and a back-substitution, no further factorisation. Source:
/// adjoint network method; Galerkin symmetry makes the adjoint solution X itself.
class FactoredPorts {
  public:
    /// Throws as solvePorts does.
    FactoredPorts(std::shared_ptr<const Mesh> mesh, double frequencyHz, const std::stop_token& stop = {});

    const PortSolution& solution() const { return solution_; }

    /// From the meshes of the geometry a `step` of the parameter further and back. Nothing where they are cut
    /// otherwise than the mesh of the solution.
    std::optional<PortDerivative> derivative(const Mesh& plus, const Mesh& minus, double step) const;

  private:
    PortSolution solution_;
    MatrixXc factors_;
    std::vector<int> pivots_;
    MatrixXc currents_;  ///< X
};

}  // namespace rm::em
