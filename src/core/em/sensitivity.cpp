#include "core/em/sensitivity.h"

#include "core/em/dense_lu.h"

namespace rm::em {

namespace {

/// a^T b, entry by entry: the matrices are slim.
MatrixXc transposedTimes(const MatrixXc& a, const MatrixXc& b) {
    MatrixXc out(a.cols(), b.cols());
    for (Eigen::Index r = 0; r < a.cols(); ++r)
        for (Eigen::Index c = 0; c < b.cols(); ++c) out(r, c) = a.col(r).cwiseProduct(b.col(c)).sum();
    return out;
}

}  // namespace

FactoredPorts::FactoredPorts(std::shared_ptr<const Mesh> mesh, double frequencyHz,
                             const std::stop_token& stop)
    : factors_(momentMatrix(*mesh, frequencyHz, stop)) {
    factorLu(factors_, pivots_, stop);
    const MatrixXc weights = portWeightMatrix(*mesh);
    currents_ = weights;
    solveFactored(factors_, pivots_, currents_);
    solution_.frequencyHz = frequencyHz;
    solution_.unknowns = pivots_.size();
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
    solveFactored(factors_, pivots_, dx);
    d.localCurrents = localCurrents(mesh, dx);
    return d;
}

}  // namespace rm::em
