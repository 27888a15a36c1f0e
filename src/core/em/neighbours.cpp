#include "core/em/neighbours.h"

#include <algorithm>
#include <cmath>

#include "core/em/radials.h"
#include "core/model/geometry.h"

namespace rm::em {

namespace {

constexpr double kOneLine = 1e-6;  ///< two ends that differ from one line by less are one wire
constexpr double kLike = 1e-6;     ///< distances that differ by less are alike
constexpr double kOne = 0.4;       ///< places nearer to each other than this share of their distance are one
/// Wires that pass each other at a smaller angle (its sine) have no place where they cross.
constexpr double kCrossing = 0.25;

/// A place from which charge on other wires is disturbed.
struct Feature {
    Vec3 at;
    double radiusM = 0.0;
};

Vec3 placeOn(const model::PlainWire& wire, double share) {
    return wire.startM + share * (wire.endM - wire.startM);
}

/// Where wires end, bend, step or branch, and where ports are. Two ends in one line are no place at all.
class Features {
  public:
    explicit Features(const model::WireModel& model) {
        for (const auto& wire : model.wires) {
            const Vec3 along = (wire.endM - wire.startM).normalized();
            add({wire.startM, along, wire.radiusM, false});
            add({wire.endM, -along, wire.radiusM, false});
        }
        for (const auto& port : model.places()) {
            const auto& wire = model.wires.at(port.place.wire);
            add({placeOn(wire, port.place.at), Vec3::Zero(), wire.radiusM, true});
        }
        join();
    }

    std::vector<Feature> all;

  private:
    struct End {
        Vec3 at;
        Vec3 outward;
        double radiusM;
        bool port;
    };

    void add(const End& end) { ends_.push_back(end); }

    static bool oneLine(const End& a, const End& b) {
        return !a.port && !b.port && (a.outward + b.outward).norm() < kOneLine &&
               std::abs(a.radiusM - b.radiusM) < kOneLine * a.radiusM;
    }

    void join() {
        // In order of x, so that only few have to be compared.
        std::sort(ends_.begin(), ends_.end(), [](const End& a, const End& b) { return a.at.x() < b.at.x(); });
        std::vector<bool> taken(ends_.size(), false);
        for (std::size_t i = 0; i < ends_.size(); ++i) {
            if (taken[i]) continue;
            std::vector<std::size_t> here{i};
            for (std::size_t j = i + 1; j < ends_.size(); ++j) {
                const double tolerance = model::joinToleranceM(ends_[i].radiusM, ends_[j].radiusM);
                if (ends_[j].at.x() - ends_[i].at.x() > tolerance) break;
                if (taken[j] || (ends_[j].at - ends_[i].at).norm() > tolerance) continue;
                taken[j] = true;
                here.push_back(j);
            }
            if (here.size() == 2 && oneLine(ends_[here[0]], ends_[here[1]])) continue;
            all.push_back({ends_[i].at, ends_[i].radiusM});
        }
    }

    std::vector<End> ends_;
};

/// In order along the wire, without what lies within its own distance of a place that is nearer: it adds
/// nothing. Places of like distance that all but coincide become one. Takes no side of the wire.
std::vector<NearPlace> thinned(const std::vector<NearPlace>& places) {
    std::vector<NearPlace> kept;
    for (const auto& place : places)
        if (std::none_of(places.begin(), places.end(), [&](const NearPlace& other) {
                return other.distanceM < (1.0 - kLike) * place.distanceM &&
                       std::abs(other.atM - place.atM) < (1.0 - kLike) * place.distanceM;
            }))
            kept.push_back(place);
    std::sort(kept.begin(), kept.end(), [](const NearPlace& a, const NearPlace& b) { return a.atM < b.atM; });
    std::vector<NearPlace> apart;
    for (std::size_t i = 0; i < kept.size();) {
        std::size_t end = i + 1;
        double distance = kept[i].distanceM;
        while (end < kept.size() && kept[end].atM - kept[end - 1].atM <
                                        kOne * std::min(kept[end].distanceM, kept[end - 1].distanceM))
            distance = std::min(distance, kept[end++].distanceM);
        apart.push_back({0.5 * (kept[i].atM + kept[end - 1].atM), distance});
        i = end;
    }
    return apart;
}

class NearFinder {
  public:
    NearFinder(const model::PlainWire& wire, double reachM)
        : wire_(wire),
          lengthM_(wire.lengthM()),
          direction_((wire.endM - wire.startM) / lengthM_),
          reachM_(std::min(reachM, lengthM_)) {}

    void look(const Feature& feature) {
        const Vec3 from = feature.at - wire_.startM;
        const double along = from.dot(direction_);
        const double aside = (from - along * direction_).norm();
        if (aside > reachM_ || along < -reachM_ || along > lengthM_ + reachM_) return;
        const double touch = model::joinToleranceM(feature.radiusM, wire_.radiusM);
        if (aside <= touch && along > -touch && along < lengthM_ + touch) return;  // it is on this wire
        put(along, aside, feature.at);
    }

    void cross(const model::PlainWire& other) {
        const double touch = model::joinToleranceM(wire_.radiusM, other.radiusM);
        // Wires that share an end, as radials do, meet and cross nowhere.
        for (const Vec3* end : {&wire_.startM, &wire_.endM})
            for (const Vec3* its : {&other.startM, &other.endM})
                if ((*end - *its).squaredNorm() <= touch * touch) return;
        const Vec3 along = (other.endM - other.startM).normalized();
        const double sine = along.cross(direction_).norm();
        if (sine < kCrossing) return;
        const auto nearest = model::nearestPoints(wire_.startM, wire_.endM, other.startM, other.endM);
        if (nearest.distanceM > reachM_ || nearest.distanceM <= touch) return;
        const double here = (nearest.onA - wire_.startM).norm();
        const double there = (nearest.onB - other.startM).norm();
        const double d = nearest.distanceM;
        if (here < d || here > lengthM_ - d || there < d || there > other.lengthM() - d) return;
        places_.push_back({here, d / sine});
    }

    std::vector<NearPlace> places() const { return thinned(places_); }

  private:
    /// Beside the wire the place is the foot; near an end it is the end.
    void put(double along, double aside, const Vec3& at) {
        const double edge = (1.0 + kLike) * aside;
        if (along > edge && along < lengthM_ - edge) {
            places_.push_back({along, aside});
            return;
        }
        const bool atStart = along < 0.5 * lengthM_;
        const double distance = (at - (atStart ? wire_.startM : wire_.endM)).norm();
        if (distance <= reachM_) places_.push_back({atStart ? 0.0 : lengthM_, distance});
    }

    const model::PlainWire& wire_;
    double lengthM_;
    Vec3 direction_;
    double reachM_;
    std::vector<NearPlace> places_;
};

/// Radials are all cut alike, wherever something comes near to one of them: what makes them one system
/// (em/rotational.h) is worth more than the spans.
void shareAmongRadials(const model::WireModel& model, std::vector<std::vector<NearPlace>>& places) {
    for (const auto& set : radialSets(model)) {
        const double length = model.wires[set.front().wire].lengthM();
        std::vector<NearPlace> all;
        for (const auto& radial : set)
            for (const auto& place : places[radial.wire])
                all.push_back({radial.fromStart ? place.atM : length - place.atM, place.distanceM});
        const auto shared = thinned(all);
        for (const auto& radial : set) {
            const double own = model.wires[radial.wire].lengthM();
            auto& here = places[radial.wire];
            here = shared;
            for (auto& place : here) {
                // Ends stay ends to the last digit.
                if (place.atM <= 0.0 || place.atM >= length) place.atM = place.atM <= 0.0 ? 0.0 : own;
                if (!radial.fromStart) place.atM = own - place.atM;
            }
            if (!radial.fromStart) std::reverse(here.begin(), here.end());
        }
    }
}

}  // namespace

std::vector<std::vector<NearPlace>> nearPlaces(const model::WireModel& model, double reachM) {
    const Features features(model);
    std::vector<std::vector<NearPlace>> places;
    places.reserve(model.wires.size());
    for (const auto& wire : model.wires) {
        NearFinder finder(wire, reachM);
        for (const auto& feature : features.all) finder.look(feature);
        for (const auto& other : model.wires)
            if (&other != &wire) finder.cross(other);
        places.push_back(finder.places());
    }
    shareAmongRadials(model, places);
    return places;
}

}  // namespace rm::em
