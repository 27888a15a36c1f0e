#include "core/em/stretches.h"

#include <algorithm>
#include <cmath>

#include "core/em/conductor.h"
#include "core/em/neighbours.h"
#include "core/model/geometry.h"
#include "core/model/on_ground.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

constexpr double kSameFraction = 1e-9;  ///< of a wire, within which two breaks are one

/// Distances along `wire` where ends of other wires lie on it, its own ends included.
std::vector<double> breaksOn(const model::WireModel& model, std::size_t index) {
    const auto& wire = model.wires[index];
    const double length = wire.lengthM();
    const Vec3 direction = (wire.endM - wire.startM) / length;
    std::vector<double> breaks{0.0, length};
    if (const double at = model::crossing(model.ground, wire); at > 0.0) breaks.push_back(at * length);
    for (std::size_t other = 0; other < model.wires.size(); ++other) {
        if (other == index) continue;
        const double tolerance = model::joinToleranceM(wire.radiusM, model.wires[other].radiusM);
        for (const Vec3& point : {model.wires[other].startM, model.wires[other].endM}) {
            const double along = (point - wire.startM).dot(direction);
            if (along <= tolerance || along >= length - tolerance) continue;
            if ((wire.startM + along * direction - point).norm() <= tolerance) breaks.push_back(along);
        }
    }
    std::sort(breaks.begin(), breaks.end());
    breaks.erase(std::unique(breaks.begin(), breaks.end(),
                             [&](double a, double b) { return std::abs(a - b) < 0.5 * wire.radiusM; }),
                 breaks.end());
    return breaks;
}

/// Most for the first span from a place on a wire.
struct SizeAt {
    double atM = 0.0;
    double mostM = 0.0;
};

double sizeAt(const std::vector<SizeAt>& sizes, double atM) {
    double most = std::numeric_limits<double>::max();
    for (const auto& size : sizes)
        if (size.atM == atM) most = std::min(most, size.mostM);
    return most;
}

class Layer {
  public:
    Layer(const model::WireModel& model, const Wavelengths& wavelengths, const MeshOptions& options)
        : model_(model), wavelengths_(wavelengths), options_(options) {}

    Stretches lay() {
        breakWires();
        joinEnds();
        for (const auto& port : model_.places()) layPort(port);
        return std::move(laid_);
    }

  private:
    /// Splits every wire at joints and at ports, so that every port is at an end of a stretch.
    void breakWires() {
        const double most = options_.maxSpanWavelengths * wavelengths_.airM;
        const auto near = options_.neighbourDistances > 0.0
                              ? nearPlaces(model_, most / options_.neighbourDistances)
                              : std::vector<std::vector<NearPlace>>(model_.wires.size());
        for (std::size_t w = 0; w < model_.wires.size(); ++w) {
            std::vector<double> breaks = breaksOn(model_, w);
            const double length = model_.wires[w].lengthM();
            const auto addPort = [&](const model::WirePlace& place) {
                if (place.wire != w) return;
                const double at = place.at * length;
                for (const double b : breaks)
                    if (std::abs(b - at) < std::max(kSameFraction * length, 0.5 * model_.wires[w].radiusM))
                        return;
                breaks.push_back(at);
            };
            for (const auto& port : model_.places()) addPort(port.place);
            const auto sizes = breakNearNeighbours(near[w], breaks);
            std::sort(breaks.begin(), breaks.end());
            for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
                Stretch stretch;
                stretch.wire = w;
                stretch.fromM = breaks[i];
                stretch.toM = breaks[i + 1];
                stretch.startSizeM = sizeAt(sizes, breaks[i]);
                stretch.endSizeM = sizeAt(sizes, breaks[i + 1]);
                stretch.inSoil = model::isInSoil(model_.ground, pointOn(model_.wires[w], stretch.fromM),
                                                 pointOn(model_.wires[w], stretch.toM));
                laid_.all.push_back(stretch);
            }
        }
    }

    /// Breaks beside what is near; what is near a break that is there already only says how long the first
    /// span from it may be.
    std::vector<SizeAt> breakNearNeighbours(const std::vector<NearPlace>& near,
                                            std::vector<double>& breaks) const {
        std::vector<SizeAt> sizes;
        const std::vector<double> given = breaks;
        for (const auto& place : near) {
            const auto closest = std::min_element(given.begin(), given.end(), [&](double a, double b) {
                return std::abs(a - place.atM) < std::abs(b - place.atM);
            });
            const double away = std::abs(*closest - place.atM);
            const bool there = away <= place.distanceM;
            if (!there) breaks.push_back(place.atM);
            sizes.push_back({there ? *closest : place.atM,
                             options_.neighbourDistances *
                                 (there ? std::hypot(place.distanceM, away) : place.distanceM)});
        }
        return sizes;
    }

    /// Gives coinciding ends of stretches the same node.
    void joinEnds() {
        std::vector<Vec3> nodePoint;
        std::vector<double> nodeRadius;
        const auto nodeAt = [&](const Vec3& point, double radius) {
            for (std::size_t n = 0; n < nodePoint.size(); ++n) {
                if ((nodePoint[n] - point).norm() > model::joinToleranceM(radius, nodeRadius[n])) continue;
                nodeRadius[n] = std::max(nodeRadius[n], radius);
                return static_cast<int>(n);
            }
            nodePoint.push_back(point);
            nodeRadius.push_back(radius);
            return static_cast<int>(nodePoint.size()) - 1;
        };
        for (auto& stretch : laid_.all) {
            const auto& wire = model_.wires[stretch.wire];
            stretch.startNode = nodeAt(pointOn(wire, stretch.fromM), wire.radiusM);
            stretch.endNode = nodeAt(pointOn(wire, stretch.toM), wire.radiusM);
        }
        laid_.endsAt.resize(nodePoint.size());
        for (std::size_t s = 0; s < laid_.all.size(); ++s) {
            laid_.endsAt[static_cast<std::size_t>(laid_.all[s].startNode)].push_back({s, false});
            laid_.endsAt[static_cast<std::size_t>(laid_.all[s].endNode)].push_back({s, true});
        }
        laid_.grounded.assign(nodePoint.size(), false);
        if (model_.ground.kind == model::GroundKind::Perfect)
            for (std::size_t n = 0; n < nodePoint.size(); ++n)
                laid_.grounded[n] =
                    std::abs(nodePoint[n].z()) <= model::joinToleranceM(nodeRadius[n], nodeRadius[n]);
    }

    /// Lays the gap of a port: half of it on its own wire and half on the wire that joins there; on perfect
    /// ground the image is the other half; where more than two ends meet, the half on its own wire takes all
    /// of the voltage, and so does that on every wire that is fed together with it. Where others are fed
    /// against these, each of the two sides takes half of the voltage towards what is left in the middle.
    void layPort(const model::WireModel::PortPlace& place) {
        const std::string& name = place.name;
        const auto& wire = model_.wires.at(place.place.wire);
        const StretchEnd own = endAt(place.place);
        // What is no longer than a joint is part of it, and no place for a gap.
        if (own.stretch == laid_.all.size())
            throw Error(say("{} sits on {}, which is {:.1g} m long: too short to be worked out.", name,
                            wire.part, wire.lengthM()));
        const int node = nodeOf(own);
        const auto& ends = laid_.endsOf(node);
        const bool grounded = laid_.isGrounded(node);
        if (ends.size() < 2 && !grounded)
            throw Error(name + say(" sits on an open end of ") + wire.part +
                        say(": move it along the wire."));

        Port port;
        port.name = name;
        const std::size_t index = laid_.ports.size();
        const bool twoSided =
            !grounded && ends.size() == 2 && isInSoil(ends.front()) == isInSoil(ends.back());
        std::vector<StretchEnd> gapped{endForGap(ends, own, name)};
        for (const auto& other : place.together) {
            const StretchEnd end = endAt(other);
            if (end.stretch < laid_.all.size() && nodeOf(end) == node && end != own) gapped.push_back(end);
        }
        std::vector<StretchEnd> opposite;
        for (const auto& other : place.against) {
            const StretchEnd end = endAt(other);
            if (end.stretch < laid_.all.size() && nodeOf(end) == node && end != own) opposite.push_back(end);
        }
        if (gapped.size() + opposite.size() >= ends.size() && !grounded && ends.size() > 1 &&
            place.together.size() > 0)
            throw Error(name + say(" has all wires of its joint on one side: leave one on the other."));
        const auto isIn = [](const std::vector<StretchEnd>& list, const StretchEnd& end) {
            return std::find(list.begin(), list.end(), end) != list.end();
        };
        const auto isGapped = [&](const StretchEnd& end) { return isIn(gapped, end) || isIn(opposite, end); };
        double half = 0.5 * options_.gapRadii * kernelRadiusM(wire);
        for (const auto& end : ends)
            if (twoSided || isGapped(end)) half = std::min(half, laid_.all[end.stretch].lengthM() / 4.0);
        for (const auto& end : ends) {
            if (!twoSided && !isGapped(end)) continue;
            // The port current runs out of the node along its own wire when the port is at the start of the
            // stretch, and into the node when it is at the end; a neighbour continues it, and what is fed
            // together with it does the same.
            const double outward = end.atEnd ? -1.0 : 1.0;
            const double ownOutward = own.atEnd ? -1.0 : 1.0;
            const bool fed = end == own || (place.together.size() > 0 && isIn(gapped, end));
            const double along = end == own ? 1.0 : fed ? ownOutward * outward : -ownOutward * outward;
            auto& stretch = laid_.all[end.stretch];
            auto& gaps = end.atEnd ? stretch.endGaps : stretch.startGaps;
            gaps.push_back({index, half, along * (twoSided || !opposite.empty() ? 0.5 : 1.0)});
            port.gapLengthM += half;
        }
        laid_.ports.push_back(port);
    }

    int nodeOf(const StretchEnd& end) const {
        return end.atEnd ? laid_.all[end.stretch].endNode : laid_.all[end.stretch].startNode;
    }

    /// The end of a stretch that is nearest to a place. Away from the start of the wire wins: a port in a
    /// wire belongs to the stretch that follows.
    StretchEnd endAt(const model::WirePlace& place) const {
        const double at = place.at * model_.wires.at(place.wire).lengthM();
        StretchEnd own{laid_.all.size(), false};
        double best = std::numeric_limits<double>::max();
        for (std::size_t s = 0; s < laid_.all.size(); ++s) {
            if (laid_.all[s].wire != place.wire) continue;
            for (const bool atEnd : {false, true}) {
                const double distance = std::abs((atEnd ? laid_.all[s].toM : laid_.all[s].fromM) - at);
                if (distance < best - 1e-12) {
                    best = distance;
                    own = {s, atEnd};
                }
            }
        }
        return own;
    }

    bool isInSoil(const StretchEnd& end) const { return laid_.all[end.stretch].inSoil; }

    /// Where ends in air and in the soil meet, a one-sided gap lies in the air.
    StretchEnd endForGap(const std::vector<StretchEnd>& ends, const StretchEnd& own,
                         const std::string& name) const {
        if (!isInSoil(own)) return own;
        std::vector<StretchEnd> inAir;
        for (const auto& end : ends)
            if (!isInSoil(end)) inAir.push_back(end);
        if (inAir.empty()) return own;
        if (inAir.size() > 1)
            throw Error(say("{} sits at the surface, where {} wires in air meet: put it on one of those.",
                            name, inAir.size()));
        return inAir.front();
    }

    static bool sameEnd(const StretchEnd& a, const StretchEnd& b) {
        return a.stretch == b.stretch && a.atEnd == b.atEnd;
    }

    const model::WireModel& model_;
    const Wavelengths& wavelengths_;
    const MeshOptions& options_;
    Stretches laid_;
};

}  // namespace

Vec3 pointOn(const model::PlainWire& wire, double distanceM) {
    return wire.startM + (wire.endM - wire.startM) * (distanceM / wire.lengthM());
}

/// The radius that the kernels see: with a coat, more than that of the metal.
double kernelRadiusM(const model::PlainWire& wire) {
    return coatedRadiusM(wire.radiusM, wire.coatM, wire.coatPermittivity);
}

Stretches layStretches(const model::WireModel& model, const Wavelengths& wavelengths,
                       const MeshOptions& options) {
    return Layer(model, wavelengths, options).lay();
}

}  // namespace rm::em
