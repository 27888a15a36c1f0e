#include "core/em/ground_moments.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "core/em/kernel_arrays.h"
#include "core/em/parallel_rule.h"
#include "core/em/product_rule.h"
#include "core/model/geometry.h"

namespace rm::em {

namespace {

/// Up to this many points the kernels themselves are integrated; above, the image is taken out first.
constexpr int kWholeGauss = 8;
constexpr double kLevel = 1e-9;  ///< a direction cosine below this is horizontal
constexpr int kChannels = 6;     ///< vector, scalar and mixed, real and imaginary

/// The values of the three kernels at n pairs of points, less the image of the given strength.
class GroundPair {
  public:
    GroundPair(const GroundTable& table, const Span& a, const Span& b)
        : table_(table),
          k_(table.halfSpace().k()),
          along_(a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y()),
          upright_(a.direction.z() * b.direction.z()),
          mixed_(std::abs(a.direction.z()) > kLevel || std::abs(b.direction.z()) > kLevel) {}

    bool mixed() const { return mixed_; }
    Complex vectorImage() const { return vector_; }
    Complex scalarImage() const { return scalar_; }

    /// Takes the strengths of the image from the table at this point.
    void imageFrom(double rhoM, double zetaM) {
        alignas(64) double f[kGroundLanes];
        table_.at(rhoM, zetaM, f);
        vector_ = along_ * Complex(f[0], f[1]) + upright_ * Complex(f[2], f[3]);
        scalar_ = Complex(f[6], f[7]);
    }

    template <std::size_t Size>
    void values(const double* rho2, const double* zeta, int n, double (*out)[Size]) const {
        double r2[Size];
        double gRe[Size];
        double gIm[Size];
        for (int i = 0; i < n; ++i) r2[i] = rho2[i] + zeta[i] * zeta[i];
        filamentKernel(r2, n, k_, gRe, gIm);
        for (int i = 0; i < n; ++i) {
            alignas(64) double f[kGroundLanes];
            table_.at(std::sqrt(rho2[i]), zeta[i], f);
            const double vRe = along_ * f[0] + upright_ * f[2] - vector_.real();
            const double vIm = along_ * f[1] + upright_ * f[3] - vector_.imag();
            const double sRe = f[6] - scalar_.real();
            const double sIm = f[7] - scalar_.imag();
            out[0][i] = vRe * gRe[i] - vIm * gIm[i];
            out[1][i] = vRe * gIm[i] + vIm * gRe[i];
            out[2][i] = sRe * gRe[i] - sIm * gIm[i];
            out[3][i] = sRe * gIm[i] + sIm * gRe[i];
            out[4][i] = f[4] * gRe[i] - f[5] * gIm[i];
            out[5][i] = f[4] * gIm[i] + f[5] * gRe[i];
        }
    }

  private:
    const GroundTable& table_;
    double k_;
    double along_;
    double upright_;
    bool mixed_;
    Complex vector_ = 0.0;
    Complex scalar_ = 0.0;
};

class GroundIntegrator {
  public:
    GroundIntegrator(const GroundPair& pair, const Span& a, const Span& b, double k, double accuracy,
                     GroundMoments& moments)
        : pair_(pair), a_(a), b_(b), mirror_(b.mirrored()), k_(k), accuracy_(accuracy) {
        PairMoments::Rows* const all[kChannels] = {&moments.vector.re, &moments.vector.im, &moments.scalar.re,
                                                   &moments.scalar.im, &moments.mixed.re,  &moments.mixed.im};
        std::copy_n(all, kChannels, rows_);
    }

    void product(const Part& pa, const Part& pb, int depth = 0) {
        const double ha = pa.halfWidth() * a_.halfM();
        const double hb = pb.halfWidth() * b_.halfM();
        const double distance = model::nearestPoints(pointOn(a_, pa.from), pointOn(a_, pa.to),
                                                     pointOn(mirror_, pb.from), pointOn(mirror_, pb.to))
                                    .distanceM;
        const int na = gaussFor(ha, distance, a_.order, k_, accuracy_);
        const int nb = gaussFor(hb, distance, b_.order, k_, accuracy_);
        if (std::max(na, nb) > kWholeGauss && depth < 40) {
            if (ha >= hb) {
                product({pa.from, pa.middle()}, pb, depth + 1);
                product({pa.middle(), pa.to}, pb, depth + 1);
            } else {
                product(pa, {pb.from, pb.middle()}, depth + 1);
                product(pa, {pb.middle(), pb.to}, depth + 1);
            }
            return;
        }
        tensorGauss(pa, pb, std::min(na, kWholeGauss), std::min(nb, kWholeGauss));
    }

    /// Level and parallel: the kernels depend on the difference of the two coordinates alone.
    void parallel() {
        const Vec3 between = b_.centreM - a_.centreM;
        const double along = between.dot(a_.direction);
        const double aside2 =
            std::max(0.0, between.x() * between.x() + between.y() * between.y() - along * along);
        const double zeta = a_.centreM.z() + b_.centreM.z();
        parallelRule<4>(a_, b_, std::sqrt(aside2 + zeta * zeta), rows_,
                        [&](const double* difference, int n, double(*values)[kMaxGauss]) {
                            double rho2[kMaxGauss];
                            double zetas[kMaxGauss];
                            double all[kChannels][kMaxGauss];
                            for (int q = 0; q < n; ++q) {
                                rho2[q] = difference[q] * difference[q] + aside2;
                                zetas[q] = zeta;
                            }
                            pair_.values(rho2, zetas, n, all);
                            for (int c = 0; c < 4; ++c) std::copy_n(all[c], n, values[c]);
                        });
    }

  private:
    void tensorGauss(const Part& pa, const Part& pb, int na, int nb) {
        constexpr int kPoints = kWholeGauss * kWholeGauss;
        double rho2[kPoints];
        double zeta[kPoints];
        double values[kChannels][kPoints];
        alignas(64) double ownA[kMaxProductGauss][kLanes];
        alignas(64) double ownB[kMaxProductGauss][kLanes];
        double tA[kMaxProductGauss];
        double tB[kMaxProductGauss];
        const auto rowsA = productRows(pa, na, tA, ownA);
        const auto rowsB = productRows(pb, nb, tB, ownB);
        for (int i = 0; i < na; ++i) {
            const Vec3 p = pointOn(a_, tA[i]);
            for (int j = 0; j < nb; ++j) {
                const Vec3 q = pointOn(b_, tB[j]);
                const double x = p.x() - q.x();
                const double y = p.y() - q.y();
                rho2[i * nb + j] = x * x + y * y;
                zeta[i * nb + j] = p.z() + q.z();
            }
        }
        pair_.values(rho2, zeta, na * nb, values);
        const int channels = pair_.mixed() ? kChannels : 4;
        for (int c = 0; c < channels; ++c)
            for (int i = 0; i < na; ++i) {
                alignas(64) double sum[kLanes] = {};
                for (int j = 0; j < nb; ++j)
                    for (int n = 0; n < kLanes; ++n) sum[n] += values[c][i * nb + j] * rowsB[j][n];
                for (std::size_t m = 0; m <= static_cast<std::size_t>(a_.order); ++m)
                    for (std::size_t n = 0; n < kLanes; ++n) (*rows_[c])[m][n] += rowsA[i][m] * sum[n];
            }
    }

    const GroundPair& pair_;
    const Span& a_;
    const Span& b_;
    Span mirror_;
    double k_;
    double accuracy_;
    PairMoments::Rows* rows_[kChannels];
};

/// Adds strength * image to the moments.
void addImage(const PairMoments& image, Complex strength, PairMoments& moments) {
    for (std::size_t m = 0; m < kLanes; ++m)
        for (std::size_t n = 0; n < kLanes; ++n) {
            moments.re[m][n] += strength.real() * image.re[m][n] - strength.imag() * image.im[m][n];
            moments.im[m][n] += strength.real() * image.im[m][n] + strength.imag() * image.re[m][n];
        }
}

}  // namespace

void groundMoments(const GroundTable& table, const Span& a, const Span& b, PairCache& images,
                   GroundMoments& moments, double accuracy) {
    moments.scalar.clear();
    moments.vector.clear();
    moments.mixed.clear();
    const double k = table.halfSpace().k();
    const Span mirror = b.mirrored();
    const Vec3 between = mirror.centreM - a.centreM;
    const auto nearest = model::nearestPoints(a.startM(), a.endM(), mirror.startM(), mirror.endM());
    GroundPair pair(table, a, b);
    GroundIntegrator integrator(pair, a, b, k, accuracy, moments);
    const int points = std::max(gaussFor(a.halfM(), nearest.distanceM, a.order, k, accuracy),
                                gaussFor(b.halfM(), nearest.distanceM, b.order, k, accuracy));
    const double round = roundness(a, b, between.normalized(), k);
    if (points <= kWholeGauss) {
        integrator.product({}, {});
        moments.vector.scale(round);
        moments.scalar.scale(round);
        if (pair.mixed()) moments.mixed.scale(round);
        return;
    }
    const Vec3 apart = nearest.onA - nearest.onB;
    pair.imageFrom(std::hypot(apart.x(), apart.y()), std::abs(apart.z()));
    const bool level = std::abs(a.direction.z()) < kLevel && std::abs(b.direction.z()) < kLevel;
    if (level && a.direction.cross(b.direction).norm() < 1e-7)
        integrator.parallel();
    else
        integrator.product({}, {});
    moments.vector.scale(round);
    moments.scalar.scale(round);
    if (pair.mixed()) moments.mixed.scale(round);
    const PairMoments& image = images.moments(a, mirror);
    addImage(image, pair.vectorImage(), moments.vector);
    addImage(image, pair.scalarImage(), moments.scalar);
}

// ---------------------------------------------------------------------------------------------------------

namespace {

constexpr std::size_t kMostEntries = 4096;
constexpr double kQuantum = 1e-9;  ///< radians of phase, as in PairCache

}  // namespace

GroundPairCache::GroundPairCache(std::shared_ptr<const GroundTable> table, std::size_t pairs)
    : table_(std::move(table)),
      images_(table_->halfSpace().k(), pairs),
      quantum_(table_->halfSpace().k() / kQuantum),
      mask_(std::min(kMostEntries, std::bit_ceil(2 * pairs)) - 1),
      used_(mask_ + 1, 0),
      entries_(std::make_unique_for_overwrite<Entry[]>(mask_ + 1)) {}

const GroundMoments& GroundPairCache::moments(const Span& a, const Span& b) {
    const double dx = b.centreM.x() - a.centreM.x();
    const double dy = b.centreM.y() - a.centreM.y();
    const auto whole = [this](double metres) {
        return static_cast<std::int64_t>(std::llround(metres * quantum_));
    };
    const auto cosine = [](double value) {
        return static_cast<std::int64_t>(std::llround(value / kQuantum));
    };
    const Key key = {whole(a.lengthM),
                     whole(b.lengthM),
                     whole(a.radiusM),
                     whole(b.radiusM),
                     whole(a.centreM.z()),
                     whole(b.centreM.z()),
                     cosine(a.direction.z()),
                     cosine(b.direction.z()),
                     cosine(a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y()),
                     whole(dx * a.direction.x() + dy * a.direction.y()),
                     whole(dx * b.direction.x() + dy * b.direction.y()),
                     whole(std::hypot(dx, dy)),
                     static_cast<std::int64_t>(a.order * 16 + b.order)};
    std::uint64_t hash = 1469598103934665603ULL;
    for (const std::int64_t part : key)
        hash = (hash ^ static_cast<std::uint64_t>(part)) * 0x9E3779B97F4A7C15ULL, hash ^= hash >> 29;
    Entry& entry = entries_[hash & mask_];
    if (used_[hash & mask_] == 0 || entry.key != key) {
        entry.key = key;
        used_[hash & mask_] = 1;
        groundMoments(*table_, a, b, images_, entry.moments);
    }
    return entry.moments;
}

}  // namespace rm::em
