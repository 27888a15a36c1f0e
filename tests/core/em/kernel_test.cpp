// The integrals of the engine against brute force.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <functional>

#include "antennas.h"
#include "core/em/kernel_arrays.h"
#include "core/em/pair_moments.h"
#include "core/em/quadrature.h"
#include "core/em/span_basis.h"

using namespace rm;
using em::Span;

namespace {

Span span(const Vec3& from, const Vec3& to, double radius, int order = 4) {
    Span s;
    s.centreM = 0.5 * (from + to);
    s.lengthM = (to - from).norm();
    s.direction = (to - from) / s.lengthM;
    s.radiusM = radius;
    s.order = order;
    return s;
}

double legendre(int n, double t) {
    double row[em::kLanes];
    em::legendreRow(t, row);
    return row[n];
}

/// Average round both circumferences of exp(-jkR)/R between two points on coaxial tubes, by the trapezoidal
/// rule.
Complex coaxialBruteForce(double zeta, double k, double a, double b) {
    const int n = 20000;
    Complex sum = 0.0;
    for (int i = 0; i < n; ++i) {
        const double phi = 2.0 * kPi * (i + 0.5) / n;
        const double r = std::sqrt(zeta * zeta + a * a + b * b - 2.0 * a * b * std::cos(phi));
        sum += std::exp(Complex(0.0, -k * r)) / r;
    }
    return sum / static_cast<double>(n);
}

/// Double integral over two spans with many small panels, graded towards the point of the square where they
/// are nearest: slow and simple. `kernel` takes the two points.
Complex bruteForce(const Span& a, const Span& b, int m, int n, double nearA, double nearB,
                   const std::function<Complex(const Vec3&, const Vec3&)>& kernel) {
    const auto panels = [](double centre) {
        std::vector<double> edges{-1.0, 1.0, centre};
        for (double step = 2.0; step > 1e-6; step *= 0.5)
            for (const double edge : {centre - step, centre + step})
                if (edge > -1.0 && edge < 1.0) edges.push_back(edge);
        std::sort(edges.begin(), edges.end());
        return edges;
    };
    const auto edgesA = panels(nearA);
    const auto edgesB = panels(nearB);
    const auto& rule = em::gaussRule(8);
    Complex sum = 0.0;
    for (std::size_t i = 0; i + 1 < edgesA.size(); ++i)
        for (std::size_t j = 0; j + 1 < edgesB.size(); ++j)
            for (int p = 0; p < rule.size; ++p)
                for (int q = 0; q < rule.size; ++q) {
                    const auto node = [&](const std::vector<double>& e, std::size_t panel, int at) {
                        return 0.5 * (e[panel] + e[panel + 1]) +
                               0.5 * (e[panel + 1] - e[panel]) * rule.node[static_cast<std::size_t>(at)];
                    };
                    const double s = node(edgesA, i, p);
                    const double t = node(edgesB, j, q);
                    const double w = 0.25 * (edgesA[i + 1] - edgesA[i]) * (edgesB[j + 1] - edgesB[j]) *
                                     rule.weight[static_cast<std::size_t>(p)] *
                                     rule.weight[static_cast<std::size_t>(q)];
                    sum += w * legendre(m, s) * legendre(n, t) *
                           kernel(a.centreM + s * a.halfM() * a.direction,
                                  b.centreM + t * b.halfM() * b.direction);
                }
    return sum;
}

Complex moment(const em::PairMoments& moments, int m, int n) {
    return {moments.re[static_cast<std::size_t>(m)][static_cast<std::size_t>(n)],
            moments.im[static_cast<std::size_t>(m)][static_cast<std::size_t>(n)]};
}

}  // namespace

TEST_CASE("Gauss rules integrate polynomials exactly") {
    for (int n = 1; n <= em::kMaxGauss; ++n) {
        const auto& rule = em::gaussRule(n);
        REQUIRE(rule.size == n);
        for (const int degree : {0, n / 2, n, 2 * n - 2}) {
            double sum = 0.0;
            for (std::size_t i = 0; i < static_cast<std::size_t>(n); ++i)
                sum += rule.weight[i] * std::pow(rule.node[i], degree);
            CHECK(sum == Approx(degree % 2 == 0 ? 2.0 / (degree + 1) : 0.0).margin(1e-13));
        }
        for (std::size_t i = 1; i < static_cast<std::size_t>(n); ++i) CHECK(rule.node[i] > rule.node[i - 1]);
    }
    CHECK_THROWS(em::gaussRule(0));
    CHECK_THROWS(em::gaussRule(em::kMaxGauss + 1));
}

TEST_CASE("Legendre polynomials are orthogonal") {
    const auto& rule = em::gaussRule(12);
    for (int m = 0; m < em::kLanes; ++m)
        for (int n = 0; n < em::kLanes; ++n) {
            double sum = 0.0;
            for (std::size_t i = 0; i < 12; ++i)
                sum += rule.weight[i] * legendre(m, rule.node[i]) * legendre(n, rule.node[i]);
            CHECK(sum == Approx(m == n ? 2.0 / (2 * m + 1) : 0.0).margin(1e-13));
        }
}

TEST_CASE("the filament kernel is exp(-jkR)/R") {
    std::vector<double> r2;
    for (int i = 0; i < 1000; ++i) r2.push_back(1e-6 * std::pow(1.03, i));
    std::vector<double> re(r2.size());
    std::vector<double> im(r2.size());
    const double k = 0.7;
    em::filamentKernel(r2.data(), static_cast<int>(r2.size()), k, re.data(), im.data());
    for (std::size_t i = 0; i < r2.size(); ++i) {
        const double r = std::sqrt(r2[i]);
        if (k * r > 1e4) break;  // beyond any antenna
        CHECK(std::abs(Complex(re[i], im[i]) - std::exp(Complex(0, -k * r)) / r) < 1e-12 / r);
    }
}

TEST_CASE("the coaxial kernel is the average round both tubes") {
    const double k = 2 * kPi / 10.0;
    for (const auto& [a, b] : {std::pair{0.005, 0.005}, {0.01, 0.003}, {0.02, 0.02}})
        for (const double zeta : {0.0005, 0.002, 0.01, 0.05, 0.3, 2.0}) {
            double re = 0.0;
            double im = 0.0;
            em::coaxialKernel(&zeta, 1, k, a, b, &re, &im);
            const Complex expected = coaxialBruteForce(zeta, k, a, b);
            INFO("a " << a << " b " << b << " zeta " << zeta);
            CHECK(std::abs(Complex(re, im) - expected) < 2e-6 * std::abs(expected) + k * k * a * 0.2);
            CHECK(re == Approx(expected.real()).epsilon(2e-4));
        }
}

TEST_CASE("the self integral resolves its logarithm at any thickness") {
    // Static limit over one span: int int G = 2 L (asinh-like); compared with brute force on the exact
    // kernel.
    for (const double radius : {0.1, 0.01, 1e-3, 1e-5}) {
        const Span s = span({0, 0, 0}, {0, 0, 1}, radius);
        em::PairMoments moments;
        em::pairMoments(s, s, 0.5, moments);
        // The double integral as a single one over the distance d, graded towards zero.
        const auto reference = [&](int m, int n) {
            Complex sum = 0.0;
            const auto& rule = em::gaussRule(10);
            double top = 2.0;
            for (int panel = 0; panel < 60; ++panel) {
                const double bottom = panel == 59 ? 0.0 : top * 0.6;
                for (std::size_t q = 0; q < 10; ++q) {
                    const double d = 0.5 * (top + bottom) + 0.5 * (top - bottom) * rule.node[q];
                    double overlap = 0.0;
                    for (std::size_t i = 0; i < 10; ++i) {
                        const double t = 0.5 * d + (1 - 0.5 * d) * rule.node[i];
                        overlap +=
                            (1 - 0.5 * d) * rule.weight[i] *
                            (legendre(m, t) * legendre(n, t - d) + legendre(n, t) * legendre(m, t - d));
                    }
                    const double zeta = 0.5 * d;
                    double re = 0.0;
                    double im = 0.0;
                    em::coaxialKernel(&zeta, 1, 0.5, radius, radius, &re, &im);
                    sum += 0.5 * (top - bottom) * rule.weight[q] * overlap * Complex(re, im);
                }
                top = bottom;
            }
            return sum;
        };
        for (const auto& [m, n] : {std::pair{0, 0}, {1, 1}, {0, 2}, {4, 4}, {2, 4}}) {
            INFO("radius " << radius << " moment " << m << n);
            CHECK(std::abs(moment(moments, m, n) - reference(m, n)) < 2e-5 * std::abs(moment(moments, 0, 0)));
        }
        CHECK(moment(moments, 0, 1) == Complex(0.0));  // odd by symmetry
    }
}

TEST_CASE("spans that meet at any angle and with any ratio of lengths") {
    const double k = 2 * kPi / 8.0;
    const double radius = 1e-6;  // so thin that the filament is the answer
    const auto filament = [&](const Vec3& p, const Vec3& q) {
        const double r = std::max((p - q).norm(), radius);
        return std::exp(Complex(0, -k * r)) / r;
    };
    for (const double angle : {15.0, 45.0, 90.0, 150.0, 175.0})
        for (const double length : {1.0, 0.1}) {
            const Span a = span({-1, 0, 0}, {0, 0, 0}, radius);
            const double phi = (180.0 - angle) * kDegree;
            const Span b = span({0, 0, 0}, {length * std::cos(phi), length * std::sin(phi), 0}, radius);
            em::PairMoments moments;
            em::pairMoments(a, b, k, moments);
            for (const auto& [m, n] : {std::pair{0, 0}, {1, 0}, {2, 3}}) {
                INFO("angle " << angle << " length " << length << " moment " << m << n);
                const Complex expected = bruteForce(a, b, m, n, 1.0, -1.0, filament);
                CHECK(std::abs(moment(moments, m, n) - expected) < 3e-4 * std::abs(moment(moments, 0, 0)));
            }
        }
}

TEST_CASE("parallel and skew spans at any distance") {
    const double k = 2 * kPi / 8.0;
    const double radius = 1e-6;
    const auto filament = [&](const Vec3& p, const Vec3& q) {
        const double r = (p - q).norm();
        return std::exp(Complex(0, -k * r)) / r;
    };
    struct Case {
        Vec3 from;
        Vec3 to;
        double nearA;
        double nearB;
    };
    const Case cases[] = {
        {{0.02, 0, 0.0}, {0.02, 0, 1.0}, 0.0, 0.0},   // side by side, very close
        {{0.3, 0, 0.2}, {0.3, 0, 1.3}, 0.0, 0.0},     // shifted
        {{0.05, 0, 1.0}, {0.05, 0, 0.0}, 0.0, 0.0},   // running the other way
        {{1.5, 0.4, 0.0}, {2.0, -0.3, 0.8}, 0, 0},    // skew and far
        {{0.1, -0.5, 0.5}, {0.1, 0.5, 0.5}, 0.0, 0},  // crossing at a right angle
        {{0, 0, 1.05}, {0, 0, 2.0}, 1.0, -1.0},       // in line, a small gap between
    };
    const Span a = span({0, 0, 0}, {0, 0, 1}, radius);
    for (const auto& c : cases) {
        const Span b = span(c.from, c.to, radius);
        em::PairMoments moments;
        em::pairMoments(a, b, k, moments);
        for (const auto& [m, n] : {std::pair{0, 0}, {1, 1}, {3, 2}, {4, 4}}) {
            INFO("from " << c.from.transpose() << " to " << c.to.transpose() << " moment " << m << n);
            // Brute force with both lists of panels fine everywhere: shift the grading over the span.
            Complex expected = 0.0;
            const int parts = 16;
            for (int i = 0; i < parts; ++i)
                for (int j = 0; j < parts; ++j) {
                    const auto& rule = em::gaussRule(12);
                    for (std::size_t p = 0; p < 12; ++p)
                        for (std::size_t q = 0; q < 12; ++q) {
                            const double s = -1 + (2.0 * i + 1 + rule.node[p]) / parts;
                            const double t = -1 + (2.0 * j + 1 + rule.node[q]) / parts;
                            expected += rule.weight[p] * rule.weight[q] / (parts * parts) * legendre(m, s) *
                                        legendre(n, t) *
                                        filament(a.centreM + s * a.halfM() * a.direction,
                                                 b.centreM + t * b.halfM() * b.direction);
                        }
                }
            CHECK(std::abs(moment(moments, m, n) - expected) < 2e-4 * std::abs(moment(moments, 0, 0)));
        }
        // Exchanging the spans transposes the moments.
        em::PairMoments exchanged;
        em::pairMoments(b, a, k, exchanged);
        for (int m = 0; m <= 4; ++m)
            for (int n = 0; n <= 4; ++n)
                CHECK(std::abs(moment(moments, m, n) - moment(exchanged, n, m)) <
                      5e-5 * std::abs(moment(moments, 0, 0)));
    }
}

TEST_CASE("the far field of a span is the sum over its points") {
    // A crooked antenna with an arbitrary current, against a plain sum of elementary dipoles.
    const double f = 21e6;
    const double k = wavenumber(f);
    model::WireModel m;
    m.wires.push_back(test::wire({0, 0, 4}, {3, 1, 6}, 0.002));
    m.wires.push_back(test::wire({3, 1, 6}, {5, -2, 5}, 0.004));
    test::addFeed(m, 0, 0.3);
    for (const auto ground : {model::GroundKind::FreeSpace, model::GroundKind::Perfect}) {
        m.ground.kind = ground;
        const auto s = test::solve(m, f);
        const double el = 33.0;
        const double az = 71.0;
        const Vec3 toward(std::cos(el * kDegree) * std::cos(az * kDegree),
                          std::cos(el * kDegree) * std::sin(az * kDegree), std::sin(el * kDegree));
        Eigen::Vector3cd n = Eigen::Vector3cd::Zero();
        for (const auto& sp : s.mesh->spans) {
            const auto& rule = em::gaussRule(20);
            for (std::size_t q = 0; q < 20; ++q) {
                Complex current = 0.0;
                for (std::size_t d = 0; d < em::kLanes; ++d)
                    current += em::legendreSeries(sp, s.reading.localCurrent, d) *
                               legendre(static_cast<int>(d), rule.node[q]);
                const Vec3 at = sp.centreM + rule.node[q] * sp.halfM() * sp.direction;
                const Complex weight = rule.weight[q] * sp.halfM() * current;
                n += weight * std::exp(Complex(0, k * toward.dot(at))) * sp.direction.cast<Complex>();
                if (ground == model::GroundKind::Perfect) {
                    const Vec3 image(at.x(), at.y(), -at.z());
                    const Vec3 direction(-sp.direction.x(), -sp.direction.y(), sp.direction.z());
                    n += weight * std::exp(Complex(0, k * toward.dot(image))) * direction.cast<Complex>();
                }
            }
        }
        const Eigen::Vector3cd across = n - toward.cast<Complex>() * toward.cast<Complex>().dot(n);
        const double intensity = kEta0 * k * k / (32 * kPi * kPi) * across.squaredNorm();
        const double expected = 10 * std::log10(4 * kPi * intensity / s.reading.inputPowerW);
        CHECK(s.gain(el, az) == Approx(expected).margin(1e-4));
    }
    m.ground.kind = model::GroundKind::Perfect;
    CHECK(test::solve(m, f).gain(-10.0, 20.0) < -900.0);  // nothing below the ground
}
