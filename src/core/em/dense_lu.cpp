#include "core/em/dense_lu.h"

#include <cblas.h>
#include <lapacke.h>

#include <algorithm>

#include "core/em/parallel.h"
#include "core/linear.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

/// Below this many unknowns tiles cost more than they bring.
constexpr int kTiledFrom = 400;
constexpr int kTile = 128;

/// Columns of a panel. Wide ones make the products of the update efficient, narrow ones keep short what no
/// other thread can share: a twelfth of a small matrix, 128 columns of a large one.
int panelOf(int unknowns) {
    return std::clamp(unknowns / 12 / 32 * 32, 64, 128);
}

lapack_complex_double* raw(Complex* at) {
    return reinterpret_cast<lapack_complex_double*>(at);
}

[[noreturn]] void singular() {
    throw Error(
        say("The equations of this model have no single solution: look for wires that lie on each other."));
}

class TiledLu {
  public:
    TiledLu(MatrixXc& a, std::vector<int>& pivots, const std::stop_token& stop)
        : a_(a.data()), n_(static_cast<int>(a.rows())), panel_(panelOf(n_)), pivots_(pivots), stop_(stop) {}

    void factor() {
        factorPanel(0);
        for (int k = 0; k < n_; k += panel_) {
            // Before anything is done with a panel that was left out.
            endWhere(stop_);
            const int next = k + panel_;
            if (next >= n_) {
                swapRows(k, 0, k);
                break;
            }
            const int after = std::min(n_, next + panel_);
            // Both need panel k only: the next panel is ready when the columns beyond it are.
            parallelBoth(
                [&] {
                    update(k, next, after);
                    factorPanel(next);
                },
                [&] { updateBeyond(k, after); });
        }
    }

  private:
    int width(int k) const { return std::min(panel_, n_ - k); }
    Complex* at(int row, int column) {
        return a_ + static_cast<std::size_t>(column) * static_cast<std::size_t>(n_) + row;
    }

    void factorPanel(int k) {
        // What was left half updated may look singular.
        if (stop_.stop_requested()) return;
        const int rows = n_ - k;
        if (LAPACKE_zgetrf_work(LAPACK_COL_MAJOR, rows, width(k), raw(at(k, k)), n_, pivots_.data() + k) != 0)
            singular();
        for (int i = k; i < k + width(k); ++i) pivots_[static_cast<std::size_t>(i)] += k;
    }
    /// The row exchanges of panel k in columns from `first` up to `end`.
    void swapRows(int k, int first, int end) {
        if (end > first)
            LAPACKE_zlaswp_work(LAPACK_COL_MAJOR, end - first, raw(at(0, first)), n_, k + 1, k + width(k),
                                pivots_.data(), 1);
    }
    /// What panel k does to these columns.
    void update(int k, int first, int end) {
        if (stop_.stop_requested()) return;
        const int columns = end - first;
        const int w = width(k);
        swapRows(k, first, end);
        static const Complex one(1.0);
        static const Complex minus(-1.0);
        cblas_ztrsm(CblasColMajor, CblasLeft, CblasLower, CblasNoTrans, CblasUnit, w, columns, &one, at(k, k),
                    n_, at(k, first), n_);
        const int below = n_ - k - w;
        if (below > 0)
            cblas_zgemm(CblasColMajor, CblasNoTrans, CblasNoTrans, below, columns, w, &minus, at(k + w, k),
                        n_, at(k, first), n_, &one, at(k + w, first), n_);
    }
    void updateBeyond(int k, int from) {
        const int tiles = (n_ - from + kTile - 1) / kTile;
        // The last task exchanges the rows of what is finished.
        parallelFor(0, tiles + 1, [&](int t) {
            if (t == tiles) return swapRows(k, 0, k);
            const int first = from + t * kTile;
            update(k, first, std::min(n_, first + kTile));
        });
    }

    Complex* a_;
    int n_;
    int panel_;
    std::vector<int>& pivots_;
    const std::stop_token& stop_;
};

}  // namespace

void factorLu(MatrixXc& a, std::vector<int>& pivots, const std::stop_token& stop) {
    keepLapackOnOneThread();
    const auto n = static_cast<lapack_int>(a.rows());
    pivots.resize(static_cast<std::size_t>(n));
    if (n >= kTiledFrom) return TiledLu(a, pivots, stop).factor();
    if (LAPACKE_zgetrf_work(LAPACK_COL_MAJOR, n, n, raw(a.data()), n, pivots.data()) != 0) singular();
}

void solveFactored(const MatrixXc& factors, const std::vector<int>& pivots, MatrixXc& b) {
    keepLapackOnOneThread();
    const auto n = static_cast<lapack_int>(factors.rows());
    // LAPACK reads the factors and is declared as if it wrote them.
    auto* lu = raw(const_cast<Complex*>(factors.data()));
    LAPACKE_zgetrs_work(LAPACK_COL_MAJOR, 'N', n, static_cast<lapack_int>(b.cols()), lu, n, pivots.data(),
                        raw(b.data()), n);
}

}  // namespace rm::em
