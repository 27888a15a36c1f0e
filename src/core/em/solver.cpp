#include "core/em/solver.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/em/conductor.h"
#include "core/em/dense_lu.h"
#include "core/em/ground_moments.h"
#include "core/em/lanes.h"
#include "core/em/pair_cache.h"
#include "core/em/span_basis.h"
#include "core/memory.h"
#include "core/model/checks.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Pairs that a thread remembers.
constexpr std::size_t kRememberedPairs = 4000;
/// From here on threads cost less than they bring to the fill.
constexpr std::size_t kParallelUnknowns = 250;

/// Interactions of the local functions of two spans divided by j: [function on a][function on b].
struct Block {
    alignas(64) double re[kLanes][kLanes];
    alignas(64) double im[kLanes][kLanes];
};

/// The kernels of a pair of spans with their factors: vector (current and current), scalar (charge and
/// charge), and mixed (current on one, charge on the other), where there is one.
struct PairTerms {
    const PairMoments* vector = nullptr;
    const PairMoments* scalar = nullptr;
    const PairMoments* mixed = nullptr;
    double vectorFactor = 0.0;
    double scalarFactor = 0.0;
    double currentOnA = 0.0;  ///< factor of mixed with the current on a
    double currentOnB = 0.0;
};

/// Moments of every function on a with the current and the charge of every polynomial on b.
struct HalfContracted {
    alignas(64) double currentRe[kLanes][kLanes];
    alignas(64) double currentIm[kLanes][kLanes];
    alignas(64) double chargeRe[kLanes][kLanes];
    alignas(64) double chargeIm[kLanes][kLanes];
};

/// row += factor * moments[m][.]
void addRow(double factor, const PairMoments& moments, std::size_t m, double* re, double* im) {
    lanesAt(re) += factor * lanesAt(moments.re[m].data());
    lanesAt(im) += factor * lanesAt(moments.im[m].data());
}

/// The second half, with every function on b side by side; `Count` functions on a keep their sums in
/// registers.
template <std::size_t Count>
void contractSecond(const HalfContracted& half, const SpanBasis& basisB, Block& block) {
    Lanes re[Count] = {};
    Lanes im[Count] = {};
    for (std::size_t n = 0; n <= static_cast<std::size_t>(basisB.degree); ++n) {
        const Lanes current = lanesAt(basisB.currentByDegree[n].data());
        const Lanes charge = lanesAt(basisB.chargeByDegree[n].data());
        for (std::size_t i = 0; i < Count; ++i) {
            re[i] += current * half.currentRe[i][n] + charge * half.chargeRe[i][n];
            im[i] += current * half.currentIm[i][n] + charge * half.chargeIm[i][n];
        }
    }
    for (std::size_t i = 0; i < Count; ++i) {
        lanesAt(block.re[i]) += re[i];
        lanesAt(block.im[i]) += im[i];
    }
}

/// Adds all terms of the pair to the block of local functions.
void addPairBlock(const Span& a, const Span& b, const PairTerms& terms, Block& block) {
    const SpanBasis& basisA = basisOf(a);
    const SpanBasis& basisB = basisOf(b);
    const auto count = static_cast<std::size_t>(basisA.count);
    HalfContracted half;
    for (std::size_t i = 0; i < count; ++i) {
        // Most functions have two terms.
        alignas(64) double rows[4][kLanes] = {};
        for (std::size_t m = 0; m <= static_cast<std::size_t>(basisA.degree); ++m) {
            if (const double current = basisA.current[i][m]; current != 0.0) {
                addRow(terms.vectorFactor * current, *terms.vector, m, rows[0], rows[1]);
                if (terms.currentOnA != 0.0)
                    addRow(terms.currentOnA * current, *terms.mixed, m, rows[2], rows[3]);
            }
            if (const double charge = basisA.charge[i][m]; charge != 0.0) {
                addRow(terms.scalarFactor * charge, *terms.scalar, m, rows[2], rows[3]);
                if (terms.currentOnB != 0.0)
                    addRow(terms.currentOnB * charge, *terms.mixed, m, rows[0], rows[1]);
            }
        }
        std::copy_n(rows[0], kLanes, half.currentRe[i]);
        std::copy_n(rows[1], kLanes, half.currentIm[i]);
        std::copy_n(rows[2], kLanes, half.chargeRe[i]);
        std::copy_n(rows[3], kLanes, half.chargeIm[i]);
    }
    static_assert(kMaxOrder + 1 == 8, "one case for every number of functions");
    switch (count) {
        case 1:
            return contractSecond<1>(half, basisB, block);
        case 2:
            return contractSecond<2>(half, basisB, block);
        case 3:
            return contractSecond<3>(half, basisB, block);
        case 4:
            return contractSecond<4>(half, basisB, block);
        case 5:
            return contractSecond<5>(half, basisB, block);
        case 6:
            return contractSecond<6>(half, basisB, block);
        case 7:
            return contractSecond<7>(half, basisB, block);
        default:
            return contractSecond<8>(half, basisB, block);
    }
}

/// In ohm: j eta0/(4 pi) [k (ua.ub) (La/2)(Lb/2) int int f f G - (1/k) int int f' f' G], times `sign`.
void addFreePair(const Span& a, const Span& b, const PairMoments& moments, double k, double sign,
                 Block& block) {
    PairTerms terms;
    terms.vector = terms.scalar = &moments;
    const double scale = sign * kEta0 / (4.0 * kPi);
    terms.vectorFactor = scale * k * a.direction.dot(b.direction) * a.halfM() * b.halfM();
    terms.scalarFactor = -scale / k;
    addPairBlock(a, b, terms, block);
}

/// The same with the kernels of the ground, and between current and charge with the vertical part of the
/// direction of the current.
void addGroundPair(const Span& a, const Span& b, const GroundMoments& moments, double k, Block& block) {
    const double scale = kEta0 / (4.0 * kPi);
    addPairBlock(a, b,
                 {&moments.vector, &moments.scalar, &moments.mixed, scale * k * a.halfM() * b.halfM(),
                  -scale / k, scale * a.direction.z() * a.halfM(), scale * b.direction.z() * b.halfM()},
                 block);
}

/// Adds the impedance along a span: z int f_i f_j ds, from int P_m P_n dt = 2/(2m + 1).
void addLoss(const Span& span, Complex impedancePerM, Block& block) {
    const SpanBasis& basis = basisOf(span);
    const auto count = static_cast<std::size_t>(basis.count);
    for (std::size_t i = 0; i < count; ++i)
        for (std::size_t j = 0; j < count; ++j) {
            double overlap = 0.0;
            for (std::size_t m = 0; m < kLanes; ++m)
                overlap +=
                    basis.current[i][m] * basis.current[j][m] * 2.0 / (2.0 * static_cast<double>(m) + 1.0);
            // Divided by j.
            const Complex loss = impedancePerM * span.halfM() * overlap;
            block.re[i][j] += loss.imag();
            block.im[i][j] -= loss.real();
        }
}

/// What a thread remembers of the pairs it has met, from one solution to the next: a dimension that changes
/// costs the pairs of the spans that move.
struct Caches {
    PairCache free{kRememberedPairs};
    GroundPairCache ground{kRememberedPairs};
};

Caches& cachesOfThread() {
    thread_local Caches caches;
    return caches;
}

/// Everything that a fill needs beside the mesh.
struct Fill {
    double k;
    double frequencyHz;
    std::shared_ptr<const GroundTable> table;

    Fill(const Mesh& mesh, double hz) : k(wavenumber(hz)), frequencyHz(hz) {
        if (mesh.ground.kind == model::GroundKind::Real) table = groundTable(mesh.ground, hz);
    }
};

/// The interactions of two spans of a mesh, divided by j; the block holds nothing before.
void fillBlock(const Mesh& mesh, std::size_t row, std::size_t column, const Fill& fill, Block& block) {
    Caches& caches = cachesOfThread();
    const Span& a = mesh.spans[row];
    const Span& b = mesh.spans[column];
    const auto countA = static_cast<std::size_t>(basisOf(a).count);
    std::fill_n(block.re[0], countA * kLanes, 0.0);
    std::fill_n(block.im[0], countA * kLanes, 0.0);
    addFreePair(a, b, caches.free.moments(a, b, fill.k), fill.k, 1.0, block);
    if (mesh.ground.kind == model::GroundKind::Perfect) {
        // The image carries the mirrored current reversed, and the opposite charge.
        const Span mirror = b.mirrored();
        addFreePair(a, mirror, caches.free.moments(a, mirror, fill.k), fill.k, -1.0, block);
    }
    if (fill.table) addGroundPair(a, b, caches.ground.moments(fill.table, a, b, caches.free), fill.k, block);
    if (column == row) addLoss(a, mesh.wireMaterial[a.wire].impedancePerM(fill.frequencyHz), block);
}

/// Writes a block, less another one where it is given, into the lower triangle of the local functions.
void writeBlock(const Span& a, const Span& b, const Block& block, const Block* less, MatrixXc& local) {
    const auto countA = static_cast<std::size_t>(basisOf(a).count);
    const auto countB = static_cast<std::size_t>(basisOf(b).count);
    for (std::size_t i = 0; i < countA; ++i)
        for (std::size_t j = 0; j < countB; ++j) {
            Complex value(-block.im[i][j], block.re[i][j]);  // times j
            if (less != nullptr) value -= Complex(-less->im[i][j], less->re[i][j]);
            local(static_cast<Eigen::Index>(b.firstLocal + j), static_cast<Eigen::Index>(a.firstLocal + i)) =
                value;
        }
}

/// Calls `row` for the row of every span, in parallel where that pays.
template <typename Row>
void forRows(const Mesh& mesh, const Row& row) {
    if (mesh.functions.size() < kParallelUnknowns) {
        for (std::size_t r = 0; r < mesh.spans.size(); ++r) row(r);
        return;
    }
    // Rows get shorter as they go; small chunks let the scheduler even that out.
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.spans.size(), 1), [&](const auto& range) {
        for (std::size_t r = range.begin(); r < range.end(); ++r) row(r);
    });
}

/// How a span lies in one mesh against another: where it went, if it went there as it was.
struct Shift {
    bool rigid = false;
    Vec3 by = Vec3::Zero();
};

/// Differences by rounding alone count as none.
constexpr double kRoundingM = 1e-12;

Shift shiftOf(const Span& from, const Span& to) {
    const bool same = from.radiusM == to.radiusM && std::abs(from.lengthM - to.lengthM) < kRoundingM &&
                      (from.direction - to.direction).norm() < kRoundingM;
    return {same, to.centreM - from.centreM};
}

/// Joins local functions into basis functions: the lower triangle of `local` to the whole of the matrix.
MatrixXc joinLocals(const Mesh& mesh, const MatrixXc& local, const std::stop_token& stop = {}) {
    const auto n = static_cast<Eigen::Index>(mesh.functions.size());
    const auto at = [&](const LocalTerm& a, const LocalTerm& b) {
        const auto row = static_cast<Eigen::Index>(std::max(a.local, b.local));
        const auto column = static_cast<Eigen::Index>(std::min(a.local, b.local));
        return (a.sign * b.sign) * local(row, column);
    };
    MatrixXc joined(n, n);
    for (Eigen::Index c = 0; c < n; ++c) {
        endWhere(stop);
        const auto& f = mesh.functions[static_cast<std::size_t>(c)];
        for (Eigen::Index r = c; r < n; ++r) {
            const auto& g = mesh.functions[static_cast<std::size_t>(r)];
            Complex sum = at(f.first, g.first);
            if (g.second.sign != 0.0) sum += at(f.first, g.second);
            if (f.second.sign != 0.0) {
                sum += at(f.second, g.first);
                if (g.second.sign != 0.0) sum += at(f.second, g.second);
            }
            joined(r, c) = sum;
            joined(c, r) = sum;
        }
    }
    return joined;
}

}  // namespace

void forgetPairs() {
    Caches& caches = cachesOfThread();
    caches.free.forget();
    caches.ground.forget();
}

MatrixXc momentMatrix(const Mesh& mesh, double frequencyHz, const std::stop_token& stop) {
    // The local functions and what joins them stand side by side for a while.
    const double functions = static_cast<double>(mesh.functions.size());
    const double locals = static_cast<double>(mesh.localCount);
    requireMemory(mesh.functions.size(), sizeof(Complex) * (locals * locals + functions * functions));
    const Fill fill(mesh, frequencyHz);
    const auto size = static_cast<Eigen::Index>(mesh.localCount);
    MatrixXc local(size, size);
    forRows(mesh, [&](std::size_t row) {
        endWhere(stop);
        for (std::size_t column = row; column < mesh.spans.size(); ++column) {
            Block block;
            fillBlock(mesh, row, column, fill, block);
            writeBlock(mesh.spans[row], mesh.spans[column], block, nullptr, local);
        }
    });
    return joinLocals(mesh, local, stop);
}

MatrixXc momentDifference(const Mesh& plus, const Mesh& minus, double frequencyHz) {
    const Fill fill(plus, frequencyHz);
    const auto size = static_cast<Eigen::Index>(plus.localCount);
    MatrixXc local = MatrixXc::Zero(size, size);
    const bool free = plus.ground.kind == model::GroundKind::FreeSpace;
    std::vector<Shift> shifts;
    for (std::size_t s = 0; s < plus.spans.size(); ++s) {
        const Span& span = plus.spans[s];
        shifts.push_back(shiftOf(minus.spans[s], span));
        if (plus.wireMaterial[span.wire].impedancePerM(frequencyHz) !=
            minus.wireMaterial[minus.spans[s].wire].impedancePerM(frequencyHz))
            shifts.back().rigid = false;
    }
    forRows(plus, [&](std::size_t row) {
        for (std::size_t column = row; column < plus.spans.size(); ++column) {
            const Shift& a = shifts[row];
            const Shift& b = shifts[column];
            // What moves together, and over ground at the same height, acts on each other as before.
            if (a.rigid && b.rigid && (a.by - b.by).norm() < kRoundingM &&
                (free || std::abs(a.by.z()) < kRoundingM))
                continue;
            Block further;
            Block back;
            fillBlock(plus, row, column, fill, further);
            fillBlock(minus, row, column, fill, back);
            writeBlock(plus.spans[row], plus.spans[column], further, &back, local);
        }
    });
    return joinLocals(plus, local);
}

void solveLinear(MatrixXc& matrix, MatrixXc& rhs, const std::stop_token& stop) {
    if (matrix.rows() == 0) throw Error("The model has no conductors to solve.");
    // LU with partial pivoting: measured faster here than the symmetric factorisation (see benchmarks/).
    std::vector<int> pivots;
    factorLu(matrix, pivots, stop);
    solveFactored(matrix, pivots, rhs);
}

MatrixXc portWeightMatrix(const Mesh& mesh) {
    // Each basis function collects the weights of its local functions.
    const auto n = static_cast<Eigen::Index>(mesh.functions.size());
    const auto portCount = static_cast<Eigen::Index>(mesh.ports.size());
    MatrixXc weights = MatrixXc::Zero(n, portCount);
    for (Eigen::Index p = 0; p < portCount; ++p) {
        std::vector<double> local(mesh.localCount, 0.0);
        for (const auto& term : portWeights(mesh, static_cast<std::size_t>(p)))
            local[term.local] += term.sign;
        for (Eigen::Index i = 0; i < n; ++i) {
            const auto& f = mesh.functions[static_cast<std::size_t>(i)];
            weights(i, p) = f.first.sign * local[f.first.local] + f.second.sign * local[f.second.local];
        }
    }
    return weights;
}

MatrixXc localCurrents(const Mesh& mesh, const MatrixXc& coefficients) {
    MatrixXc local = MatrixXc::Zero(static_cast<Eigen::Index>(mesh.localCount), coefficients.cols());
    for (Eigen::Index i = 0; i < coefficients.rows(); ++i) {
        const auto& f = mesh.functions[static_cast<std::size_t>(i)];
        local.row(static_cast<Eigen::Index>(f.first.local)) += f.first.sign * coefficients.row(i);
        if (f.second.sign != 0.0)
            local.row(static_cast<Eigen::Index>(f.second.local)) += f.second.sign * coefficients.row(i);
    }
    return local;
}

PortSolution solvePorts(std::shared_ptr<const Mesh> mesh, double frequencyHz, const std::stop_token& stop) {
    model::requireFrequency(frequencyHz);
    MatrixXc matrix = momentMatrix(*mesh, frequencyHz, stop);
    const MatrixXc weights = portWeightMatrix(*mesh);
    MatrixXc currents = weights;
    solveLinear(matrix, currents, stop);
    PortSolution solution;
    solution.frequencyHz = frequencyHz;
    solution.unknowns = static_cast<std::size_t>(currents.rows());
    solution.admittance = weights.transpose() * currents;
    solution.localCurrents = localCurrents(*mesh, currents);
    solution.mesh = std::move(mesh);
    return solution;
}

}  // namespace rm::em
