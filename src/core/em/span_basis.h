// The local functions of a span written in Legendre polynomials of its coordinate t in (-1, 1):
// 0: (P0 - P1)/2, 1: (P0 + P1)/2, and p >= 2: (P_p - P_{p-2})/(2p - 1), the integral of P_{p-1}.
#pragma once

#include "core/em/mesh.h"

namespace rm::em {

/// Turns Legendre moments, given by `moment(degree)`, into the moment of local function number `function`.
template <typename Get>
auto currentMoment(int function, const Get& moment) {
    if (function == 0) return 0.5 * (moment(0) - moment(1));
    if (function == 1) return 0.5 * (moment(0) + moment(1));
    return (moment(function) - moment(function - 2)) * (1.0 / (2.0 * function - 1.0));
}

/// The same for the derivative of the local function with respect to t: -+P0/2 and P_{p-1}.
template <typename Get>
auto chargeMoment(int function, const Get& moment) {
    if (function == 0) return -0.5 * moment(0);
    if (function == 1) return 0.5 * moment(0);
    return 1.0 * moment(function - 1);
}

/// Coefficient of P_degree in the current of a span, from the coefficients of all local functions (A).
inline Complex legendreSeries(const Span& span, const Eigen::VectorXcd& local, std::size_t degree) {
    const auto at = [&](std::size_t i) { return local(static_cast<Eigen::Index>(span.firstLocal + i)); };
    const auto order = static_cast<std::size_t>(span.order);
    Complex c = 0.0;
    if (degree == 0) c = 0.5 * (at(0) + at(1));
    if (degree == 1) c = 0.5 * (at(1) - at(0));
    if (degree >= 2 && degree <= order) c = at(degree) / (2.0 * static_cast<double>(degree) - 1.0);
    if (degree + 2 <= order) c -= at(degree + 2) / (2.0 * static_cast<double>(degree) + 3.0);
    return c;
}

}  // namespace rm::em
