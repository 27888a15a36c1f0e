// A rational function through samples of several quantities with common poles: what turns ten solutions into
// a curve of hundreds of points.
#pragma once

#include <Eigen/Core>
#include <vector>

#include "core/common.h"

namespace rm::study {

/// Barycentric rational interpolant of vector-valued samples. Source: Y. Nakatsukasa, O. Sete and L. N.
/// Trefethen, "The AAA algorithm for rational approximation", SIAM J. Sci. Comput. 40 (2018), with one set of
/// weights for all components. Support points are added where the error is largest; the weights minimise the
/// linearised error at the samples that are left.
class RationalModel {
  public:
    /// `samples[i]` belongs to x[i]; all have the same length. At least two samples, no two at the same x.
    RationalModel(std::vector<double> x, std::vector<Eigen::VectorXcd> samples);

    Eigen::VectorXcd at(double x) const;
    std::size_t supportCount() const { return support_.size(); }

  private:
    std::vector<double> x_;
    std::vector<Eigen::VectorXcd> samples_;
    std::vector<std::size_t> support_;
    Eigen::VectorXcd weight_;
};

}  // namespace rm::study
