#include "core/em/solver.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/em/dense_lu.h"
#include "core/em/equal_wires.h"
#include "core/em/mirror.h"
#include "core/em/parallel.h"
#include "core/em/rotational.h"
#include "core/em/span_basis.h"
#include "core/em/span_blocks.h"
#include "core/memory.h"
#include "core/model/checks.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

/// Writes a block into the lower triangle of the local functions.
void writeBlock(const Span& a, const Span& b, const Block& block, MatrixXc& local) {
    const auto countA = static_cast<std::size_t>(basisOf(a).count);
    const auto countB = static_cast<std::size_t>(basisOf(b).count);
    for (std::size_t i = 0; i < countA; ++i)
        for (std::size_t j = 0; j < countB; ++j)
            local(static_cast<Eigen::Index>(b.firstLocal + j), static_cast<Eigen::Index>(a.firstLocal + i)) =
                Complex(-block.im[i][j], block.re[i][j]);  // times j
}

}  // namespace

MatrixXc joinedMoments(const Mesh& mesh, const MatrixXc& local, const std::stop_token& stop) {
    const auto n = static_cast<Eigen::Index>(mesh.functions.size());
    MatrixXc joined(n, n);
    const auto column = [&](Eigen::Index c) {
        endWhere(stop);
        for (Eigen::Index r = c; r < n; ++r) {
            const Complex sum =
                joinedMoment(mesh, local, static_cast<std::size_t>(c), static_cast<std::size_t>(r));
            joined(r, c) = sum;
            joined(c, r) = sum;
        }
    };
    if (mesh.functions.size() < kParallelUnknowns)
        for (Eigen::Index c = 0; c < n; ++c) column(c);
    else
        parallelFor(Eigen::Index{0}, n, column);
    return joined;
}

MatrixXc localMoments(const Mesh& mesh, double frequencyHz, const std::stop_token& stop) {
    // The local functions and what joins them stand side by side for a while.
    const double functions = static_cast<double>(mesh.functions.size());
    const double locals = static_cast<double>(mesh.localCount);
    requireMemory(mesh.functions.size(), sizeof(Complex) * (locals * locals + functions * functions));
    const SpanBlocks blocks(mesh, frequencyHz, stop);
    std::vector<std::size_t> all(mesh.spans.size());
    std::iota(all.begin(), all.end(), std::size_t{0});
    blocks.prepare(all, all);
    const auto size = static_cast<Eigen::Index>(mesh.localCount);
    MatrixXc local(size, size);
    const auto fill = [&](std::size_t row, std::size_t column) {
        Block block;
        blocks.fill(row, column, block);
        writeBlock(mesh.spans[row], mesh.spans[column], block, local);
    };
    if (mesh.functions.size() < kParallelUnknowns) {
        for (std::size_t row = 0; row < mesh.spans.size(); ++row) {
            endWhere(stop);
            for (std::size_t column = row; column < mesh.spans.size(); ++column) fill(row, column);
        }
        return local;
    }
    const EqualWires wires(mesh, wavenumber(frequencyHz), stop);
    const auto rows = wires.rows();
    // What is further on has fewer behind it; small chunks let the scheduler even that out.
    parallelRanges(rows.size(), 1, [&](const auto& range) {
        for (std::size_t piece = range.begin(); piece < range.end(); ++piece)
            wires.forPairs(rows[piece], [&](std::size_t row, std::size_t column) {
                endWhere(stop);
                fill(row, column);
            });
    });
    wires.copyEqual(local, stop);
    return local;
}

MatrixXc momentMatrix(const Mesh& mesh, double frequencyHz, const std::stop_token& stop) {
    return joinedMoments(mesh, localMoments(mesh, frequencyHz, stop), stop);
}

void solveLinear(MatrixXc& matrix, MatrixXc& rhs, const std::stop_token& stop) {
    if (matrix.rows() == 0) throw Error(say("The model has no conductors to solve."));
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

MatrixXc joinedRows(const Mesh& mesh, const MatrixXc& local) {
    MatrixXc joined(static_cast<Eigen::Index>(mesh.functions.size()), local.cols());
    for (Eigen::Index i = 0; i < joined.rows(); ++i) {
        const auto& f = mesh.functions[static_cast<std::size_t>(i)];
        joined.row(i) = f.first.sign * local.row(static_cast<Eigen::Index>(f.first.local));
        if (f.second.sign != 0.0)
            joined.row(i) += f.second.sign * local.row(static_cast<Eigen::Index>(f.second.local));
    }
    return joined;
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
    if (const auto rotation = findRotation(*mesh))
        return solveRotational(std::move(mesh), *rotation, frequencyHz, stop);
    const MatrixXc weights = portWeightMatrix(*mesh);
    MatrixXc currents = weights;
    const auto mirror = mesh->functions.size() < kMirroredUnknowns ? std::nullopt : findMirror(*mesh);
    if (mirror) {
        currents = solveMirrored(*mesh, *mirror, localMoments(*mesh, frequencyHz, stop), weights, stop);
    } else {
        MatrixXc matrix = momentMatrix(*mesh, frequencyHz, stop);
        solveLinear(matrix, currents, stop);
    }
    PortSolution solution;
    solution.frequencyHz = frequencyHz;
    solution.unknowns = static_cast<std::size_t>(currents.rows());
    solution.admittance = weights.transpose() * currents;
    solution.localCurrents = localCurrents(*mesh, currents);
    solution.mesh = std::move(mesh);
    return solution;
}

}  // namespace rm::em
