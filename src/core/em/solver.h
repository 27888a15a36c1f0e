// Fills and factors the moment matrix of a mesh at one frequency, and answers with the ports: one current
// vector and one column of admittances for a unit voltage at each.
#pragma once

#include <Eigen/Dense>
#include <algorithm>
#include <memory>
#include <stop_token>

#include "core/em/mesh.h"

namespace rm::em {

using MatrixXc = Eigen::MatrixXcd;
using VectorXc = Eigen::VectorXcd;

/// The field solution seen from the ports. All circuitry is closed on it (core/circuit); none of that repeats
/// the field solution. Immutable and shared.
struct PortSolution {
    double frequencyHz = 0.0;
    std::shared_ptr<const Mesh> mesh;
    MatrixXc admittance;     ///< ports x ports in siemens, complex symmetric
    MatrixXc localCurrents;  ///< local functions x ports: amperes per volt at each port
    std::size_t unknowns = 0;
};

/// Matrix of the mixed-potential integral equation with Galerkin testing, in ohm: N x N, complex symmetric.
/// <f_m, -E(f_n)> = j w mu0 int int f_m.f_n G/(4 pi) + 1/(j w eps0) int int f_m' f_n' G/(4 pi) + surface
/// loss; over perfect ground the images are included, over real ground the kernels of em/ground. Source: R.
/// F. Harrington, Field Computation by Moment Methods, chapter 4; higher orders after B. M. Kolundzija and A.
/// R. Djordjevic (2002). Throws rm::Stopped where it is asked to stop.
MatrixXc momentMatrix(const Mesh& mesh, double frequencyHz, const std::stop_token& stop = {});

/// The same between the local functions of the spans: lower triangle, what lies above is not filled.
MatrixXc localMoments(const Mesh& mesh, double frequencyHz, const std::stop_token& stop = {});

/// The interaction of the basis functions i and j from those of the local functions, of which the lower
/// triangle is there.
inline Complex joinedMoment(const Mesh& mesh, const MatrixXc& local, std::size_t i, std::size_t j) {
    const BasisFunction& f = mesh.functions[i];
    const BasisFunction& g = mesh.functions[j];
    const auto at = [&](const LocalTerm& a, const LocalTerm& b) {
        const auto row = static_cast<Eigen::Index>(std::max(a.local, b.local));
        const auto column = static_cast<Eigen::Index>(std::min(a.local, b.local));
        return (a.sign * b.sign) * local(row, column);
    };
    Complex sum = at(f.first, g.first);
    if (g.second.sign != 0.0) sum += at(f.first, g.second);
    if (f.second.sign != 0.0) {
        sum += at(f.second, g.first);
        if (g.second.sign != 0.0) sum += at(f.second, g.second);
    }
    return sum;
}

/// Joins the local functions of localMoments into basis functions.
MatrixXc joinedMoments(const Mesh& mesh, const MatrixXc& local, const std::stop_token& stop = {});

/// From here on threads cost less than they bring to the fill, unknowns.
inline constexpr std::size_t kParallelUnknowns = 250;

/// From here on the search for mirror symmetry costs less than the factorisation of two halves saves.
inline constexpr std::size_t kMirroredUnknowns = 120;

/// Forgets the pairs of spans that this thread remembers. Placements that differ by rounding count as equal
/// and share the moments of the one that came first, so that the last digits of a solution can depend on what
/// was solved before; from here on they do not, for antennas small enough to be filled by one thread.
void forgetPairs();

/// Weights of the ports in the basis functions: N x ports; port currents are their transpose times the
/// coefficients.
MatrixXc portWeightMatrix(const Mesh& mesh);

/// What is summed over local functions (local functions x columns) as sums over the basis functions: the
/// transpose of localCurrents.
MatrixXc joinedRows(const Mesh& mesh, const MatrixXc& local);

/// Coefficients of the basis functions (N x columns) as those of the local functions of the spans.
MatrixXc localCurrents(const Mesh& mesh, const MatrixXc& coefficients);

/// Fills, factors and solves for every port. Throws rm::Error if the matrix is singular or takes more memory
/// than there is to spare, and rm::Stopped soon after `stop` asks for it.
PortSolution solvePorts(std::shared_ptr<const Mesh> mesh, double frequencyHz,
                        const std::stop_token& stop = {});

/// Solves a linear system in place: `matrix` (N x N) is destroyed, `rhs` (N x P) becomes the solution. Throws
/// rm::Error where the matrix is singular or empty.
void solveLinear(MatrixXc& matrix, MatrixXc& rhs, const std::stop_token& stop = {});

}  // namespace rm::em
