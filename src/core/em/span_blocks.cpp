#include "core/em/span_blocks.h"

#include <algorithm>
#include <cmath>

#include "core/em/conductor.h"
#include "core/em/ground_moments.h"
#include "core/em/lanes.h"
#include "core/em/pair_cache.h"
#include "core/em/solver.h"
#include "core/em/span_basis.h"
#include "core/em/tables_ahead.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Pairs that a thread remembers.
constexpr std::size_t kRememberedPairs = 4000;

/// The kernels of a pair of spans with their factors: vector (current and current), scalar (charge and
/// charge), and mixed (current on one, charge on the other), where there is one.
struct PairTerms {
    const PairMoments* vector = nullptr;
    const PairMoments* scalar = nullptr;
    const PairMoments* mixed = nullptr;
    double vectorFactor = 0.0;
    double scalarFactor = 0.0;
    double currentOnA = 0.0;  ///< factor of mixed with the current on a
    double currentOnB = 0.0;
};

/// Moments of every function on a with the current and the charge of every polynomial on b.
struct HalfContracted {
    alignas(64) double currentRe[kLanes][kLanes];
    alignas(64) double currentIm[kLanes][kLanes];
    alignas(64) double chargeRe[kLanes][kLanes];
    alignas(64) double chargeIm[kLanes][kLanes];
};

/// row += factor * moments[m][.]
void addRow(double factor, const PairMoments& moments, std::size_t m, double* re, double* im) {
    lanesAt(re) += factor * lanesAt(moments.re[m].data());
    lanesAt(im) += factor * lanesAt(moments.im[m].data());
}

/// The second half, with every function on b side by side; `Count` functions on a keep their sums in
/// registers.
template <std::size_t Count>
void contractSecond(const HalfContracted& half, const SpanBasis& basisB, Block& block) {
    Lanes re[Count] = {};
    Lanes im[Count] = {};
    for (std::size_t n = 0; n <= static_cast<std::size_t>(basisB.degree); ++n) {
        const Lanes current = lanesAt(basisB.currentByDegree[n].data());
        const Lanes charge = lanesAt(basisB.chargeByDegree[n].data());
        for (std::size_t i = 0; i < Count; ++i) {
            re[i] += current * half.currentRe[i][n] + charge * half.chargeRe[i][n];
            im[i] += current * half.currentIm[i][n] + charge * half.chargeIm[i][n];
        }
    }
    for (std::size_t i = 0; i < Count; ++i) {
        lanesAt(block.re[i]) += re[i];
        lanesAt(block.im[i]) += im[i];
    }
}

/// Adds all terms of the pair to the block of local functions.
void addPairBlock(const Span& a, const Span& b, const PairTerms& terms, Block& block) {
    const SpanBasis& basisA = basisOf(a);
    const SpanBasis& basisB = basisOf(b);
    const auto count = static_cast<std::size_t>(basisA.count);
    HalfContracted half;
    for (std::size_t i = 0; i < count; ++i) {
        // Most functions have two terms.
        alignas(64) double rows[4][kLanes] = {};
        for (std::size_t m = 0; m <= static_cast<std::size_t>(basisA.degree); ++m) {
            if (const double current = basisA.current[i][m]; current != 0.0) {
                addRow(terms.vectorFactor * current, *terms.vector, m, rows[0], rows[1]);
                if (terms.currentOnA != 0.0)
                    addRow(terms.currentOnA * current, *terms.mixed, m, rows[2], rows[3]);
            }
            if (const double charge = basisA.charge[i][m]; charge != 0.0) {
                addRow(terms.scalarFactor * charge, *terms.scalar, m, rows[2], rows[3]);
                if (terms.currentOnB != 0.0)
                    addRow(terms.currentOnB * charge, *terms.mixed, m, rows[0], rows[1]);
            }
        }
        std::copy_n(rows[0], kLanes, half.currentRe[i]);
        std::copy_n(rows[1], kLanes, half.currentIm[i]);
        std::copy_n(rows[2], kLanes, half.chargeRe[i]);
        std::copy_n(rows[3], kLanes, half.chargeIm[i]);
    }
    static_assert(kMaxOrder + 1 == 8, "one case for every number of functions");
    switch (count) {
        case 1:
            return contractSecond<1>(half, basisB, block);
        case 2:
            return contractSecond<2>(half, basisB, block);
        case 3:
            return contractSecond<3>(half, basisB, block);
        case 4:
            return contractSecond<4>(half, basisB, block);
        case 5:
            return contractSecond<5>(half, basisB, block);
        case 6:
            return contractSecond<6>(half, basisB, block);
        case 7:
            return contractSecond<7>(half, basisB, block);
        default:
            return contractSecond<8>(half, basisB, block);
    }
}

/// In ohm: j eta0/(4 pi) [k (ua.ub) (La/2)(Lb/2) int int f f G - (1/k) int int f' f' G], times `sign`.
void addFreePair(const Span& a, const Span& b, const PairMoments& moments, double k, double sign,
                 Block& block) {
    PairTerms terms;
    terms.vector = terms.scalar = &moments;
    const double scale = sign * kEta0 / (4.0 * kPi);
    terms.vectorFactor = scale * k * a.direction.dot(b.direction) * a.halfM() * b.halfM();
    terms.scalarFactor = -scale / k;
    addPairBlock(a, b, terms, block);
}

/// The same with the kernels of the ground, and between current and charge with the vertical part of the
/// direction of the current.
void addGroundPair(const Span& a, const Span& b, const GroundMoments& moments, double k, Block& block) {
    const double scale = kEta0 / (4.0 * kPi);
    addPairBlock(a, b,
                 {&moments.vector, &moments.scalar, &moments.mixed, scale * k * a.halfM() * b.halfM(),
                  -scale / k, scale * a.direction.z() * a.halfM(), scale * b.direction.z() * b.halfM()},
                 block);
}

/// Adds the impedance along a span: z int f_i f_j ds, from int P_m P_n dt = 2/(2m + 1).
void addLoss(const Span& span, Complex impedancePerM, Block& block) {
    const SpanBasis& basis = basisOf(span);
    const auto count = static_cast<std::size_t>(basis.count);
    for (std::size_t i = 0; i < count; ++i)
        for (std::size_t j = 0; j < count; ++j) {
            double overlap = 0.0;
            for (std::size_t m = 0; m < kLanes; ++m)
                overlap +=
                    basis.current[i][m] * basis.current[j][m] * 2.0 / (2.0 * static_cast<double>(m) + 1.0);
            // Divided by j.
            const Complex loss = impedancePerM * span.halfM() * overlap;
            block.re[i][j] += loss.imag();
            block.im[i][j] -= loss.real();
        }
}

/// Adds the voltage across the coat of a span in the soil: elastance/(j w) int f_i' f_j' ds, divided by j.
void addCoat(const Span& span, Complex elastanceM, double frequencyHz, Block& block) {
    const SpanBasis& basis = basisOf(span);
    const auto count = static_cast<std::size_t>(basis.count);
    const Complex scale = -elastanceM / (2.0 * kPi * frequencyHz * span.halfM());
    for (std::size_t i = 0; i < count; ++i)
        for (std::size_t j = 0; j < count; ++j) {
            double overlap = 0.0;
            for (std::size_t m = 0; m < kLanes; ++m)
                overlap +=
                    basis.charge[i][m] * basis.charge[j][m] * 2.0 / (2.0 * static_cast<double>(m) + 1.0);
            block.re[i][j] += scale.real() * overlap;
            block.im[i][j] += scale.imag() * overlap;
        }
}

struct Caches {
    PairCache free{kRememberedPairs};
    GroundPairCache ground{kRememberedPairs};
};

Caches& cachesOfThread() {
    thread_local Caches caches;
    return caches;
}

}  // namespace

void forgetPairs() {
    Caches& caches = cachesOfThread();
    caches.free.forget();
    caches.ground.forget();
}

SpanBlocks::SpanBlocks(const Mesh& mesh, double frequencyHz, std::stop_token stop)
    : mesh_(mesh), k_(wavenumber(frequencyHz)), frequencyHz_(frequencyHz), stop_(std::move(stop)) {
    if (mesh.ground.kind == model::GroundKind::Real) tables_ = groundTables(mesh.ground, frequencyHz);
}

void SpanBlocks::prepare(const std::vector<std::size_t>& from, const std::vector<std::size_t>& to) const {
    const StopScope scope(stop_);
    if (tables_) buildTablesAhead(*tables_, mesh_, from, to);
}

void SpanBlocks::fill(std::size_t row, std::size_t column, Block& block) const {
    const StopScope scope(stop_);
    Caches& caches = cachesOfThread();
    const Span& a = mesh_.spans[row];
    const Span& b = mesh_.spans[column];
    const auto countA = static_cast<std::size_t>(basisOf(a).count);
    std::fill_n(block.re[0], countA * kLanes, 0.0);
    std::fill_n(block.im[0], countA * kLanes, 0.0);
    if (!a.inSoil && !b.inSoil) addFreePair(a, b, caches.free.moments(a, b, k_), k_, 1.0, block);
    if (mesh_.ground.kind == model::GroundKind::Perfect) {
        // The image carries the mirrored current reversed, and the opposite charge.
        const Span mirror = b.mirrored();
        addFreePair(a, mirror, caches.free.moments(a, mirror, k_), k_, -1.0, block);
    }
    if (tables_) addGroundPair(a, b, caches.ground.moments(tables_, a, b, caches.free), k_, block);
    if (column != row) return;
    const WireMaterial& material = mesh_.wireMaterial[a.wire];
    addLoss(a, material.impedancePerM(frequencyHz_), block);
    if (a.inSoil && material.elastanceM > 0.0)
        addCoat(a, material.elastanceM * (1.0 - 1.0 / tables_->halfSpace().permittivity()), frequencyHz_,
                block);
}

}  // namespace rm::em
