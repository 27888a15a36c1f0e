#include "core/em/sensitivity.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/em/dense_lu.h"
#include "core/em/ground/across_table.h"
#include "core/em/moved_moments.h"

namespace rm::em {

namespace {

/// Frequencies so close that the phase from end to end of the antenna differs by no more than this between
/// the outermost, rad: filled at two of them the middle is off by an eighth of the square, at three by the
/// cube over 125.
constexpr double kTwoWithin = 0.1;
constexpr double kThreeWithin = 0.8;

/// a^T b, entry by entry: the matrices are slim.
MatrixXc transposedTimes(const MatrixXc& a, const MatrixXc& b) {
    MatrixXc out(a.cols(), b.cols());
    for (Eigen::Index r = 0; r < a.cols(); ++r)
        for (Eigen::Index c = 0; c < b.cols(); ++c) out(r, c) = a.col(r).cwiseProduct(b.col(c)).sum();
    return out;
}

bool cutAlike(const Mesh& a, const Mesh& b) {
    return a.functions.size() == b.functions.size() && a.localCount == b.localCount &&
           a.ports.size() == b.ports.size() &&
           std::equal(a.spans.begin(), a.spans.end(), b.spans.begin(), b.spans.end(),
                      [](const Span& one, const Span& other) { return one.order == other.order; });
}

/// The longest way that a wave goes from a span to another, over the ground, in m.
double reachOf(const Mesh& mesh) {
    Eigen::AlignedBox3d box;
    for (const Span& span : mesh.spans) {
        const Vec3 half = span.halfM() * span.direction.cwiseAbs();
        box.extend(span.centreM - half);
        box.extend(span.centreM + half);
    }
    Vec3 size = box.sizes();
    if (mesh.ground.kind != model::GroundKind::FreeSpace)
        size.z() = 2.0 * std::max(std::abs(box.min().z()), std::abs(box.max().z()));
    return size.norm();
}

/// Which of the frequencies are filled, the lowest first.
std::vector<std::size_t> nodesAmong(const std::vector<FactoredPorts>& solved) {
    std::vector<std::size_t> order(solved.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto hz = [&](std::size_t i) { return solved[i].solution().frequencyHz; };
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return hz(a) < hz(b); });
    const Mesh& mesh = *solved.front().solution().mesh;
    // Waves in the soil are shorter.
    double slower = 1.0;
    if (std::any_of(mesh.spans.begin(), mesh.spans.end(), [](const Span& s) { return s.inSoil; }))
        slower = std::sqrt(std::abs(groundTables(mesh.ground, hz(order.back()))->halfSpace().permittivity()));
    const double apart = wavenumber(hz(order.back())) - wavenumber(hz(order.front()));
    const double phase = apart * slower * reachOf(mesh);
    if (order.size() > 2 && phase < kTwoWithin) return {order.front(), order.back()};
    if (order.size() <= 3 || phase >= kThreeWithin) return order;
    const double middle = 0.5 * (hz(order.front()) + hz(order.back()));
    const auto nearest = std::min_element(
        order.begin() + 1, order.end() - 1,
        [&](std::size_t a, std::size_t b) { return std::abs(hz(a) - middle) < std::abs(hz(b) - middle); });
    return {order.front(), *nearest, order.back()};
}

}  // namespace

FactoredPorts::FactoredPorts(std::shared_ptr<const Mesh> mesh, double frequencyHz,
                             const std::stop_token& stop)
    : moments_(localMoments(*mesh, frequencyHz, stop)), factors_(joinedMoments(*mesh, moments_, stop)) {
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

std::size_t FactoredPorts::bytes() const {
    return static_cast<std::size_t>(moments_.size() + factors_.size()) * sizeof(Complex);
}

std::optional<std::vector<PortDerivative>> portDerivatives(const std::vector<FactoredPorts>& solved,
                                                           const Mesh& moved, double step) {
    if (solved.empty()) return std::vector<PortDerivative>();
    const Mesh& mesh = *solved.front().solution_.mesh;
    if (!cutAlike(mesh, moved)) return std::nullopt;
    const auto ports = static_cast<Eigen::Index>(mesh.ports.size());
    // dZ X of the basis functions, by frequency.
    std::vector<MatrixXc> changes(solved.size(),
                                  MatrixXc::Zero(static_cast<Eigen::Index>(mesh.functions.size()), ports));
    const std::vector<std::size_t> nodes = nodesAmong(solved);
    for (const std::size_t node : nodes) {
        const double hz = solved[node].solution_.frequencyHz;
        // The frequencies that this node counts for by Lagrange's polynomial, with their currents side by
        // side.
        std::vector<std::pair<std::size_t, double>> weights;
        for (std::size_t i = 0; i < solved.size(); ++i) {
            double weight = 1.0;
            for (const std::size_t other : nodes) {
                const double otherHz = solved[other].solution_.frequencyHz;
                if (other != node) weight *= (solved[i].solution_.frequencyHz - otherHz) / (hz - otherHz);
            }
            if (weight != 0.0) weights.emplace_back(i, weight);
        }
        MatrixXc currents(static_cast<Eigen::Index>(mesh.localCount),
                          ports * static_cast<Eigen::Index>(weights.size()));
        Eigen::Index column = 0;
        for (const auto& [i, weight] : weights) {
            currents.middleCols(column, ports) = weight * solved[i].solution_.localCurrents;
            column += ports;
        }
        const MatrixXc product =
            joinedRows(mesh, movedMomentsTimes(moved, mesh, solved[node].moments_, hz, currents));
        column = 0;
        for (const auto& [i, weight] : weights) {
            changes[i] += product.middleCols(column, ports);
            column += ports;
        }
    }
    const MatrixXc dw = (portWeightMatrix(moved) - portWeightMatrix(mesh)) / step;
    std::vector<PortDerivative> derivatives;
    for (std::size_t i = 0; i < solved.size(); ++i) {
        const FactoredPorts& at = solved[i];
        const MatrixXc dzx = changes[i] / step;
        PortDerivative d;
        d.admittance = transposedTimes(at.currents_, dw) + transposedTimes(dw, at.currents_) -
                       transposedTimes(at.currents_, dzx);
        MatrixXc dx = dw - dzx;
        solveFactored(at.factors_, at.pivots_, dx);
        d.localCurrents = localCurrents(mesh, dx);
        derivatives.push_back(std::move(d));
    }
    return derivatives;
}

}  // namespace rm::em
