// The local functions of a span, written in Legendre polynomials of its coordinate t in (-1, 1).
//
// An inner span of order p has p + 1: number 0 falls from 1 at the start to 0 at the end, (P0 - P1)/2, number
// 1 rises, (P0 + P1)/2, and number n >= 2 is the integral of P_{n-1}, (P_n - P_{n-2})/(2n - 1), zero at both
// ends.
//
// A span at an open end has one: the end function, 1 where it joins and 0 at the open end, which carries the
// charge that crowds there. It is universal: docs/theory.md, "Open ends".
#pragma once

#include "core/em/mesh.h"
#include "core/em/quadrature.h"

namespace rm::em {

/// Legendre series of all local functions of a kind of span.
struct SpanBasis {
    using Rows = std::array<std::array<double, kLanes>, kLanes>;
    int count = 0;   ///< local functions
    int degree = 0;  ///< of the highest polynomial
    Rows current{};  ///< [function][degree]: the function
    Rows charge{};   ///< [function][degree]: its derivative with respect to t

    /// The same by degree, [degree][function], so that all functions stand side by side in a register.
    alignas(64) Rows currentByDegree{};
    alignas(64) Rows chargeByDegree{};
};

/// The basis of a span by its kind and order.
const SpanBasis& basisOf(const Span& span);

/// Length of the span at an open end in wire radii, and the Legendre series of the end function on it, from
/// the joint (t = -1) to the open end (t = 1). Computed from long thin wires with a span of order 7 there:
/// the same to four digits whatever the wire (test "the end function is universal").
inline constexpr double kEndSpanRadii = 8.0;
/// How much longer in radii a wire has to be for one polynomial of degree 7 to hold the charge that its open
/// end holds: that charge goes like the inverse root of the distance, which no polynomial does. The same for
/// every wire, and found so by meshes that are refined towards the end (docs/theory.md, "Open ends"; test
/// "the end function with its correction is the limit of refined ends").
inline constexpr double kEndCorrectionRadii = 0.0346;
/// The same for a span at an open end without that function: this much of its length, over the square of its
/// order, as for any polynomial at an inverse root (docs/theory.md, "Open ends"; test "a plain end with its
/// correction is the limit of refined ends").
inline constexpr double kPlainEndCorrection = 0.17;
inline constexpr std::array<double, kLanes> kEndFunction = {0.59027,  -0.43932, -0.04789, -0.02741,
                                                            -0.02173, -0.01655, -0.02066, -0.01673};

/// Coefficient of P_degree in the current of a span, from the coefficients of all local functions (A).
inline Complex legendreSeries(const Span& span, const Eigen::VectorXcd& local, std::size_t degree) {
    const SpanBasis& basis = basisOf(span);
    Complex c = 0.0;
    for (std::size_t f = 0; f < static_cast<std::size_t>(basis.count); ++f)
        c += basis.current[f][degree] * local(static_cast<Eigen::Index>(span.firstLocal + f));
    return c;
}

}  // namespace rm::em
