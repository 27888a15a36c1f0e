// Small systems of linear equations, by LAPACK: templates of a library of matrices would take longer to
// compile than the rest of the files that need them.
#pragma once

#include <Eigen/Core>
#include <optional>

namespace rm {

/// X of A X = B, A square, by LU with partial pivoting; empty where a pivot is exactly zero.
std::optional<Eigen::MatrixXcd> solveSquare(Eigen::MatrixXcd a, Eigen::MatrixXcd b);

/// The same for an A that is known not to be singular: what a pivot of zero leaves is not finite.
Eigen::MatrixXcd solveRegular(Eigen::MatrixXcd a, Eigen::MatrixXcd b);

/// x of the least |A x - b|, the shortest of them, by QR with column pivoting; not finite where A or b is
/// not.
Eigen::VectorXd leastSquares(Eigen::MatrixXd a, const Eigen::VectorXd& b);

/// x of A x = b, A symmetric, by L D L^T with pivoting (Bunch and Kaufman); not finite where A is singular.
Eigen::VectorXd solveSymmetric(Eigen::MatrixXd a, Eigen::VectorXd b);

/// Of a symmetric matrix; not finite where it is singular.
Eigen::MatrixXd inverseOfSymmetric(Eigen::MatrixXd a);

/// The right singular vector of the smallest singular value of A; of a wide A, one that A takes to zero.
/// Throws rm::Error where the iteration does not settle.
Eigen::VectorXcd smallestRightSingularVector(Eigen::MatrixXcd a);

/// LAPACK's and BLAS's own threads are a setting of the whole process: from the first call on each of their
/// functions runs on the thread that calls it, and nobody changes that.
void keepLapackOnOneThread();

}  // namespace rm
