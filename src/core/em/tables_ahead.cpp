#include "core/em/tables_ahead.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <span>

#include "core/em/parallel.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Points of a span that is far from the other, and of one that is close, where the integrals crowd towards
/// the ends: of -1 to 1.
constexpr double kFar[] = {-1.0, 0.0, 1.0};
constexpr double kClose[] = {-1.0, -0.97, -0.85, -0.5, 0.0, 0.5, 0.85, 0.97, 1.0};
/// Spans that meet: shares of their lengths from where they do, halved again and again.
constexpr int kHalvings = 12;
/// Closer than this share of their lengths, spans are close.
constexpr double kReach = 1.0;
/// Distances that no table has, m.
constexpr double kLeastM = 1e-5;
/// More pairs than these take longer to look at than the tables to build.
constexpr std::size_t kMostPairs = 20000;

/// Where a point of a span lies: along the ground, and from the surface.
struct Place {
    double x = 0.0;
    double y = 0.0;
    double fromSurface = 0.0;
};

Place placeAt(const Vec3& at) {
    return {at.x(), at.y(), std::abs(at.z())};
}

std::vector<Place> placesOn(const Span& span, std::span<const double> points) {
    std::vector<Place> places;
    for (const double t : points) places.push_back(placeAt(span.centreM + t * span.halfM() * span.direction));
    return places;
}

std::vector<Place> placesTowards(const Span& span, int node) {
    const Vec3 end = span.startNode == node ? span.startM() : span.endM();
    const Vec3 away = 2.0 * (span.centreM - end);
    std::vector<Place> places{placeAt(end)};
    for (int i = 0; i <= kHalvings; ++i) places.push_back(placeAt(end + std::ldexp(1.0, -i) * away));
    return places;
}

std::optional<int> sharedNode(const Span& a, const Span& b) {
    for (const int node : {a.startNode, a.endNode})
        if (node == b.startNode || node == b.endNode) return node;
    return std::nullopt;
}

/// The points that fall into each of the three tables.
struct Wanted {
    std::vector<TablePoint> air;
    std::vector<TablePoint> soil;
    std::vector<AcrossPoint> across;
};

void want(const Span& a, const Span& b, Wanted& wanted) {
    std::vector<Place> onA;
    std::vector<Place> onB;
    if (const auto node = sharedNode(a, b)) {
        onA = placesTowards(a, *node);
        onB = placesTowards(b, *node);
    } else {
        const double apart = (a.centreM - b.centreM).norm() - a.halfM() - b.halfM();
        const bool close = apart < kReach * std::min(a.lengthM, b.lengthM);
        const std::span<const double> points = close ? std::span<const double>(kClose) : kFar;
        onA = placesOn(a, points);
        onB = placesOn(b, points);
    }
    for (const Place& p : onA)
        for (const Place& q : onB) {
            const double rho = std::hypot(p.x - q.x, p.y - q.y);
            const double sum = p.fromSurface + q.fromSurface;
            if (std::max(rho, sum) < kLeastM) continue;
            if (a.inSoil != b.inSoil)
                wanted.across.push_back({rho, a.inSoil ? q.fromSurface : p.fromSurface,
                                         a.inSoil ? p.fromSurface : q.fromSurface});
            else
                (a.inSoil ? wanted.soil : wanted.air).push_back({rho, sum});
        }
}

}  // namespace

void buildTablesAhead(const GroundTables& tables, const Mesh& mesh, const std::vector<std::size_t>& from,
                      const std::vector<std::size_t>& to) {
    if (tables.air->builtSeries() + tables.soil->builtSeries() + tables.across->builtSeries() > 0) return;
    if (from.size() * to.size() > kMostPairs) return;
    // In air alone there is one table, whose pieces are built on all processors as it is.
    if (std::none_of(mesh.spans.begin(), mesh.spans.end(), [](const Span& span) { return span.inSoil; }))
        return;
    Wanted wanted;
    for (const std::size_t a : from)
        for (const std::size_t b : to) want(mesh.spans[a], mesh.spans[b], wanted);
    // Side by side: each has pieces that wait for others of its own.
    const auto stop = StopScope::current();
    parallelBoth(
        [&] {
            const StopScope scope(stop);
            tables.soil->prepare(wanted.soil);
            tables.air->prepare(wanted.air);
        },
        [&] {
            const StopScope scope(stop);
            tables.across->prepare(wanted.across);
        });
}

}  // namespace rm::em
