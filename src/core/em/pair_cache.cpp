#include "core/em/pair_cache.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace rm::em {

namespace {

constexpr std::size_t kMostEntries = 8192;
/// Placements that differ by less than this many radians of phase count as equal.
constexpr double kQuantum = 1e-9;

}  // namespace

PairCache::PairCache(double k, std::size_t pairs)
    : k_(k),
      quantum_(k / kQuantum),
      mask_(std::min(kMostEntries, std::bit_ceil(2 * pairs)) - 1),
      used_(mask_ + 1, 0),
      entries_(std::make_unique_for_overwrite<Entry[]>(mask_ + 1)) {}

const PairMoments& PairCache::moments(const Span& a, const Span& b) {
    const double dx = b.centreM.x() - a.centreM.x();
    const double dy = b.centreM.y() - a.centreM.y();
    const double dz = b.centreM.z() - a.centreM.z();
    double cosine = a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y() +
                    a.direction.z() * b.direction.z();
    double alongA = dx * a.direction.x() + dy * a.direction.y() + dz * a.direction.z();
    double alongB = dx * b.direction.x() + dy * b.direction.y() + dz * b.direction.z();
    // Run through backwards where that makes the angle acute and the second span lie ahead: odd degrees
    // change sign.
    double signA = 1.0;
    double signB = 1.0;
    const double tiny = kQuantum / k_;
    if (cosine < -kQuantum) {
        cosine = -cosine;
        alongB = -alongB;
        signB = -1.0;
    }
    const double ahead = alongA + alongB;
    if (ahead < -tiny || (ahead < tiny && alongA < -tiny)) {
        alongA = -alongA;
        alongB = -alongB;
        signA = -signA;
        signB = -signB;
    }
    const auto whole = [this](double metres) {
        return static_cast<std::int64_t>(std::llround(metres * quantum_));
    };
    const Key key = {whole(a.lengthM),
                     whole(b.lengthM),
                     whole(a.radiusM),
                     whole(b.radiusM),
                     whole(std::sqrt(dx * dx + dy * dy + dz * dz)),
                     whole(alongA),
                     whole(alongB),
                     static_cast<std::int64_t>(std::llround(cosine / kQuantum)),
                     static_cast<std::int64_t>(a.order * 16 + b.order)};
    std::uint64_t hash = 1469598103934665603ULL;
    for (const std::int64_t part : key)
        hash = (hash ^ static_cast<std::uint64_t>(part)) * 0x9E3779B97F4A7C15ULL, hash ^= hash >> 29;
    Entry& entry = entries_[hash & mask_];
    if (used_[hash & mask_] == 0 || entry.key != key) {
        entry.key = key;
        used_[hash & mask_] = 1;
        ++computed_;
        pairMoments(a, b, k_, entry.moments);
        if (signA < 0.0 || signB < 0.0) {
            // Kept in the canonical sense.
            turned_ = entry.moments;
            entry.moments.turn(signA, signB, a.order, b.order);
            return turned_;
        }
        return entry.moments;
    }
    if (signA > 0.0 && signB > 0.0) return entry.moments;
    turned_ = entry.moments;
    turned_.turn(signA, signB, a.order, b.order);
    return turned_;
}

}  // namespace rm::em
