#include "core/study/rational.h"

#include <algorithm>
#include <cmath>

#include "core/linear.h"

namespace rm::study {

namespace {

constexpr double kExact = 1e-11;  ///< relative residual at which no more support is needed

}  // namespace

RationalModel::RationalModel(std::vector<double> x, std::vector<Eigen::VectorXcd> samples)
    : x_(std::move(x)), samples_(std::move(samples)) {
    const std::size_t n = x_.size();
    const Eigen::Index components = samples_.front().size();
    // Every component counts by its own size.
    Eigen::VectorXd scale = Eigen::VectorXd::Constant(components, 1e-300);
    for (const auto& s : samples_) scale = scale.cwiseMax(s.cwiseAbs());
    std::vector<bool> isSupport(n, false);
    Eigen::VectorXcd mean = Eigen::VectorXcd::Zero(components);
    for (const auto& s : samples_) mean += s / static_cast<double>(n);
    std::vector<Eigen::VectorXcd> now(n, mean);
    // With m support points the weights have m - 1 freedoms and the others n - m conditions each component.
    const std::size_t most = std::max<std::size_t>(1, (n + 1) / 2);
    while (support_.size() < most) {
        std::size_t worst = 0;
        double largest = -1.0;
        for (std::size_t i = 0; i < n; ++i) {
            if (isSupport[i]) continue;
            const double error = ((samples_[i] - now[i]).cwiseAbs().cwiseQuotient(scale)).maxCoeff();
            if (error > largest) {
                largest = error;
                worst = i;
            }
        }
        if (largest < kExact && !support_.empty()) break;
        isSupport[worst] = true;
        support_.push_back(worst);
        const auto m = static_cast<Eigen::Index>(support_.size());
        const std::size_t rest = n - support_.size();
        Eigen::MatrixXcd loewner(static_cast<Eigen::Index>(rest) * components, m);
        Eigen::Index row = 0;
        for (std::size_t i = 0; i < n; ++i) {
            if (isSupport[i]) continue;
            for (Eigen::Index j = 0; j < m; ++j) {
                const std::size_t s = support_[static_cast<std::size_t>(j)];
                loewner.col(j).segment(row, components) =
                    (samples_[i] - samples_[s]).cwiseQuotient(scale.cast<Complex>()) / (x_[i] - x_[s]);
            }
            row += components;
        }
        weight_ = smallestRightSingularVector(std::move(loewner));
        for (std::size_t i = 0; i < n; ++i)
            if (!isSupport[i]) now[i] = at(x_[i]);
    }
}

Eigen::VectorXcd RationalModel::at(double x) const {
    Eigen::VectorXcd numerator = Eigen::VectorXcd::Zero(samples_.front().size());
    Complex denominator = 0.0;
    for (std::size_t j = 0; j < support_.size(); ++j) {
        const double gap = x - x_[support_[j]];
        if (gap == 0.0) return samples_[support_[j]];
        const Complex part = weight_(static_cast<Eigen::Index>(j)) / gap;
        numerator += part * samples_[support_[j]];
        denominator += part;
    }
    return numerator / denominator;
}

}  // namespace rm::study
