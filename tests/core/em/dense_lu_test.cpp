// The factorisation by tiles solves what the plain one solves, to the last digits that matter.
#include <Eigen/Dense>
#include <catch2/catch.hpp>

#include "core/em/dense_lu.h"

using namespace rm;

TEST_CASE("a factored matrix solves its equations, whatever its size against tiles and panels") {
    std::srand(3);
    for (const int n : {1, 7, 250, 399, 400, 401, 447, 448, 449, 640, 777}) {
        INFO(n);
        const em::MatrixXc a = em::MatrixXc::Random(n, n);
        const em::MatrixXc b = em::MatrixXc::Random(n, 3);
        em::MatrixXc factors = a;
        em::MatrixXc x = b;
        std::vector<int> pivots;
        em::factorLu(factors, pivots);
        em::solveFactored(factors, pivots, x);
        CHECK((a * x - b).norm() < 1e-9 * b.norm() * n);
        // Pivoting: nothing below the diagonal is larger than one.
        double largest = 0.0;
        for (int c = 0; c < n; ++c)
            for (int r = c + 1; r < n; ++r) largest = std::max(largest, std::abs(factors(r, c)));
        CHECK(largest < 1.5);  // |re| + |im| decides
        // Once more, digit for digit.
        em::MatrixXc again = a;
        std::vector<int> same;
        em::factorLu(again, same);
        CHECK(again == factors);
        CHECK(same == pivots);
    }
}

TEST_CASE("a matrix without an inverse is refused with a sentence") {
    for (const int n : {5, 500}) {
        em::MatrixXc a = em::MatrixXc::Random(n, n);
        a.col(n - 1).setZero();
        std::vector<int> pivots;
        CHECK_THROWS_WITH(em::factorLu(a, pivots), Catch::Contains("no single solution"));
    }
}
