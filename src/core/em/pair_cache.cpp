#include "core/em/pair_cache.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace rm::em {

namespace {

constexpr std::size_t kMostEntries = 8192;

}  // namespace

Span turned(const Span& span, double sign) {
    Span other = span;
    other.direction *= sign;
    return other;
}

void turnMoments(const PairMoments& from, const PairTurn& turn, const Span& a, const Span& b,
                 PairMoments& to) {
    const auto rows = static_cast<std::size_t>(a.order) + 1;
    const auto columns = static_cast<std::size_t>(b.order) + 1;
    double rowSign = 1.0;
    for (std::size_t m = 0; m < rows; ++m, rowSign *= turn.signA) {
        double sign = rowSign;
        for (std::size_t n = 0; n < columns; ++n, sign *= turn.signB) {
            to.re[m][n] = sign * (turn.exchanged ? from.re[n][m] : from.re[m][n]);
            to.im[m][n] = sign * (turn.exchanged ? from.im[n][m] : from.im[m][n]);
        }
        for (std::size_t n = columns; n < kLanes; ++n) to.re[m][n] = to.im[m][n] = 0.0;
    }
}

void evenOut(PairMoments& moments, const PairSymmetry& symmetry) {
    const auto average = [&](double oddSign) {
        for (std::size_t m = 0; m < kLanes; ++m)
            for (std::size_t n = 0; n <= m; ++n) {
                const double sign = (m + n) % 2 == 0 ? 1.0 : oddSign;
                for (auto* part : {&moments.re, &moments.im}) {
                    const double mean = 0.5 * ((*part)[m][n] + sign * (*part)[n][m]);
                    (*part)[m][n] = mean;
                    (*part)[n][m] = sign * mean;
                }
            }
    };
    if (symmetry.backwards) average(-1.0);
    if (symmetry.forwards) average(1.0);
}

PairCache::PairCache(std::size_t pairs)
    : mask_(std::min(kMostEntries, std::bit_ceil(2 * pairs)) - 1),
      used_(mask_ + 1, 0),
      entries_(std::make_unique_for_overwrite<Entry[]>(mask_ + 1)) {}

const PairMoments& PairCache::moments(const Span& a, const Span& b, Wavenumber k) {
    const double dx = b.centreM.x() - a.centreM.x();
    const double dy = b.centreM.y() - a.centreM.y();
    const double dz = b.centreM.z() - a.centreM.z();
    double cosine = a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y() +
                    a.direction.z() * b.direction.z();
    const double scale = k.size() / kPlacementQuantum;
    std::int64_t alongA =
        roundedWhole(scale * (dx * a.direction.x() + dy * a.direction.y() + dz * a.direction.z()));
    std::int64_t alongB =
        roundedWhole(scale * (dx * b.direction.x() + dy * b.direction.y() + dz * b.direction.z()));
    // Run through backwards where that makes the angle acute and the second span lie ahead: odd degrees
    // change sign.
    PairTurn turn;
    if (cosine < -kPlacementQuantum) {
        cosine = -cosine;
        alongB = -alongB;
        turn.signB = -1.0;
    }
    if (alongA + alongB < 0 || (alongA + alongB == 0 && alongA < 0)) {
        alongA = -alongA;
        alongB = -alongB;
        turn.signA = -turn.signA;
        turn.signB = -turn.signB;
    }
    std::array<std::int64_t, 4> first = {roundedWhole(scale * a.lengthM), roundedWhole(scale * a.radiusM),
                                         a.order, alongA};
    std::array<std::int64_t, 4> second = {roundedWhole(scale * b.lengthM), roundedWhole(scale * b.radiusM),
                                          b.order, alongB};
    const bool alike = std::equal(first.begin(), first.begin() + 3, second.begin());
    const PairSymmetry symmetry{alike && std::abs(first[3] - second[3]) <= kSameQuanta,
                                alike && std::abs(first[3] + second[3]) <= kSameQuanta};
    // Exchanged and both run through backwards, the places along them are exchanged too.
    if (second < first) {
        std::swap(first, second);
        turn.exchanged = true;
        turn.signA = -turn.signA;
        turn.signB = -turn.signB;
    }
    const Key key = {
        first[0],
        first[1],
        first[2],
        first[3],
        second[0],
        second[1],
        second[2],
        second[3],
        roundedWhole(scale * std::sqrt(dx * dx + dy * dy + dz * dz)) ^ std::bit_cast<std::int64_t>(k.phase) ^
            std::bit_cast<std::int64_t>(std::rotl(std::bit_cast<std::uint64_t>(k.attenuation), 1)),
        roundedWhole(cosine / kPlacementQuantum)};
    const std::uint64_t slot = hashOf(key) & mask_;
    Entry& entry = entries_[slot];
    if (used_[slot] == 0 || entry.key != key) {
        entry.key = key;
        used_[slot] = 1;
        ++computed_;
        // Computed in the canonical form, so that the answer does not depend on who asked first.
        const Span forthA = turned(a, turn.signA);
        const Span forthB = turned(b, turn.signB);
        pairMoments(turn.exchanged ? forthB : forthA, turn.exchanged ? forthA : forthB, k, entry.moments);
        evenOut(entry.moments, symmetry);
    }
    if (turn.plain()) return entry.moments;
    turnMoments(entry.moments, turn, a, b, turned_);
    return turned_;
}

}  // namespace rm::em
