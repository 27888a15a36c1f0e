// LU factorisation of dense complex matrices. The library's own threads are a setting of the whole process:
// here each call of it runs on the thread that makes it, and large matrices are cut into tiles that share the
// machine. The same matrix gives the same digits whatever else runs.
#pragma once

#include <stop_token>
#include <vector>

#include "core/em/solver.h"

namespace rm::em {

/// A = P L U with partial pivoting, in place of A; `pivots` are LAPACK's, counted from 1. Right-looking by
/// panels, the next panel factored while the rest is updated. Throws rm::Error where A is singular, and
/// rm::Stopped between two panels. Source:
/// Golub and Van Loan, Matrix Computations (2013), 3.4 and 3.6.
void factorLu(MatrixXc& a, std::vector<int>& pivots, const std::stop_token& stop = {});

/// Solves A X = B in place of B with what factorLu made.
void solveFactored(const MatrixXc& factors, const std::vector<int>& pivots, MatrixXc& b);

}  // namespace rm::em
