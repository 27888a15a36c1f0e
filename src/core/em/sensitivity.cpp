#include "core/em/sensitivity.h"

#include <lapacke.h>

#include "core/em/lapack_threads.h"

namespace rm::em {

namespace {

lapack_complex_double* raw(MatrixXc& m) {
    return reinterpret_cast<lapack_complex_double*>(m.data());
}

const lapack_complex_double* raw(const MatrixXc& m) {
    return reinterpret_cast<const lapack_complex_double*>(m.data());
}

/// a^T b, entry by entry: the matrices are slim.
MatrixXc transposedTimes(const MatrixXc& a, const MatrixXc& b) {
    MatrixXc out(a.cols(), b.cols());
    for (Eigen::Index r = 0; r < a.cols(); ++r)
        for (Eigen::Index c = 0; c < b.cols(); ++c) out(r, c) = a.col(r).cwiseProduct(b.col(c)).sum();
    return out;
}

}  // namespace

FactoredPorts::FactoredPorts(std::shared_ptr<const Mesh> mesh, double frequencyHz)
    : factors_(momentMatrix(*mesh, frequencyHz)) {
    const auto n = static_cast<lapack_int>(factors_.rows());
    pivots_.resize(static_cast<std::size_t>(n));
    setLapackThreads(pivots_.size());
    if (LAPACKE_zgetrf(LAPACK_COL_MAJOR, n, n, raw(factors_), n, pivots_.data()) != 0)
        throw Error("The antenna cannot be solved at this frequency: its matrix is singular.");
    const MatrixXc weights = portWeightMatrix(*mesh);
    currents_ = weights;
    LAPACKE_zgetrs(LAPACK_COL_MAJOR, 'N', n, static_cast<lapack_int>(currents_.cols()), raw(factors_), n,
                   pivots_.data(), raw(currents_), n);
    solution_.frequencyHz = frequencyHz;
    solution_.unknowns = static_cast<std::size_t>(n);
    solution_.admittance = transposedTimes(weights, currents_);
    solution_.localCurrents = localCurrents(*mesh, currents_);
    solution_.mesh = std::move(mesh);
}

std::optional<PortDerivative> FactoredPorts::derivative(const Mesh& plus, const Mesh& minus,
                                                        double step) const {
    const Mesh& mesh = *solution_.mesh;
    for (const Mesh* other : {&plus, &minus}) {
        if (other->functions.size() != mesh.functions.size() || other->spans.size() != mesh.spans.size() ||
            other->localCount != mesh.localCount || other->ports.size() != mesh.ports.size())
            return std::nullopt;
        for (std::size_t s = 0; s < mesh.spans.size(); ++s)
            if (other->spans[s].order != mesh.spans[s].order) return std::nullopt;
    }
    const double hz = solution_.frequencyHz;
    const MatrixXc dz = momentDifference(plus, minus, hz) / (2.0 * step);
    const MatrixXc dw = (portWeightMatrix(plus) - portWeightMatrix(minus)) / (2.0 * step);
    const MatrixXc dzx = dz * currents_;
    PortDerivative d;
    d.admittance =
        transposedTimes(currents_, dw) + transposedTimes(dw, currents_) - transposedTimes(currents_, dzx);
    MatrixXc dx = dw - dzx;
    const auto n = static_cast<lapack_int>(factors_.rows());
    LAPACKE_zgetrs(LAPACK_COL_MAJOR, 'N', n, static_cast<lapack_int>(dx.cols()), raw(factors_), n,
                   pivots_.data(), raw(dx), n);
    d.localCurrents = localCurrents(mesh, dx);
    return d;
}

}  // namespace rm::em
