#include "core/em/moved_moments.h"

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include "core/em/parallel.h"
#include "core/em/span_basis.h"
#include "core/em/span_blocks.h"

namespace rm::em {

namespace {

/// Differences by rounding alone count as none.
constexpr double kRoundingM = 1e-12;
constexpr Eigen::Index kRegister = kLanes;
/// Blocks that stand side by side before they are multiplied, of 1 kB each.
constexpr std::size_t kBlocksAtOnce = 256;

/// How a span lies in one mesh against another: where it went, if it went there as it was.
struct Shift {
    bool rigid = false;
    Vec3 by = Vec3::Zero();
};

Shift shiftOf(const Span& from, const Span& to) {
    const bool same = from.radiusM == to.radiusM && std::abs(from.lengthM - to.lengthM) < kRoundingM &&
                      (from.direction - to.direction).norm() < kRoundingM;
    return {same, to.centreM - from.centreM};
}

using SpanPair = std::pair<std::size_t, std::size_t>;

/// A matrix row by row, its real and its imaginary part apart, each row filled up to whole registers.
struct Split {
    using Rows = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;
    Rows re;
    Rows im;

    Split(Eigen::Index rows, Eigen::Index columns)
        : re(Rows::Zero(rows, (columns + kRegister - 1) / kRegister * kRegister)),
          im(Rows::Zero(rows, re.cols())) {}
    explicit Split(const MatrixXc& m) : Split(m.rows(), m.cols()) {
        re.leftCols(m.cols()) = m.real();
        im.leftCols(m.cols()) = m.imag();
    }

    /// Adds a multiple of a row of another matrix to a row of this one.
    void addRow(Eigen::Index to, Complex by, const Split& other, Eigen::Index from) {
        const double a = by.real();
        const double b = by.imag();
        const double* __restrict xRe = other.re.row(from).data();
        const double* __restrict xIm = other.im.row(from).data();
        double* __restrict yRe = re.row(to).data();
        double* __restrict yIm = im.row(to).data();
        for (Eigen::Index c = 0; c < re.cols(); ++c) {
            yRe[c] += a * xRe[c] - b * xIm[c];
            yIm[c] += a * xIm[c] + b * xRe[c];
        }
    }
};

/// The pairs, the first not after the second, that act on each other otherwise than before.
std::vector<SpanPair> movedPairs(const Mesh& moved, const Mesh& mesh, double frequencyHz) {
    const bool free = mesh.ground.kind == model::GroundKind::FreeSpace;
    std::vector<Shift> shifts;
    for (std::size_t s = 0; s < mesh.spans.size(); ++s) {
        shifts.push_back(shiftOf(mesh.spans[s], moved.spans[s]));
        if (moved.wireMaterial[moved.spans[s].wire].impedancePerM(frequencyHz) !=
            mesh.wireMaterial[mesh.spans[s].wire].impedancePerM(frequencyHz))
            shifts.back().rigid = false;
    }
    std::vector<SpanPair> pairs;
    for (std::size_t row = 0; row < shifts.size(); ++row)
        for (std::size_t column = row; column < shifts.size(); ++column) {
            const Shift& a = shifts[row];
            const Shift& b = shifts[column];
            // What moves together, and over ground at the same height, acts on each other as before.
            const bool together = a.rigid && b.rigid && (a.by - b.by).norm() < kRoundingM &&
                                  (free || std::abs(a.by.z()) < kRoundingM);
            if (!together) pairs.emplace_back(row, column);
        }
    return pairs;
}

}  // namespace

MatrixXc movedMomentsTimes(const Mesh& moved, const Mesh& mesh, const MatrixXc& moments, double frequencyHz,
                           const MatrixXc& x) {
    const SpanBlocks blocks(moved, frequencyHz);
    const std::vector<SpanPair> pairs = movedPairs(moved, mesh, frequencyHz);
    const Split currents(x);
    Split product(x.rows(), x.cols());
    std::vector<Block> filled(std::min(pairs.size(), kBlocksAtOnce));
    for (std::size_t from = 0; from < pairs.size(); from += kBlocksAtOnce) {
        const std::size_t count = std::min(kBlocksAtOnce, pairs.size() - from);
        const auto fill = [&](std::size_t i) {
            blocks.fill(pairs[from + i].first, pairs[from + i].second, filled[i]);
        };
        if (mesh.functions.size() < kParallelUnknowns)
            for (std::size_t i = 0; i < count; ++i) fill(i);
        else
            parallelFor(std::size_t{0}, count, fill);
        for (std::size_t i = 0; i < count; ++i) {
            const auto& [row, column] = pairs[from + i];
            const auto countA = static_cast<Eigen::Index>(basisOf(mesh.spans[row]).count);
            const auto countB = static_cast<Eigen::Index>(basisOf(mesh.spans[column]).count);
            const auto a = static_cast<Eigen::Index>(mesh.spans[row].firstLocal);
            const auto b = static_cast<Eigen::Index>(mesh.spans[column].firstLocal);
            const Block& block = filled[i];
            for (Eigen::Index m = 0; m < countA; ++m)
                for (Eigen::Index n = 0; n < countB; ++n) {
                    // On the diagonal the lower triangle alone counts.
                    if (row == column && n < m) continue;
                    const Complex by = Complex(-block.im[m][n], block.re[m][n]) - moments(b + n, a + m);
                    product.addRow(b + n, by, currents, a + m);
                    if (a + m != b + n) product.addRow(a + m, by, currents, b + n);
                }
        }
    }
    MatrixXc joined(x.rows(), x.cols());
    joined.real() = product.re.leftCols(x.cols());
    joined.imag() = product.im.leftCols(x.cols());
    return joined;
}

}  // namespace rm::em
