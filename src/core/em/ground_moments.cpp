#include "core/em/ground_moments.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "core/em/kernel_arrays.h"
#include "core/em/lanes.h"
#include "core/em/parallel_rule.h"
#include "core/em/product_rule.h"
#include "core/model/geometry.h"

namespace rm::em {

namespace {

/// Up to this many points the kernels themselves are integrated; above, the image is taken out first.
constexpr int kWholeGauss = 8;
constexpr double kLevel = 1e-9;  ///< a direction cosine below this is horizontal
constexpr int kChannels = 6;     ///< vector, scalar and mixed, real and imaginary

/// Distance from which waves through the soil no longer show: attenuation times distance.
constexpr double kFaded = 3.0;
/// Spans and images that touch are divided until the parts at the joint are this share of the shorter half.
constexpr double kTouchingPart = 0.03;

Region regionOf(const Span& a, const Span& b) {
    return a.inSoil != b.inSoil ? Region::Across : a.inSoil ? Region::Soil : Region::Air;
}

/// Where the image of b is: mirrored in the surface, or b itself where the two are on either side.
Span imageOf(const Span& b, Region region) {
    return region == Region::Across ? b : b.mirrored();
}

/// The values of the three kernels at n pairs of points, less the image of the given strength.
class GroundPair {
  public:
    GroundPair(const GroundTables& tables, LevelRows& rows, const Span& a, const Span& b)
        : tables_(tables),
          rows_(rows),
          region_(regionOf(a, b)),
          depthIsOfA_(a.inSoil),
          k_(tables.halfSpace().k()),
          along_(a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y()),
          upright_(a.direction.z() * b.direction.z()),
          mixed_(std::abs(a.direction.z()) > kLevel || std::abs(b.direction.z()) > kLevel) {}

    Region region() const { return region_; }
    bool mixed() const { return mixed_; }
    Complex vectorImage() const { return vector_; }
    Complex scalarImage() const { return scalar_; }

    /// Takes the strengths of the image from the table at this distance, with the points at these heights or
    /// depths.
    void imageFrom(double rhoM, double ofA, double ofB) {
        Lanes f;
        kernels(std::max(rhoM, kClosestM), ofA, ofB, f);
        vector_ = along_ * Complex(f[0], f[1]) + upright_ * Complex(f[2], f[3]);
        scalar_ = Complex(f[6], f[7]);
    }

    /// For n squared distances along the ground, and distances of the two points from the surface.
    template <std::size_t Size>
    void values(const double* rho2, const double* ofA, const double* ofB, int n, double (*out)[Size]) const {
        double r2[Size];
        double gRe[Size];
        double gIm[Size];
        for (int i = 0; i < n; ++i) r2[i] = rho2[i] + (ofA[i] + ofB[i]) * (ofA[i] + ofB[i]);
        filamentKernel(r2, n, k_, gRe, gIm);
        for (int i = 0; i < n; ++i) {
            Lanes f;
            kernels(std::sqrt(rho2[i]), ofA[i], ofB[i], f);
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
    static constexpr double kClosestM = 1e-5;

    void kernels(double rhoM, double ofA, double ofB, Lanes& f) const {
        if (region_ == Region::Across)
            return depthIsOfA_ ? rows_.at(*tables_.across, rhoM, ofB, ofA, f)
                               : rows_.at(*tables_.across, rhoM, ofA, ofB, f);
        const GroundTable& table = region_ == Region::Air ? *tables_.air : *tables_.soil;
        if (mixed_)
            table.at(rhoM, ofA + ofB, f);
        else
            rows_.at(table, rhoM, ofA + ofB, f);
    }

    const GroundTables& tables_;
    LevelRows& rows_;
    Region region_;
    bool depthIsOfA_;
    double k_;
    double along_;
    double upright_;
    bool mixed_;
    Complex vector_ = 0.0;
    Complex scalar_ = 0.0;
};

class GroundIntegrator {
  public:
    /// Distances count as at least `least`.
    GroundIntegrator(const GroundPair& pair, const Span& a, const Span& b, double k, double accuracy,
                     double least, GroundMoments& moments)
        : pair_(pair),
          a_(a),
          b_(b),
          image_(imageOf(b, pair.region())),
          k_(k),
          accuracy_(accuracy),
          least_(least) {
        PairMoments::Rows* const all[kChannels] = {&moments.vector.re, &moments.vector.im, &moments.scalar.re,
                                                   &moments.scalar.im, &moments.mixed.re,  &moments.mixed.im};
        std::copy_n(all, kChannels, rows_);
    }

    void product() {
        overParts(a_, image_, k_, accuracy_, kWholeGauss, least_,
                  [this](const Part& pa, const Part& pb, const ProductRule& ra, const ProductRule& rb,
                         double) { tensorGauss(pa, pb, ra, rb); });
    }

    /// Level and parallel: the kernels depend on the difference of the two coordinates alone.
    void parallel() {
        const Vec3 between = b_.centreM - a_.centreM;
        const double along = between.dot(a_.direction);
        const double aside2 =
            std::max(0.0, between.x() * between.x() + between.y() * between.y() - along * along);
        const double ofA = std::abs(a_.centreM.z());
        const double ofB = std::abs(b_.centreM.z());
        parallelRule<4>(a_, b_, std::sqrt(aside2 + (ofA + ofB) * (ofA + ofB)), rows_,
                        [&](const double* difference, int n, double(*values)[kMaxGauss]) {
                            double rho2[kMaxGauss];
                            double allOfA[kMaxGauss];
                            double allOfB[kMaxGauss];
                            double all[kChannels][kMaxGauss];
                            for (int q = 0; q < n; ++q) {
                                rho2[q] = difference[q] * difference[q] + aside2;
                                allOfA[q] = ofA;
                                allOfB[q] = ofB;
                            }
                            pair_.values(rho2, allOfA, allOfB, n, all);
                            for (int c = 0; c < 4; ++c) std::copy_n(all[c], n, values[c]);
                        });
    }

  private:
    void tensorGauss(const Part& pa, const Part& pb, const ProductRule& ruleA, const ProductRule& ruleB) {
        const int na = std::min(ruleA.points, kWholeGauss);
        const int nb = std::min(ruleB.points, kWholeGauss);
        constexpr int kPoints = kWholeGauss * kWholeGauss;
        double rho2[kPoints];
        double ofA[kPoints];
        double ofB[kPoints];
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
                ofA[i * nb + j] = std::abs(p.z());
                ofB[i * nb + j] = std::abs(q.z());
            }
        }
        pair_.values(rho2, ofA, ofB, na * nb, values);
        const int channels = pair_.mixed() ? kChannels : 4;
        for (int c = 0; c < channels; ++c)
            for (int i = 0; i < na; ++i) {
                Lanes sum = {};
                for (int j = 0; j < nb; ++j) sum += values[c][i * nb + j] * lanesAt(rowsB[j]);
                for (int n = ruleB.degrees; n < kLanes; ++n) sum[n] = 0.0;
                for (std::size_t m = 0; m < static_cast<std::size_t>(ruleA.degrees); ++m) {
                    double* row = (*rows_[c])[m].data();
                    lanesAt(row) += rowsA[i][m] * sum;
                }
            }
    }

    const GroundPair& pair_;
    const Span& a_;
    const Span& b_;
    Span image_;
    double k_;
    double accuracy_;
    double least_;
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

void LevelRows::at(const GroundTable& table, double rhoM, double zetaM, Lanes& kernels) {
    const void* piece = table.pieceKey(rhoM, zetaM);
    const auto found = std::find_if(rows_.begin(), rows_.end(),
                                    [&](const Row& row) { return row.piece == piece && row.zetaM == zetaM; });
    if (found != rows_.end()) return found->series.at(rhoM, kernels);
    Row& row = rows_[next_];
    next_ = (next_ + 1) % rows_.size();
    row = {piece, zetaM, table.level(rhoM, zetaM)};
    row.series.at(rhoM, kernels);
}

void LevelRows::at(const AcrossTable& table, double rhoM, double heightM, double depthM, Lanes& kernels) {
    constexpr std::size_t kMostSlices = 32;
    const void* box = table.boxKey(rhoM, heightM, depthM);
    for (const Slice& slice : slices_)
        if (slice.box == box && slice.depthM == depthM) return slice.series.at(rhoM, heightM, kernels);
    if (slices_.size() < kMostSlices) slices_.emplace_back();
    Slice& slice = slices_[nextSlice_ % slices_.size()];
    nextSlice_ = (nextSlice_ + 1) % kMostSlices;
    slice.box = box;
    slice.depthM = depthM;
    table.slice(rhoM, heightM, depthM, slice.series);
    slice.series.at(rhoM, heightM, kernels);
}

namespace {

/// The wavenumber that matters to rules of integration at this distance: waves through the soil fade.
double shortestWaves(const HalfSpace& halfSpace, Region region, double distanceM) {
    const bool faded = -halfSpace.kGround().imag() * distanceM > kFaded;
    return region == Region::Air || faded ? halfSpace.k()
                                          : std::max(halfSpace.k(), std::abs(halfSpace.kGround()));
}

}  // namespace

void groundMoments(const GroundTables& tables, const Span& a, const Span& b, PairCache& images,
                   LevelRows& level, GroundMoments& moments, double accuracy) {
    const HalfSpace& halfSpace = tables.halfSpace();
    GroundPair pair(tables, level, a, b);
    const Region region = pair.region();
    const Span image = imageOf(b, region);
    const Vec3 between = image.centreM - a.centreM;
    moments.scalar.clear();
    moments.vector.clear();
    if (pair.mixed()) moments.mixed.clear();
    const double apart = distanceOfParts(a, {}, image, {});
    const double k = shortestWaves(halfSpace, region, apart);
    const double least = kTouchingPart * std::min(a.halfM(), b.halfM());
    const double distance = std::max(apart, least);
    GroundIntegrator integrator(pair, a, b, k, accuracy, least, moments);
    const double round = roundness(a, b, between.normalized(),
                                   region == Region::Soil ? Wavenumber(halfSpace.kGround()) : halfSpace.k());
    const auto scaled = [&] {
        moments.vector.scale(round);
        moments.scalar.scale(round);
        if (pair.mixed()) moments.mixed.scale(round);
    };
    const int points = std::max(productRuleFor({}, a.halfM(), distance, a.order, k, accuracy).points,
                                productRuleFor({}, b.halfM(), distance, b.order, k, accuracy).points);
    if (points <= kWholeGauss) {
        integrator.product();
        scaled();
    } else {
        const auto nearest = model::nearestPoints(a.startM(), a.endM(), image.startM(), image.endM());
        const Vec3 line = nearest.onA - nearest.onB;
        pair.imageFrom(std::hypot(line.x(), line.y()), std::abs(nearest.onA.z()), std::abs(nearest.onB.z()));
        if (!pair.mixed() && a.direction.cross(b.direction).norm() < 1e-7)
            integrator.parallel();
        else
            integrator.product();
        scaled();
        const PairMoments& own = images.moments(a, image, halfSpace.k());
        addImage(own, pair.vectorImage(), moments.vector);
        addImage(own, pair.scalarImage(), moments.scalar);
    }
    if (region != Region::Soil) return;
    const PairMoments& direct = images.moments(a, b, Wavenumber(halfSpace.kGround()));
    addImage(direct, a.direction.dot(b.direction), moments.vector);
    addImage(direct, 1.0 / halfSpace.permittivity(), moments.scalar);
}

// ---------------------------------------------------------------------------------------------------------

namespace {

constexpr std::size_t kMostGroundEntries = 4096;

/// What stands for one span in the key; the second one is brought in front if that makes the key smaller.
using Place = std::array<std::int64_t, 6>;

void turnGround(const GroundMoments& from, const PairTurn& turn, const Span& a, const Span& b, bool mixed,
                GroundMoments& to) {
    turnMoments(from.scalar, turn, a, b, to.scalar);
    turnMoments(from.vector, turn, a, b, to.vector);
    if (mixed) turnMoments(from.mixed, turn, a, b, to.mixed);
    // The directions are part of the kernel of the currents.
    if (turn.signA * turn.signB < 0.0) to.vector.scale(-1.0);
}

}  // namespace

GroundPairCache::GroundPairCache(std::size_t pairs)
    : mask_(std::min(kMostGroundEntries, std::bit_ceil(2 * pairs)) - 1),
      used_(mask_ + 1, 0),
      entries_(std::make_unique_for_overwrite<Entry[]>(mask_ + 1)) {}

const GroundMoments& GroundPairCache::moments(const std::shared_ptr<const GroundTables>& tables,
                                              const Span& a, const Span& b, PairCache& images) {
    if (tables_ != tables) {
        tables_ = tables;
        level_ = {};
    }
    const double scale = tables->halfSpace().k() / kPlacementQuantum;
    const double dx = b.centreM.x() - a.centreM.x();
    const double dy = b.centreM.y() - a.centreM.y();
    const auto whole = [scale](double metres) { return roundedWhole(metres * scale); };
    const auto cosine = [](double value) { return roundedWhole(value / kPlacementQuantum); };
    std::int64_t along = cosine(a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y());
    Place first = {
        whole(a.lengthM),     whole(a.radiusM),        a.order,
        whole(a.centreM.z()), cosine(a.direction.z()), whole(dx * a.direction.x() + dy * a.direction.y())};
    Place second = {
        whole(b.lengthM),     whole(b.radiusM),        b.order,
        whole(b.centreM.z()), cosine(b.direction.z()), whole(dx * b.direction.x() + dy * b.direction.y())};
    PairTurn turn;
    const auto reverse = [](Place& place, double& sign) {
        place[4] = -place[4];
        place[5] = -place[5];
        sign = -sign;
    };
    if (along < 0) {
        along = -along;
        reverse(second, turn.signB);
    }
    const std::int64_t ahead = first[5] + second[5];
    if (ahead < 0 || (ahead == 0 && (first[5] < 0 || (first[5] == 0 && first[4] + second[4] < 0)))) {
        reverse(first, turn.signA);
        reverse(second, turn.signB);
    }
    // Exchanged, the line between the centres turns round, and so do both spans to keep the places ahead.
    Place turnedFirst = second;
    Place turnedSecond = first;
    turnedFirst[4] = -turnedFirst[4];
    turnedSecond[4] = -turnedSecond[4];
    const auto near = [](std::int64_t x, std::int64_t y) { return std::abs(x - y) <= kSameQuanta; };
    const bool alike = std::equal(first.begin(), first.begin() + 4, second.begin());
    const PairSymmetry symmetry{alike && near(first[4], -second[4]) && near(first[5], second[5]),
                                alike && near(first[4], second[4]) && near(first[5], -second[5])};
    if (turnedFirst < first) {
        first = turnedFirst;
        second = turnedSecond;
        turn.exchanged = true;
        turn.signA = -turn.signA;
        turn.signB = -turn.signB;
    }
    Key key;
    std::copy(first.begin(), first.end(), key.begin());
    std::copy(second.begin(), second.end(), key.begin() + 6);
    key[12] = along;
    key[13] = whole(std::hypot(dx, dy));
    key[14] = 0;
    key[15] = 0;
    // Where a pair is kept must not depend on how many tables there were before: two pairs that differ by
    // less than the quantum share what the first of them got, unless a third one in their place comes
    // between.
    const std::uint64_t slot = hashOf(key) & mask_;
    key[14] = static_cast<std::int64_t>(tables->air->serial());
    Entry& entry = entries_[slot];
    const bool mixed = std::abs(a.direction.z()) > kLevel || std::abs(b.direction.z()) > kLevel;
    if (used_[slot] == 0 || entry.key != key) {
        // Remembered once it is there: a ground that is refused, or a stop, leaves nothing behind.
        used_[slot] = 0;
        // Computed in the canonical form, as in PairCache.
        const Span forthA = turned(a, turn.signA);
        const Span forthB = turned(b, turn.signB);
        groundMoments(*tables, turn.exchanged ? forthB : forthA, turn.exchanged ? forthA : forthB, images,
                      level_, entry.moments);
        evenOut(entry.moments.vector, symmetry);
        evenOut(entry.moments.scalar, symmetry);
        if (mixed) evenOut(entry.moments.mixed, symmetry);
        entry.key = key;
        used_[slot] = 1;
    }
    if (turn.plain()) return entry.moments;
    turnGround(entry.moments, turn, a, b, mixed, turned_);
    return turned_;
}

}  // namespace rm::em
