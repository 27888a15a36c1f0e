// How port quantities and currents change with the geometry, without solving again.
#pragma once

#include <optional>
#include <vector>

#include "core/em/solver.h"

namespace rm::em {

/// Derivatives by one geometric parameter, per unit of it.
struct PortDerivative {
    MatrixXc admittance;     ///< ports x ports
    MatrixXc localCurrents;  ///< local functions x ports
};

/// A solution that keeps its moments and their factors.
class FactoredPorts {
  public:
    /// Throws as solvePorts does.
    FactoredPorts(std::shared_ptr<const Mesh> mesh, double frequencyHz, const std::stop_token& stop = {});

    const PortSolution& solution() const { return solution_; }
    /// What it keeps, in bytes.
    std::size_t bytes() const;

  private:
    friend std::optional<std::vector<PortDerivative>> portDerivatives(const std::vector<FactoredPorts>&,
                                                                      const Mesh&, double);

    PortSolution solution_;
    MatrixXc moments_;  ///< of the local functions, lower triangle
    MatrixXc factors_;
    std::vector<int> pivots_;
    MatrixXc currents_;  ///< X
};

/// Derivatives of the solutions of one mesh at several frequencies, from the mesh with the parameter a `step`
/// further; nothing where that is cut otherwise. For Z X = W and Y = W^T X with Z symmetric, dY = X^T dW +
/// dW^T X - X^T dZ X and dX = Z^-1 (dW - dZ X): the moments of what has moved and a back-substitution, no
/// further factorisation. dZ is smooth in frequency, resonances are in X: of frequencies that lie close
/// together for the size of the antenna a few are filled, and dZ is interpolated between them, to about 2e-3
/// of it. Source: adjoint network method; Galerkin symmetry makes the adjoint solution X itself.
std::optional<std::vector<PortDerivative>> portDerivatives(const std::vector<FactoredPorts>& solved,
                                                           const Mesh& moved, double step);

}  // namespace rm::em
