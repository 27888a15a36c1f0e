// Small systems of linear equations, each against what it is defined by.
#include "core/linear.h"

#include <catch2/catch.hpp>

#include "core/common.h"

using namespace rm;

namespace {

/// Numbers without a pattern, the same each time: sines of equal steps alone would make matrices of low rank.
double mixed(int i) {
    return std::fmod(43758.5453 * std::sin(12.9898 * i + 0.3), 1.0);
}

Eigen::MatrixXcd someMatrix(Eigen::Index rows, Eigen::Index columns, int from) {
    Eigen::MatrixXcd m(rows, columns);
    for (Eigen::Index i = 0; i < rows; ++i)
        for (Eigen::Index j = 0; j < columns; ++j) {
            const int k = from + static_cast<int>(2 * (i * columns + j));
            m(i, j) = Complex(mixed(k), mixed(k + 1));
        }
    return m;
}

}  // namespace

TEST_CASE("a square system is solved for several right sides", "[linear]") {
    const Eigen::MatrixXcd a = someMatrix(7, 7, 0);
    const Eigen::MatrixXcd b = someMatrix(7, 3, 500);
    const auto x = solveSquare(a, b);
    REQUIRE(x);
    CHECK((a * *x - b).norm() < 1e-13 * b.norm());
    CHECK((solveRegular(a, b) - *x).norm() == 0.0);
    CHECK(solveSquare(Eigen::MatrixXcd(0, 0), Eigen::MatrixXcd(0, 2)));
}

TEST_CASE("a system without one solution is said to be one", "[linear]") {
    Eigen::MatrixXcd a = someMatrix(4, 4, 0);
    a.col(2).setZero();
    CHECK_FALSE(solveSquare(a, someMatrix(4, 1, 50)));
    CHECK_FALSE(solveRegular(a, someMatrix(4, 1, 50)).allFinite());
}

TEST_CASE("least squares leave a rest at right angles to every column", "[linear]") {
    const Eigen::MatrixXd a = someMatrix(9, 4, 3).real();
    const Eigen::VectorXd b = someMatrix(9, 1, 300).real();
    CHECK((a.transpose() * (a * leastSquares(a, b) - b)).norm() < 1e-13 * b.norm());
}

TEST_CASE("of many answers least squares take the shortest", "[linear]") {
    const Eigen::MatrixXd wide = someMatrix(2, 5, 3).real();
    const Eigen::VectorXd b = someMatrix(2, 1, 300).real();
    const Eigen::VectorXd x = leastSquares(wide, b);
    CHECK((wide * x - b).norm() < 1e-13);
    // The shortest lies in the space of the rows.
    const Eigen::VectorXd weights = leastSquares(wide.transpose(), x);
    CHECK((wide.transpose() * weights - x).norm() < 1e-13);
    // Equal columns share.
    Eigen::MatrixXd twice(3, 2);
    twice << 1, 1, 2, 2, 3, 3;
    const Eigen::VectorXd shared = leastSquares(twice, Eigen::Vector3d(2, 4, 6));
    CHECK(shared[0] == Approx(1.0));
    CHECK(shared[1] == Approx(1.0));
    twice(1, 0) = std::nan("");
    CHECK_FALSE(leastSquares(twice, Eigen::Vector3d(2, 4, 6)).allFinite());
}

TEST_CASE("a symmetric system is solved and inverted, definite or not", "[linear]") {
    const Eigen::MatrixXd root = someMatrix(5, 5, 7).real();
    Eigen::MatrixXd a = root + root.transpose();
    const Eigen::VectorXd b = someMatrix(5, 1, 90).real();
    CHECK((a * solveSymmetric(a, b) - b).norm() < 1e-12);
    CHECK((a * inverseOfSymmetric(a) - Eigen::MatrixXd::Identity(5, 5)).norm() < 1e-12);
    a.row(1).setZero();
    a.col(1).setZero();
    CHECK_FALSE(solveSymmetric(a, b).allFinite());
    CHECK_FALSE(inverseOfSymmetric(a).allFinite());
    CHECK(inverseOfSymmetric(Eigen::MatrixXd(0, 0)).size() == 0);
}

TEST_CASE("the last right singular vector is the direction that a matrix shortens most", "[linear]") {
    const Eigen::MatrixXcd a = someMatrix(8, 3, 11);
    const Eigen::VectorXcd v = smallestRightSingularVector(a);
    CHECK(v.norm() == Approx(1.0));
    // A^H A v = sigma^2 v, and no other direction is shortened more.
    const double sigma = (a * v).norm();
    CHECK((a.adjoint() * (a * v) - sigma * sigma * v).norm() < 1e-13);
    for (int k = 0; k < 50; ++k) {
        const Eigen::VectorXcd other = someMatrix(3, 1, 1000 + 17 * k).col(0).normalized();
        CHECK((a * other).norm() >= sigma - 1e-14);
    }
    const Eigen::MatrixXcd wide = someMatrix(2, 4, 40);
    CHECK((wide * smallestRightSingularVector(wide)).norm() < 1e-14);
}
