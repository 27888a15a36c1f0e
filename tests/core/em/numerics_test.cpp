// The tables and array functions under the engine against the library's own and against integrals.
#include <catch2/catch.hpp>
#include <cmath>
#include <functional>
#include <vector>

#include "core/em/ground/chebyshev.h"
#include "core/em/ground/complex_bessel.h"
#include "core/em/kernel_arrays.h"
#include "core/em/product_rule.h"

using namespace rm;
using namespace rm::em;

namespace {

/// J0(z) = (1/pi) int_0^pi cos(z sin t) dt: the trapezoidal rule is exact to the last digits.
Complex besselByIntegral(Complex z) {
    constexpr int kPoints = 400;
    Complex sum = 0.0;
    for (int i = 0; i < kPoints; ++i) sum += std::cos(z * std::sin(kPi * (i + 0.5) / kPoints));
    return sum / static_cast<double>(kPoints);
}

/// H0^(2)(z) exp(j z) by K0(w) = int_0^inf exp(-w cosh t) dt with w = j z, along a path on which it falls.
Complex hankelByIntegral(Complex z) {
    const Complex w = Complex(0.0, 1.0) * z;
    // t = s + j angle tanh(s): cosh turns the phase of w away.
    const double angle = -std::arg(w) * 0.9;
    constexpr double kStep = 1e-3;
    Complex sum = 0.0;
    for (double s = 0.5 * kStep; s < 12.0; s += kStep) {
        const Complex t(s, angle * std::tanh(s));
        const Complex slope(1.0, angle / std::pow(std::cosh(s), 2));
        sum += std::exp(-w * (std::cosh(t) - 1.0)) * slope * kStep;
    }
    return Complex(0.0, 2.0 / kPi) * sum;
}

Span spanFrom(const Vec3& from, const Vec3& to, int order) {
    Span span;
    span.centreM = 0.5 * (from + to);
    span.direction = (to - from).normalized();
    span.lengthM = (to - from).norm();
    span.order = order;
    return span;
}

}  // namespace

TEST_CASE("rules integrate every polynomial of their degree, and Legendre rows are those of the library") {
    for (int n = 1; n <= kMaxGauss; ++n) {
        const auto& rule = gaussRule(n);
        REQUIRE(rule.size == n);
        for (int power = 0; power < 2 * n; ++power) {
            double sum = 0.0;
            for (int i = 0; i < n; ++i)
                sum += rule.weight[static_cast<std::size_t>(i)] *
                       std::pow(rule.node[static_cast<std::size_t>(i)], power);
            INFO(n << " nodes, power " << power);
            CHECK(sum == Approx(power % 2 == 0 ? 2.0 / (power + 1) : 0.0).margin(1e-13));
        }
        // The next power is missed: no rule is better than it can be.
        double sum = 0.0;
        for (int i = 0; i < n; ++i)
            sum += rule.weight[static_cast<std::size_t>(i)] *
                   std::pow(rule.node[static_cast<std::size_t>(i)], 2 * n);
        CHECK(sum < 2.0 / (2 * n + 1));
    }
    std::vector<double> places;
    for (int i = 0; i <= 20; ++i) places.push_back(-1.0 + 0.1 * i);
    std::vector<double> values(places.size() * kLanes);
    auto* rows = reinterpret_cast<double(*)[kLanes]>(values.data());
    legendreRows(places.data(), static_cast<int>(places.size()), rows);
    for (std::size_t i = 0; i < places.size(); ++i)
        for (unsigned order = 0; order < kLanes; ++order)
            CHECK(rows[i][order] == Approx(std::legendre(order, places[i])).margin(1e-14));
}

TEST_CASE("arrays of sines and exponentials are those of the library") {
    std::vector<double> x;
    for (int i = -400; i <= 400; ++i) x.push_back(0.37 * i + 1e-4 * i * i);
    std::vector<double> cosine(x.size());
    std::vector<double> sine(x.size());
    sinCos(x.data(), static_cast<int>(x.size()), cosine.data(), sine.data());
    for (std::size_t i = 0; i < x.size(); ++i) {
        CHECK(cosine[i] == Approx(std::cos(x[i])).margin(1e-13));
        CHECK(sine[i] == Approx(std::sin(x[i])).margin(1e-13));
    }
    std::vector<double> re(x.size());
    std::vector<double> im = x;
    for (std::size_t i = 0; i < x.size(); ++i) re[i] = 0.01 * static_cast<double>(i) - 6.0;
    const auto exponents = re;
    complexExp(re.data(), im.data(), static_cast<int>(x.size()));
    for (std::size_t i = 0; i < x.size(); ++i) {
        const Complex expected = std::exp(Complex(exponents[i], x[i]));
        CHECK(std::abs(Complex(re[i], im[i]) - expected) < 1e-12 * std::abs(expected));
    }
}

TEST_CASE("kernels of filaments are exp(-jkR)/R, with loss, whatever the distance") {
    std::vector<double> squares;
    for (int i = 0; i < 60; ++i) squares.push_back(std::pow(10.0, -6.0 + 0.2 * i));
    std::vector<double> re(squares.size());
    std::vector<double> im(squares.size());
    for (const Complex k : {Complex(0.3, 0.0), Complex(2.1, -0.9)}) {
        filamentKernel(squares.data(), static_cast<int>(squares.size()), Wavenumber(k), re.data(), im.data());
        for (std::size_t i = 0; i < squares.size(); ++i) {
            const double r = std::sqrt(squares[i]);
            const Complex expected = std::exp(Complex(0.0, -1.0) * k * r) / r;
            if (std::abs(expected) < 1e-200) continue;
            CHECK(std::abs(Complex(re[i], im[i]) - expected) < 1e-11 * std::abs(expected));
        }
    }
}

TEST_CASE("Bessel functions of complex arguments against their integrals") {
    ComplexLanes z{}, j{}, h{};
    for (const double size : {0.05, 0.4, 1.0, 3.0, 8.0, 11.9, 12.1, 30.0}) {
        for (int i = 0; i < ComplexLanes::kCount; ++i) {
            const Complex one = std::polar(size, -kPi / 6.0 * i / (ComplexLanes::kCount - 1));
            z.re[i] = one.real();
            z.im[i] = one.imag();
        }
        besselJ0(z, j);
        hankelScaled(z, h);
        for (int i = 0; i < ComplexLanes::kCount; ++i) {
            const Complex one(z.re[i], z.im[i]);
            INFO("z = " << one.real() << " + j " << one.imag());
            const Complex bessel = besselByIntegral(one);
            CHECK(std::abs(Complex(j.re[i], j.im[i]) - bessel) <
                  1e-9 * std::max(std::abs(bessel), std::exp(std::abs(one.imag())) / (1.0 + size)));
            const Complex hankel = hankelByIntegral(one);
            CHECK(std::abs(Complex(h.re[i], h.im[i]) - hankel) < 2e-7 * std::abs(hankel));
        }
    }
}

TEST_CASE("a Chebyshev series goes through its nodes, and keeps polynomials with their slopes") {
    const Interval interval{2.0, 5.0};
    const auto poly = [](double x) { return 1.0 + x * (0.5 + x * (-0.3 + x * (0.02 + x * 0.001))); };
    const auto slope = [](double x) { return 0.5 + x * (-0.6 + x * (0.06 + x * 0.004)); };
    const auto bend = [](double x) { return -0.6 + x * (0.12 + x * 0.012); };
    double coefficient[kSeriesTerms] = {};
    for (int n = 0; n < kSeriesTerms; ++n)
        for (int i = 0; i < kSeriesTerms; ++i)
            coefficient[n] += chebyshevTransform().weight[n][i] * poly(chebyshevNode(interval, i));
    for (double x = 2.0; x <= 5.0; x += 0.17) {
        double rows[3][kSeriesTerms];
        chebyshevSlopes(interval.scaled(x), rows);
        double value = 0.0, first = 0.0, second = 0.0;
        for (int n = 0; n < kSeriesTerms; ++n) {
            value += coefficient[n] * rows[0][n];
            first += coefficient[n] * rows[1][n] / interval.half();
            second += coefficient[n] * rows[2][n] / (interval.half() * interval.half());
        }
        CHECK(value == Approx(poly(x)).epsilon(1e-12));
        CHECK(first == Approx(slope(x)).epsilon(1e-11).margin(1e-11));
        CHECK(second == Approx(bend(x)).epsilon(1e-10).margin(1e-10));
    }
}

TEST_CASE("pairs of spans are cut until rules serve: all of both, once, and 1/R comes out") {
    const Span a = spanFrom({0.0, 0.0, 0.0}, {1.0, 0.0, 0.0}, 3);
    for (const Vec3& from : {Vec3(0.0, 0.02, 0.0), Vec3(1.1, 0.0, 0.0), Vec3(0.4, 0.3, 0.5)}) {
        const Span b = spanFrom(from, from + Vec3(0.7, 0.1, 0.05), 2);
        double covered = 0.0;
        double sum = 0.0;
        double finest = 0.0;
        const auto rule = [&](int points, const em::Part& pa, const em::Part& pb, double& into) {
            const auto& g = gaussRule(points);
            for (int i = 0; i < points; ++i)
                for (int j = 0; j < points; ++j) {
                    const auto ii = static_cast<std::size_t>(i);
                    const auto jj = static_cast<std::size_t>(j);
                    const Vec3 x = pointOn(a, pa.middle() + pa.halfWidth() * g.node[ii]);
                    const Vec3 y = pointOn(b, pb.middle() + pb.halfWidth() * g.node[jj]);
                    into += pa.halfWidth() * pb.halfWidth() * g.weight[ii] * g.weight[jj] / (x - y).norm();
                }
        };
        overParts(a, b, 0.2, 1e-8, kMaxProductGauss, 0.0,
                  [&](const em::Part& pa, const em::Part& pb, const ProductRule& ra, const ProductRule& rb,
                      double distance) {
                      covered += (pa.to - pa.from) * (pb.to - pb.from);
                      CHECK(ra.points <= kMaxProductGauss);
                      CHECK(rb.points <= kMaxProductGauss);
                      // Never more than the true distance, so that no singularity is nearer than thought.
                      for (const double s : {-1.0, -0.3, 0.4, 1.0})
                          for (const double t : {-1.0, 0.1, 1.0})
                              CHECK(distance <= (pointOn(a, pa.middle() + s * pa.halfWidth()) -
                                                 pointOn(b, pb.middle() + t * pb.halfWidth()))
                                                        .norm() +
                                                    1e-12);
                      rule(std::max(ra.points, rb.points), pa, pb, sum);
                      rule(kMaxGauss, pa, pb, finest);
                  });
        CHECK(covered == Approx(4.0));
        CHECK(sum == Approx(finest).epsilon(1e-6));
    }
}
