#include "core/linear.h"

#include <cblas.h>
#include <lapacke.h>

#include <algorithm>
#include <limits>
#include <vector>

#include "core/common.h"
#include "core/words/words.h"

namespace rm {

namespace {

constexpr double kNone = std::numeric_limits<double>::quiet_NaN();

lapack_complex_double* raw(Complex* at) {
    return reinterpret_cast<lapack_complex_double*>(at);
}

lapack_int sizeOf(Eigen::Index n) {
    return static_cast<lapack_int>(n);
}

/// B becomes X; whether there is one.
bool solveInPlace(Eigen::MatrixXcd& a, Eigen::MatrixXcd& b) {
    keepLapackOnOneThread();
    const lapack_int n = sizeOf(a.rows());
    if (n == 0 || b.cols() == 0) return true;
    std::vector<lapack_int> pivots(static_cast<std::size_t>(n));
    return LAPACKE_zgesv_work(LAPACK_COL_MAJOR, n, sizeOf(b.cols()), raw(a.data()), n, pivots.data(),
                              raw(b.data()), n) == 0;
}

bool solveSymmetricInPlace(Eigen::MatrixXd& a, double* b, Eigen::Index columns) {
    keepLapackOnOneThread();
    const lapack_int n = sizeOf(a.rows());
    if (n == 0) return true;
    std::vector<lapack_int> pivots(static_cast<std::size_t>(n));
    return LAPACKE_dsysv(LAPACK_COL_MAJOR, 'L', n, sizeOf(columns), a.data(), n, pivots.data(), b, n) == 0;
}

}  // namespace

std::optional<Eigen::MatrixXcd> solveSquare(Eigen::MatrixXcd a, Eigen::MatrixXcd b) {
    if (!solveInPlace(a, b)) return std::nullopt;
    return b;
}

Eigen::MatrixXcd solveRegular(Eigen::MatrixXcd a, Eigen::MatrixXcd b) {
    if (!solveInPlace(a, b)) b.setConstant(Complex(kNone, kNone));
    return b;
}

Eigen::VectorXd leastSquares(Eigen::MatrixXd a, const Eigen::VectorXd& b) {
    keepLapackOnOneThread();
    const lapack_int rows = sizeOf(a.rows());
    const lapack_int columns = sizeOf(a.cols());
    if (rows == 0 || columns == 0) return Eigen::VectorXd::Zero(a.cols());
    const lapack_int longest = std::max(rows, columns);
    Eigen::VectorXd x = Eigen::VectorXd::Zero(longest);
    x.head(b.size()) = b;
    std::vector<lapack_int> order(static_cast<std::size_t>(columns));
    lapack_int rank = 0;
    if (LAPACKE_dgelsy(LAPACK_COL_MAJOR, rows, columns, 1, a.data(), rows, x.data(), longest, order.data(),
                       longest * std::numeric_limits<double>::epsilon(), &rank) != 0)
        return Eigen::VectorXd::Constant(a.cols(), kNone);
    return x.head(columns);
}

Eigen::VectorXd solveSymmetric(Eigen::MatrixXd a, Eigen::VectorXd b) {
    if (!solveSymmetricInPlace(a, b.data(), 1)) b.setConstant(kNone);
    return b;
}

Eigen::MatrixXd inverseOfSymmetric(Eigen::MatrixXd a) {
    Eigen::MatrixXd inverse = Eigen::MatrixXd::Identity(a.rows(), a.cols());
    if (!solveSymmetricInPlace(a, inverse.data(), inverse.cols())) inverse.setConstant(kNone);
    return inverse;
}

Eigen::VectorXcd smallestRightSingularVector(Eigen::MatrixXcd a) {
    keepLapackOnOneThread();
    const lapack_int rows = sizeOf(a.rows());
    const lapack_int columns = sizeOf(a.cols());
    Eigen::MatrixXcd adjoint(columns, columns);
    std::vector<double> values(static_cast<std::size_t>(std::min(rows, columns)) + 1);
    std::vector<double> rest(values.size());
    Complex none;
    if (LAPACKE_zgesvd(LAPACK_COL_MAJOR, 'N', 'A', rows, columns, raw(a.data()), std::max(1, rows),
                       values.data(), raw(&none), 1, raw(adjoint.data()), columns, rest.data()) != 0)
        throw Error(say("The singular values of a matrix do not settle."));
    return adjoint.row(columns - 1).adjoint();
}

void keepLapackOnOneThread() {
    static const bool once = [] {
        openblas_set_num_threads(1);
        return true;
    }();
    (void)once;
}

}  // namespace rm
