#include "core/em/pair_moments.h"

#include <algorithm>
#include <cmath>

#include "core/em/kernel_arrays.h"
#include "core/em/lanes.h"
#include "core/em/parallel_rule.h"
#include "core/em/product_rule.h"
#include "core/model/geometry.h"

namespace rm::em {

namespace {

// ---------------------------------------------------------------------------------------------------------
// The same span

/// Autocorrelations of Legendre polynomials, C_mn(d) = integral of P_m(t) P_n(t - d) over the overlap, as
/// Legendre series in x = d - 1 for d in (0, 2).
struct Autocorrelation {
    static constexpr int kTerms = 2 * kMaxOrder + 2;
    using Rows = std::array<std::array<double, kLanes>, kLanes>;
    std::array<Rows, kTerms> coefficient{};

    Autocorrelation() {
        const GaussRule& outer = gaussRule(kMaxGauss);
        const GaussRule& inner = gaussRule(kMaxOrder + 1);
        for (int q = 0; q < outer.size; ++q) {
            const double x = outer.node[static_cast<std::size_t>(q)];
            const double d = x + 1.0;
            Rows value{};
            for (int r = 0; r < inner.size; ++r) {
                const double t = d / 2.0 + (1.0 - d / 2.0) * inner.node[static_cast<std::size_t>(r)];
                const double w = (1.0 - d / 2.0) * inner.weight[static_cast<std::size_t>(r)];
                double pt[kLanes];
                double ps[kLanes];
                legendreRow(t, pt);
                legendreRow(t - d, ps);
                for (std::size_t m = 0; m < kLanes; ++m)
                    for (std::size_t n = 0; n < kLanes; ++n) value[m][n] += w * pt[m] * ps[n];
            }
            std::array<double, kTerms> series{};
            seriesRow(x, series);
            for (std::size_t term = 0; term < kTerms; ++term) {
                const double factor = (2.0 * static_cast<double>(term) + 1.0) / 2.0 *
                                      outer.weight[static_cast<std::size_t>(q)] * series[term];
                for (std::size_t m = 0; m < kLanes; ++m)
                    for (std::size_t n = 0; n < kLanes; ++n) coefficient[term][m][n] += factor * value[m][n];
            }
        }
    }

    static void seriesRow(double x, std::array<double, kTerms>& p) {
        p[0] = 1.0;
        p[1] = x;
        for (std::size_t n = 2; n < kTerms; ++n) {
            const double inverse = 1.0 / static_cast<double>(n);
            p[n] = (2.0 - inverse) * x * p[n - 1] - (1.0 - inverse) * p[n - 2];
        }
    }
};

const Autocorrelation& autocorrelation() {
    static const Autocorrelation table;
    return table;
}

/// Both orders of the two points give the same kernel; odd m + n cancel by parity and even ones count twice.
void selfMoments(const Span& a, Wavenumber k, PairMoments& moments) {
    const Autocorrelation& table = autocorrelation();
    const double half = a.halfM();
    constexpr int kPanelGauss = 6;
    constexpr double kRatio = 4.0;
    constexpr int kLogGauss = 8;
    double d[512];
    double w[512];
    int n = 0;
    // Panels in d = zeta/half from 2 down to the radius, then one with d = edge x^3 for the logarithm.
    double top = 2.0;
    const double edge = std::min(0.1, a.radiusM / half);
    while (top > edge * 1.0001 && n < 480) {
        double bottom = std::max(edge, top / kRatio);
        if (bottom < 1.5 * edge) bottom = edge;
        const GaussRule& rule = gaussRule(top > 0.05 ? kPanelGauss + a.order : kPanelGauss);
        for (int q = 0; q < rule.size; ++q, ++n) {
            d[n] = 0.5 * (top + bottom) + 0.5 * (top - bottom) * rule.node[static_cast<std::size_t>(q)];
            w[n] = 0.5 * (top - bottom) * rule.weight[static_cast<std::size_t>(q)];
        }
        top = bottom;
    }
    const GaussRule& logRule = gaussRule(kLogGauss);
    for (int q = 0; q < logRule.size; ++q, ++n) {
        const double x = 0.5 + 0.5 * logRule.node[static_cast<std::size_t>(q)];
        d[n] = top * x * x * x;
        w[n] = 0.5 * logRule.weight[static_cast<std::size_t>(q)] * 3.0 * top * x * x;
    }
    double zeta[512];
    double re[512];
    double im[512];
    for (int q = 0; q < n; ++q) zeta[q] = d[q] * half;
    coaxialKernel(zeta, n, k, a.radiusM, a.radiusM, re, im);

    // Sum G over the points into the series first: the table is then applied once.
    std::array<double, Autocorrelation::kTerms> sumRe{};
    std::array<double, Autocorrelation::kTerms> sumIm{};
    const std::size_t terms = static_cast<std::size_t>(2 * a.order + 2);
    for (int q = 0; q < n; ++q) {
        std::array<double, Autocorrelation::kTerms> series{};
        Autocorrelation::seriesRow(d[q] - 1.0, series);
        for (std::size_t t = 0; t < terms; ++t) {
            sumRe[t] += w[q] * re[q] * series[t];
            sumIm[t] += w[q] * im[q] * series[t];
        }
    }
    const std::size_t size = static_cast<std::size_t>(a.order) + 1;
    for (std::size_t t = 0; t < terms; ++t)
        for (std::size_t m = 0; m < size; ++m)
            for (std::size_t c = m % 2; c < size; c += 2) {
                moments.re[m][c] += 2.0 * sumRe[t] * table.coefficient[t][m][c];
                moments.im[m][c] += 2.0 * sumIm[t] * table.coefficient[t][m][c];
            }
}

// ---------------------------------------------------------------------------------------------------------
// The kernel between two separate spans

bool parallel(const Span& a, const Span& b) {
    return a.direction.cross(b.direction).norm() < 1e-7;
}

/// Average of the kernel round both conductors, to second order in radius over distance: for a harmonic
/// function, 1/R averaged round a circle of radius a whose axis makes an angle with cosine c to the line
/// between the points is 1/sqrt(R^2 + a^2 (3 c^2 - 1)/2). Where the conductors are not small against their
/// distance, the larger radius is the least distance.
class PairKernel {
  public:
    PairKernel(const Span& a, const Span& b, Wavenumber k) : a_(a), b_(b), k_(k) {
        const double larger = std::max(a.radiusM, b.radiusM);
        least2_ = larger * larger;
        const Vec3 between = b.centreM - a.centreM;
        coaxial_ = parallel(a, b) && (between - between.dot(a.direction) * a.direction).norm() <
                                         model::joinToleranceM(a.radiusM, b.radiusM);
    }

    /// G for n displacement vectors given as three arrays; `near` says that the radius matters.
    void evaluate(const double* x, const double* y, const double* z, int n, bool near, double* re,
                  double* im) const {
        double r2[kMaxPoints];
        if (near && coaxial_) {
            for (int i = 0; i < n; ++i)
                r2[i] = x[i] * a_.direction.x() + y[i] * a_.direction.y() + z[i] * a_.direction.z();
            coaxialKernel(r2, n, k_, a_.radiusM, b_.radiusM, re, im);
            return;
        }
        for (int i = 0; i < n; ++i) r2[i] = x[i] * x[i] + y[i] * y[i] + z[i] * z[i];
        if (near) {
            const double a2 = a_.radiusM * a_.radiusM;
            const double b2 = b_.radiusM * b_.radiusM;
            for (int i = 0; i < n; ++i) {
                const double ca = x[i] * a_.direction.x() + y[i] * a_.direction.y() + z[i] * a_.direction.z();
                const double cb = x[i] * b_.direction.x() + y[i] * b_.direction.y() + z[i] * b_.direction.z();
                const double safe = std::max(r2[i], 1e-4 * least2_);
                const double shift = 1.5 * (a2 * ca * ca + b2 * cb * cb) / safe - 0.5 * (a2 + b2);
                r2[i] = std::max(r2[i] + shift, least2_);
            }
        }
        filamentKernel(r2, n, k_, re, im);
    }

    double radii() const { return a_.radiusM + b_.radiusM; }

  private:
    const Span& a_;
    const Span& b_;
    Wavenumber k_;
    double least2_ = 0.0;
    bool coaxial_ = false;
};

class PairIntegrator {
  public:
    PairIntegrator(const Span& a, const Span& b, Wavenumber k, double accuracy, PairMoments& moments)
        : a_(a), b_(b), k_(k.size()), accuracy_(accuracy), kernel_(a, b, k), moments_(moments) {}

    /// Product rules over the spans, subdivided where they are close.
    void product() {
        overParts(
            a_, b_, k_, accuracy_, kMaxProductGauss, 0.5 * kernel_.radii(),
            [this](const Part& pa, const Part& pb, const ProductRule& ra, const ProductRule& rb,
                   double distance) { tensorGauss(pa, pb, ra, rb, distance < 30.0 * kernel_.radii()); });
    }

    /// Factor of all that product() adds.
    void setStrength(double strength) { strength_ = strength; }

    /// Spans that meet at t_a = endA and t_b = endB (each -1 or 1). Two triangles; in each, x is the distance
    /// from the corner and v = asinh of the scaled angle variable, which levels 1/R.
    void corner(double endA, double endB) {
        const Vec3 outA = -endA * a_.direction;
        const Vec3 outB = -endB * b_.direction;
        const double c = std::clamp(outA.dot(outB), -1.0, 1.0);
        const double s = std::max(std::sqrt(1.0 - c * c), 1e-3);
        triangle(endA, endB, outA, outB, c, s, true);
        triangle(endA, endB, outA, outB, c, s, false);
    }

  private:
    void tensorGauss(const Part& pa, const Part& pb, const ProductRule& ruleA, const ProductRule& ruleB,
                     bool near) {
        const int na = std::min(ruleA.points, kMaxProductGauss);
        const int nb = std::min(ruleB.points, kMaxProductGauss);
        double x[kMaxPoints];
        double y[kMaxPoints];
        double z[kMaxPoints];
        double re[kMaxPoints];
        double im[kMaxPoints];
        alignas(64) double ownA[kMaxProductGauss][kLanes];
        alignas(64) double ownB[kMaxProductGauss][kLanes];
        double tA[kMaxProductGauss];
        double tB[kMaxProductGauss];
        const auto rowsA = productRows(pa, na, tA, ownA);
        const auto rowsB = productRows(pb, nb, tB, ownB);
        const Vec3 between = a_.centreM - b_.centreM;
        const Vec3 stepA = a_.halfM() * a_.direction;
        const Vec3 stepB = b_.halfM() * b_.direction;
        for (int i = 0; i < na; ++i) {
            const double ax = between.x() + tA[i] * stepA.x();
            const double ay = between.y() + tA[i] * stepA.y();
            const double az = between.z() + tA[i] * stepA.z();
            for (int j = 0; j < nb; ++j) {
                x[i * nb + j] = ax - tB[j] * stepB.x();
                y[i * nb + j] = ay - tB[j] * stepB.y();
                z[i * nb + j] = az - tB[j] * stepB.z();
            }
        }
        kernel_.evaluate(x, y, z, na * nb, near, re, im);
        for (int i = 0; i < na * nb; ++i) {
            re[i] *= strength_;
            im[i] *= strength_;
        }
        for (int i = 0; i < na; ++i) {
            Lanes sumRe = {};
            Lanes sumIm = {};
            for (int j = 0; j < nb; ++j) {
                const Lanes row = lanesAt(rowsB[j]);
                sumRe += re[i * nb + j] * row;
                sumIm += im[i * nb + j] * row;
            }
            for (int n = ruleB.degrees; n < kLanes; ++n) sumRe[n] = sumIm[n] = 0.0;
            for (std::size_t m = 0; m < static_cast<std::size_t>(ruleA.degrees); ++m)
                addTo(m, rowsA[i][m], sumRe, sumIm);
        }
    }

    /// row m of the moments += factor * (re, im)
    void addTo(std::size_t m, double factor, const Lanes& re, const Lanes& im) {
        double* rowRe = moments_.re[m].data();
        double* rowIm = moments_.im[m].data();
        lanesAt(rowRe) += factor * re;
        lanesAt(rowIm) += factor * im;
    }

    /// The half of the parameter square where the far coordinate is on a (first) or on b: u = x L, v = x y
    /// L'.
    void triangle(double endA, double endB, const Vec3& outA, const Vec3& outB, double c, double s,
                  bool first) {
        const double lengthFar = first ? a_.lengthM : b_.lengthM;
        const double lengthOther = first ? b_.lengthM : a_.lengthM;
        const double reach = lengthOther / lengthFar;
        // y' = y reach = c + s sinh(v): R = x Lfar s cosh(v).
        const double v0 = std::asinh(-c / s);
        const double v1 = std::asinh((reach - c) / s);
        const int degree = std::max(a_.order, b_.order);
        // In q the product of the polynomials has degree 2 (orders) + 3.
        const int nv = std::min(kMaxGauss, degree / 2 + 4 + static_cast<int>(std::ceil(1.2 * (v1 - v0))));
        const int nx = std::min(kMaxGauss, a_.order + b_.order + 2);
        const GaussRule& ruleX = gaussRule(nx);
        const GaussRule& ruleV = gaussRule(nv);
        double x[kMaxPoints];
        double y[kMaxPoints];
        double z[kMaxPoints];
        double w[kMaxPoints];
        double tFar[kMaxGauss];
        double tOther[kMaxPoints];
        double scaled[kMaxGauss];
        double wScaled[kMaxGauss];
        for (int j = 0; j < nv; ++j) {
            const double v = 0.5 * (v0 + v1) + 0.5 * (v1 - v0) * ruleV.node[static_cast<std::size_t>(j)];
            const double e = std::exp(v);
            scaled[j] = c + s * 0.5 * (e - 1.0 / e);
            wScaled[j] =
                s * 0.5 * (e + 1.0 / e) * 0.5 * (v1 - v0) * ruleV.weight[static_cast<std::size_t>(j)];
        }
        for (int i = 0; i < nx; ++i) {
            // x = q^2 crowds the points at the corner, where the radius shows.
            const double q = 0.5 + 0.5 * ruleX.node[static_cast<std::size_t>(i)];
            const double far = q * q;
            const double wFar = 0.5 * ruleX.weight[static_cast<std::size_t>(i)] * 2.0 * q;
            tFar[i] = first ? endA * (1.0 - 2.0 * far) : endB * (1.0 - 2.0 * far);
            for (int j = 0; j < nv; ++j) {
                const double other = far * scaled[j] / reach;
                const double distanceFar = far * lengthFar;
                const double distanceOther = far * scaled[j] * lengthFar;
                const Vec3 d = first ? Vec3(distanceFar * outA - distanceOther * outB)
                                     : Vec3(distanceOther * outA - distanceFar * outB);
                const int at = i * nv + j;
                x[at] = d.x();
                y[at] = d.y();
                z[at] = d.z();
                // dt_a dt_b = 4 d(far) d(other), d(other) = far d(scaled)/reach.
                w[at] = 4.0 * wFar * far * wScaled[j] / reach;
                tOther[at] = first ? endB * (1.0 - 2.0 * other) : endA * (1.0 - 2.0 * other);
            }
        }
        double re[kMaxPoints];
        double im[kMaxPoints];
        kernel_.evaluate(x, y, z, nx * nv, true, re, im);
        alignas(64) double rows[kMaxPoints][kLanes];
        legendreRows(tOther, nx * nv, rows);
        for (int i = 0; i < nx; ++i) {
            alignas(64) double far[kLanes];
            legendreRow(tFar[i], far);
            Lanes sumRe = {};
            Lanes sumIm = {};
            for (int j = 0; j < nv; ++j) {
                const int at = i * nv + j;
                const Lanes row = lanesAt(rows[at]);
                sumRe += w[at] * re[at] * row;
                sumIm += w[at] * im[at] * row;
            }
            const Lanes farRow = lanesAt(far);
            for (int m = 0; m <= a_.order; ++m) {
                const auto row = static_cast<std::size_t>(m);
                if (first)
                    addTo(row, far[m], sumRe, sumIm);
                else
                    addTo(row, 1.0, sumRe[m] * farRow, sumIm[m] * farRow);
            }
        }
    }

    const Span& a_;
    const Span& b_;
    double k_;
    double accuracy_;
    PairKernel kernel_;
    PairMoments& moments_;
    double strength_ = 1.0;
};

// ---------------------------------------------------------------------------------------------------------
// Parallel spans side by side

void parallelMoments(const Span& a, const Span& b, double offsetM, bool coaxial, Wavenumber k,
                     PairMoments& moments) {
    const double a2 = a.radiusM * a.radiusM;
    const double b2 = b.radiusM * b.radiusM;
    const double larger2 = std::max(a2, b2);
    PairMoments::Rows* rows[] = {&moments.re, &moments.im};
    parallelRule<2>(a, b, std::max(offsetM, std::max(a.radiusM, b.radiusM)), rows,
                    [&](const double* zeta, int n, double(*values)[kMaxGauss]) {
                        if (coaxial) {
                            coaxialKernel(zeta, n, k, a.radiusM, b.radiusM, values[0], values[1]);
                            return;
                        }
                        double r2[kMaxGauss];
                        for (int q = 0; q < n; ++q) {
                            const double plain = zeta[q] * zeta[q] + offsetM * offsetM;
                            const double c2 = zeta[q] * zeta[q] / plain;
                            r2[q] = std::max(plain + (a2 + b2) * (1.5 * c2 - 0.5), larger2);
                        }
                        filamentKernel(r2, n, k, values[0], values[1]);
                    });
}

/// Which ends of the two spans coincide: +-1 each, or 0 where none do.
struct SharedEnd {
    double onA = 0.0;
    double onB = 0.0;
};

SharedEnd sharedEnd(const Span& a, const Span& b) {
    const double tolerance = model::joinToleranceM(a.radiusM, b.radiusM);
    for (const double ea : {-1.0, 1.0})
        for (const double eb : {-1.0, 1.0})
            if ((pointOn(a, ea) - pointOn(b, eb)).squaredNorm() <= tolerance * tolerance) return {ea, eb};
    return {};
}

}  // namespace

double roundness(const Span& a, const Span& b, const Vec3& towards, Wavenumber k) {
    const double ca = a.direction.dot(towards);
    const double cb = b.direction.dot(towards);
    const double a2 = a.radiusM * a.radiusM;
    const double b2 = b.radiusM * b.radiusM;
    return 1.0 - 0.25 * k.squaredReal() * (a2 * (1.0 - ca * ca) + b2 * (1.0 - cb * cb));
}

void pairMoments(const Span& a, const Span& b, Wavenumber k, PairMoments& moments, double accuracy) {
    moments.clear();
    const Vec3 between = b.centreM - a.centreM;
    const double centreDistance = between.norm();
    const double reach = a.halfM() + b.halfM();
    if (centreDistance > 2.0 * reach) {
        PairIntegrator integrator(a, b, k, accuracy, moments);
        integrator.setStrength(roundness(a, b, between / centreDistance, k));
        integrator.product();
        return;
    }
    const bool aligned = parallel(a, b);
    const double offset = aligned ? (between - between.dot(a.direction) * a.direction).norm() : 0.0;
    const double tolerance = model::joinToleranceM(a.radiusM, b.radiusM);
    if (aligned && centreDistance < tolerance && std::abs(a.lengthM - b.lengthM) < tolerance &&
        a.direction.dot(b.direction) > 0.0) {
        selfMoments(a, k, moments);
        return;
    }
    const double apart = std::abs(between.dot(a.direction)) - reach;
    if (aligned && offset <= tolerance && apart > -tolerance &&
        apart < 0.5 * std::min(a.lengthM, b.lengthM)) {
        // In line and joined, or with a short piece between: the exact kernel carries its own roundness.
        parallelMoments(a, b, 0.0, true, k, moments);
        return;
    }
    PairIntegrator integrator(a, b, k, accuracy, moments);
    const SharedEnd shared = sharedEnd(a, b);
    if (shared.onA != 0.0) {
        integrator.corner(shared.onA, shared.onB);
        return;
    }
    if (aligned && offset > tolerance && offset < 0.5 * std::min(a.lengthM, b.lengthM)) {
        parallelMoments(a, b, offset, false, k, moments);
        moments.scale(roundness(a, b, between / centreDistance, k));
        return;
    }
    integrator.setStrength(roundness(a, b, between / centreDistance, k));
    integrator.product();
}

}  // namespace rm::em
