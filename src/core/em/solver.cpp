#include "core/em/solver.h"

#include <cblas.h>
#include <lapacke.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <cmath>

#include "core/em/conductor.h"
#include "core/em/pair_moments.h"
#include "core/em/span_basis.h"

namespace rm::em {

namespace {

/// Below this many unknowns threads cost more than they bring.
constexpr std::size_t kParallelUnknowns = 250;

using Block = std::array<std::array<Complex, kLanes>, kLanes>;

/// Adds factor * (vector and scalar potential terms) of the pair to the block of local functions.
void addPairBlock(const Span& a, const Span& b, const PairMoments& moments, double k, double factor, Block& block) {
    // In ohm: j eta0/(4 pi) [k (ua.ub) (La/2)(Lb/2) int int f f G - (1/k) int int f' f' G].
    const Complex scale(0.0, factor * kEta0 / (4.0 * kPi));
    const Complex vector = scale * k * a.direction.dot(b.direction) * a.halfM() * b.halfM();
    const Complex scalar = -scale / k;
    std::array<std::array<Complex, kLanes>, kLanes> currentRows;
    std::array<std::array<Complex, kLanes>, kLanes> chargeRows;
    for (int i = 0; i <= a.order; ++i)
        for (int n = 0; n <= b.order; ++n) {
            const auto column = [&](int m) {
                const auto r = static_cast<std::size_t>(m);
                const auto c = static_cast<std::size_t>(n);
                return Complex(moments.re[r][c], moments.im[r][c]);
            };
            currentRows[static_cast<std::size_t>(i)][static_cast<std::size_t>(n)] = currentMoment(i, column);
            chargeRows[static_cast<std::size_t>(i)][static_cast<std::size_t>(n)] = chargeMoment(i, column);
        }
    for (int i = 0; i <= a.order; ++i)
        for (int j = 0; j <= b.order; ++j) {
            const auto& current = currentRows[static_cast<std::size_t>(i)];
            const auto& charge = chargeRows[static_cast<std::size_t>(i)];
            block[static_cast<std::size_t>(i)][static_cast<std::size_t>(j)] +=
                vector * currentMoment(j, [&](int n) { return current[static_cast<std::size_t>(n)]; }) +
                scalar * chargeMoment(j, [&](int n) { return charge[static_cast<std::size_t>(n)]; });
        }
}

/// Adds the conductor loss of a span: z int f_i f_j ds, from int P_m P_n dt = 2/(2m + 1).
void addLoss(const Span& span, Complex impedancePerM, Block& block) {
    for (int i = 0; i <= span.order; ++i)
        for (int j = 0; j <= span.order; ++j) {
            const auto overlap = [&](int m) {
                return currentMoment(j, [&](int n) { return m == n ? Complex(2.0 / (2.0 * m + 1.0)) : Complex(0.0); });
            };
            block[static_cast<std::size_t>(i)][static_cast<std::size_t>(j)] +=
                impedancePerM * span.halfM() * currentMoment(i, overlap);
        }
}

/// Fills rows of local functions of span `row` against the spans from `row` on, both triangles.
void fillRow(const Mesh& mesh, std::size_t row, double k, double frequencyHz, MatrixXc& local) {
    const Span& a = mesh.spans[row];
    const bool image = mesh.ground.kind == model::GroundKind::Perfect;
    PairMoments moments;
    for (std::size_t column = row; column < mesh.spans.size(); ++column) {
        const Span& b = mesh.spans[column];
        Block block{};
        pairMoments(a, b, k, moments);
        addPairBlock(a, b, moments, k, 1.0, block);
        if (image) {
            // The image carries the mirrored current reversed, and the opposite charge.
            const Span mirror = b.mirrored();
            pairMoments(a, mirror, k, moments);
            addPairBlock(a, mirror, moments, k, -1.0, block);
        }
        if (column == row)
            addLoss(a, wireImpedancePerM(frequencyHz, a.radiusM, mesh.wireConductivity[a.wire]), block);
        for (int i = 0; i <= a.order; ++i)
            for (int j = 0; j <= b.order; ++j) {
                const auto r = static_cast<Eigen::Index>(a.firstLocal) + i;
                const auto c = static_cast<Eigen::Index>(b.firstLocal) + j;
                const Complex value = block[static_cast<std::size_t>(i)][static_cast<std::size_t>(j)];
                local(c, r) = value;
                if (column != row) local(r, c) = value;
            }
    }
}

/// Joins local functions into basis functions: rows and columns added with their signs.
MatrixXc joinLocals(const Mesh& mesh, const MatrixXc& local) {
    const auto n = static_cast<Eigen::Index>(mesh.functions.size());
    MatrixXc rows(n, local.cols());
    for (Eigen::Index c = 0; c < local.cols(); ++c)
        for (Eigen::Index r = 0; r < n; ++r) {
            const auto& f = mesh.functions[static_cast<std::size_t>(r)];
            Complex sum = f.first.sign * local(static_cast<Eigen::Index>(f.first.local), c);
            if (f.second.sign != 0.0) sum += f.second.sign * local(static_cast<Eigen::Index>(f.second.local), c);
            rows(r, c) = sum;
        }
    MatrixXc joined(n, n);
    for (Eigen::Index c = 0; c < n; ++c) {
        const auto& f = mesh.functions[static_cast<std::size_t>(c)];
        joined.col(c) = f.first.sign * rows.col(static_cast<Eigen::Index>(f.first.local));
        if (f.second.sign != 0.0)
            joined.col(c) += f.second.sign * rows.col(static_cast<Eigen::Index>(f.second.local));
    }
    return joined;
}

}  // namespace

MatrixXc momentMatrix(const Mesh& mesh, double frequencyHz) {
    if (mesh.ground.kind == model::GroundKind::Real)
        throw Error("This design stands on real ground, which the engine does not model yet: "
                    "choose free space or perfect ground.");
    const double k = wavenumber(frequencyHz);
    const auto size = static_cast<Eigen::Index>(mesh.localCount);
    MatrixXc local(size, size);
    const std::size_t spans = mesh.spans.size();
    if (mesh.functions.size() < kParallelUnknowns) {
        for (std::size_t row = 0; row < spans; ++row) fillRow(mesh, row, k, frequencyHz, local);
    } else {
        // Rows get shorter as they go; small chunks let the scheduler even that out.
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, spans, 1), [&](const auto& range) {
            for (std::size_t row = range.begin(); row < range.end(); ++row)
                fillRow(mesh, row, k, frequencyHz, local);
        });
    }
    return joinLocals(mesh, local);
}

void solveLinear(MatrixXc& matrix, MatrixXc& rhs) {
    const auto n = static_cast<lapack_int>(matrix.rows());
    const auto count = static_cast<lapack_int>(rhs.cols());
    if (n == 0) throw Error("The model has no conductors to solve.");
    openblas_set_num_threads(n < static_cast<lapack_int>(kParallelUnknowns) ? 1 : 2);
    std::vector<lapack_int> pivots(static_cast<std::size_t>(n));
    auto* a = reinterpret_cast<lapack_complex_double*>(matrix.data());
    auto* b = reinterpret_cast<lapack_complex_double*>(rhs.data());
    // LU with partial pivoting: measured faster here than the symmetric factorisation (see bench/).
    const lapack_int failed = LAPACKE_zgesv(LAPACK_COL_MAJOR, n, count, a, n, pivots.data(), b, n);
    if (failed != 0) throw Error("The equations of this model have no single solution: look for wires that lie on each other.");
}

PortSolution solvePorts(std::shared_ptr<const Mesh> mesh, double frequencyHz) {
    MatrixXc matrix = momentMatrix(*mesh, frequencyHz);
    const auto n = matrix.rows();
    const auto portCount = static_cast<Eigen::Index>(mesh->ports.size());

    // Port weights in the basis: each basis function collects those of its local functions.
    MatrixXc weights = MatrixXc::Zero(n, portCount);
    for (Eigen::Index p = 0; p < portCount; ++p) {
        std::vector<double> local(mesh->localCount, 0.0);
        for (const auto& term : portWeights(*mesh, static_cast<std::size_t>(p))) local[term.local] += term.sign;
        for (Eigen::Index i = 0; i < n; ++i) {
            const auto& f = mesh->functions[static_cast<std::size_t>(i)];
            weights(i, p) = f.first.sign * local[f.first.local] + f.second.sign * local[f.second.local];
        }
    }
    MatrixXc currents = weights;
    solveLinear(matrix, currents);

    PortSolution solution;
    solution.frequencyHz = frequencyHz;
    solution.unknowns = static_cast<std::size_t>(n);
    solution.admittance = weights.transpose() * currents;
    solution.localCurrents = MatrixXc::Zero(static_cast<Eigen::Index>(mesh->localCount), portCount);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto& f = mesh->functions[static_cast<std::size_t>(i)];
        solution.localCurrents.row(static_cast<Eigen::Index>(f.first.local)) += f.first.sign * currents.row(i);
        if (f.second.sign != 0.0)
            solution.localCurrents.row(static_cast<Eigen::Index>(f.second.local)) += f.second.sign * currents.row(i);
    }
    solution.mesh = std::move(mesh);
    return solution;
}

}  // namespace rm::em
