#include "core/em/mesh.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/em/neighbours.h"
#include "core/em/radials.h"
#include "core/em/span_basis.h"
#include "core/model/checks.h"
#include "core/model/geometry.h"
#include "core/model/limits.h"
#include "core/model/on_ground.h"
#include "core/model/soils.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

constexpr double kTiny = 1e-9;
constexpr double kStraight = 1e-6;           ///< sum of the outward directions of one line
constexpr double kSteep = 0.05;              ///< rise of a wire that counts as coming down to the ground
constexpr double kGroundGrowth = 20.0;       ///< growth from there
constexpr double kGroundSpanHeights = 10.0;  ///< first span there, in heights of its end
/// Order of the current by the length of the span in wavelengths: the first entry that is long enough.
constexpr struct {
    double wavelengths;
    int order;
} kOrders[] = {{0.03, 3}, {0.27, 4}, {0.4, 5}, {1e9, 6}};

constexpr double kMostWavelengths = 1500.0;  ///< of wire in all, symmetric or not

/// An end of a stretch of wire before cutting: a gap of a port there, or nothing special.
struct EndGap {
    std::size_t port = 0;
    double lengthM = 0.0;
    double share = 0.0;  ///< signed with respect to the direction of the wire
};

/// A stretch of wire between two break points, to be cut into spans.
struct Stretch {
    std::size_t wire = 0;
    double fromM = 0.0;
    double toM = 0.0;
    std::vector<EndGap> startGaps;
    std::vector<EndGap> endGaps;
    int startNode = -1;
    int endNode = -1;
    double startSizeM = std::numeric_limits<double>::max();  ///< most for the first span, for its neighbours
    double endSizeM = std::numeric_limits<double>::max();
    bool inSoil = false;

    double lengthM() const { return toM - fromM; }
};

/// Where a port sits after breaking: on a node at the end of a stretch.
struct StretchEnd {
    std::size_t stretch = 0;
    bool atEnd = false;
};

Vec3 pointOn(const model::PlainWire& wire, double distanceM) {
    return wire.startM + (wire.endM - wire.startM) * (distanceM / wire.lengthM());
}

/// The radius that the kernels see: with a coat, more than that of the metal.
double kernelRadiusM(const model::PlainWire& wire) {
    return coatedRadiusM(wire.radiusM, wire.coatM, wire.coatPermittivity);
}

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

class Mesher {
  public:
    Mesher(const model::WireModel& model, double frequencyHz, const MeshOptions& options)
        : model_(model),
          options_(options),
          lambda_(wavelengthM(frequencyHz)),
          soilWavelengthM_(model.ground.kind == model::GroundKind::Real
                               ? lambda_ /
                                     std::sqrt(std::abs(model::permittivityAt(model.ground, frequencyHz)))
                               : lambda_) {}

    Mesh build() {
        mesh_.ground = model_.ground;
        mesh_.feedCount = model_.feeds.size();
        for (const auto& wire : model_.wires)
            mesh_.wireMaterial.push_back(
                {wire.conductivitySm.value_or(std::numeric_limits<double>::infinity()), wire.radiusM,
                 coatInductancePerM(wire.radiusM, wire.coatM, wire.coatPermittivity),
                 coatElastanceM(wire.radiusM, wire.coatM, wire.coatPermittivity)});
        refuseWhatIsTooLarge();
        refuseWhatIsTooFarApart();
        breakWires();
        joinEnds();
        for (const auto& port : model_.places()) layPort(port);
        for (const auto& stretch : stretches_) cut(stretch);
        makeFunctions();
        return std::move(mesh_);
    }

  private:
    /// The wavelength where the stretch lies: in the soil, the length over which a wave there turns or falls
    /// by 2 pi.
    double wavelength(bool inSoil) const { return inSoil ? soilWavelengthM_ : lambda_; }

    double wavelengthsOf(const model::PlainWire& wire) const {
        return wire.lengthM() / wavelength(model::isInSoil(model_.ground, wire));
    }

    /// Before anything is laid out: a span of half a wavelength has about six unknowns. Equal radials of one
    /// hub are taken apart into small systems (em/rotational.h): all of them are counted as two.
    void refuseWhatIsTooLarge() const {
        std::vector<double> shares(model_.wires.size(), 1.0);
        for (const auto& set : radialSets(model_))
            for (const auto& radial : set)
                shares[radial.wire] = std::min(shares[radial.wire], 2.0 / static_cast<double>(set.size()));
        double wavelengths = 0.0;
        double together = 0.0;
        double wires = 0.0;
        for (std::size_t w = 0; w < model_.wires.size(); ++w) {
            wavelengths += wavelengthsOf(model_.wires[w]);
            together += shares[w] * wavelengthsOf(model_.wires[w]);
            wires += shares[w];
        }
        const double unknowns = 12.0 * together + 2.0 * wires;
        const auto most = static_cast<double>(model::kMostUnknowns);
        if (unknowns <= most && wavelengths <= kMostWavelengths) return;
        throw Error(
            say("The wires are {:.3g} wavelengths long in all at {:.6g} MHz: that takes about {:.3g} "
                "unknowns, and at most {} "
                "can be worked out. Make the antenna smaller or the frequency lower.",
                wavelengths, kSpeedOfLight / lambda_ / 1e6, std::max(unknowns, 12.0 * wavelengths),
                unknowns <= most ? std::llround(12.0 * kMostWavelengths) : std::llround(most)));
    }

    /// Where two wires lie to each other is told to 1e-13 rad, which whole numbers do up to 9e5 rad; so far
    /// apart, two antennas know nothing of each other anyway.
    void refuseWhatIsTooFarApart() const {
        Eigen::AlignedBox3d all;
        Eigen::AlignedBox3d buried;
        for (const auto& wire : model_.wires)
            for (Vec3 end : {wire.startM, wire.endM}) {
                all.extend(end);
                // What the ground mirrors lies as far below.
                if (model_.ground.kind != model::GroundKind::FreeSpace)
                    all.extend(Vec3(end.x(), end.y(), -end.z()));
                if (model::isInSoil(model_.ground, wire)) buried.extend(end);
            }
        const double across = all.isEmpty() ? 0.0 : all.diagonal().norm() / lambda_;
        const double inSoil = buried.isEmpty() ? 0.0 : buried.diagonal().norm() / soilWavelengthM_;
        const double most = model::kMostPhase / (2.0 * kPi);
        if (std::max(across, inSoil) <= most) return;
        throw Error(
            say("The wires lie {:.3g} wavelengths{} apart at {:.6g} MHz, and at most {:.0f} can be "
                "worked out. Bring them closer together, or lower the frequency.",
                std::max(across, inSoil), inSoil > across ? say(" in the soil") : "",
                kSpeedOfLight / lambda_ / 1e6, most));
    }

    /// Splits every wire at joints and at ports, so that every port is at an end of a stretch.
    void breakWires() {
        const double most = options_.maxSpanWavelengths * lambda_;
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
                    if (std::abs(b - at) < std::max(kTiny * length, 0.5 * model_.wires[w].radiusM)) return;
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
                stretches_.push_back(stretch);
            }
        }
    }

    struct SizeAt {
        double atM = 0.0;
        double mostM = 0.0;
    };

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

    static double sizeAt(const std::vector<SizeAt>& sizes, double atM) {
        double most = std::numeric_limits<double>::max();
        for (const auto& size : sizes)
            if (size.atM == atM) most = std::min(most, size.mostM);
        return most;
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
        for (auto& stretch : stretches_) {
            const auto& wire = model_.wires[stretch.wire];
            stretch.startNode = nodeAt(pointOn(wire, stretch.fromM), wire.radiusM);
            stretch.endNode = nodeAt(pointOn(wire, stretch.toM), wire.radiusM);
        }
        nodeCount_ = static_cast<int>(nodePoint.size());
        endsAt_.resize(nodePoint.size());
        for (std::size_t s = 0; s < stretches_.size(); ++s) {
            endsAt_[static_cast<std::size_t>(stretches_[s].startNode)].push_back({s, false});
            endsAt_[static_cast<std::size_t>(stretches_[s].endNode)].push_back({s, true});
        }
        grounded_.assign(nodePoint.size(), false);
        if (model_.ground.kind == model::GroundKind::Perfect)
            for (std::size_t n = 0; n < nodePoint.size(); ++n)
                grounded_[n] =
                    std::abs(nodePoint[n].z()) <= model::joinToleranceM(nodeRadius[n], nodeRadius[n]);
    }

    const std::vector<StretchEnd>& endsAt(int node) const { return endsAt_[static_cast<std::size_t>(node)]; }

    /// Lays the gap of a port: half of it on its own wire and half on the wire that joins there; on perfect
    /// ground the image is the other half; where more than two ends meet, the half on its own wire takes all
    /// of the voltage, and so does that on every wire that is fed together with it. Where others are fed
    /// against these, each of the two sides takes half of the voltage towards what is left in the middle.
    void layPort(const model::WireModel::PortPlace& place) {
        const std::string& name = place.name;
        const auto& wire = model_.wires.at(place.place.wire);
        const StretchEnd own = endAt(place.place);
        // What is no longer than a joint is part of it, and no place for a gap.
        if (own.stretch == stretches_.size())
            throw Error(say("{} sits on {}, which is {:.1g} m long: too short to be worked out.", name,
                            wire.part, wire.lengthM()));
        const int node = nodeOf(own);
        const auto& ends = endsAt(node);
        const bool grounded = grounded_[static_cast<std::size_t>(node)];
        if (ends.size() < 2 && !grounded)
            throw Error(name + say(" sits on an open end of ") + wire.part +
                        say(": move it along the wire."));

        Port port;
        port.name = name;
        const std::size_t index = mesh_.ports.size();
        const bool twoSided =
            !grounded && ends.size() == 2 && isInSoil(ends.front()) == isInSoil(ends.back());
        std::vector<StretchEnd> gapped{endForGap(ends, own, name)};
        for (const auto& other : place.together) {
            const StretchEnd end = endAt(other);
            if (end.stretch < stretches_.size() && nodeOf(end) == node && !sameEnd(end, own))
                gapped.push_back(end);
        }
        std::vector<StretchEnd> opposite;
        for (const auto& other : place.against) {
            const StretchEnd end = endAt(other);
            if (end.stretch < stretches_.size() && nodeOf(end) == node && !sameEnd(end, own))
                opposite.push_back(end);
        }
        if (gapped.size() + opposite.size() >= ends.size() && !grounded && ends.size() > 1 &&
            place.together.size() > 0)
            throw Error(name + say(" has all wires of its joint on one side: leave one on the other."));
        const auto isIn = [](const std::vector<StretchEnd>& list, const StretchEnd& end) {
            return std::any_of(list.begin(), list.end(),
                               [&](const StretchEnd& one) { return sameEnd(one, end); });
        };
        const auto isGapped = [&](const StretchEnd& end) { return isIn(gapped, end) || isIn(opposite, end); };
        double half = 0.5 * options_.gapRadii * kernelRadiusM(wire);
        for (const auto& end : ends)
            if (twoSided || isGapped(end)) half = std::min(half, stretches_[end.stretch].lengthM() / 4.0);
        for (const auto& end : ends) {
            if (!twoSided && !isGapped(end)) continue;
            // The port current runs out of the node along its own wire when the port is at the start of the
            // stretch, and into the node when it is at the end; a neighbour continues it, and what is fed
            // together with it does the same.
            const double outward = end.atEnd ? -1.0 : 1.0;
            const double ownOutward = own.atEnd ? -1.0 : 1.0;
            const bool fed = sameEnd(end, own) || (place.together.size() > 0 && isIn(gapped, end));
            const double along = sameEnd(end, own) ? 1.0 : fed ? ownOutward * outward : -ownOutward * outward;
            auto& stretch = stretches_[end.stretch];
            auto& gaps = end.atEnd ? stretch.endGaps : stretch.startGaps;
            gaps.push_back({index, half, along * (twoSided || !opposite.empty() ? 0.5 : 1.0)});
            port.gapLengthM += half;
        }
        mesh_.ports.push_back(port);
    }

    int nodeOf(const StretchEnd& end) const {
        return end.atEnd ? stretches_[end.stretch].endNode : stretches_[end.stretch].startNode;
    }

    /// The end of a stretch that is nearest to a place. Away from the start of the wire wins: a port in a
    /// wire belongs to the stretch that follows.
    StretchEnd endAt(const model::WirePlace& place) const {
        const double at = place.at * model_.wires.at(place.wire).lengthM();
        StretchEnd own{stretches_.size(), false};
        double best = std::numeric_limits<double>::max();
        for (std::size_t s = 0; s < stretches_.size(); ++s) {
            if (stretches_[s].wire != place.wire) continue;
            for (const bool atEnd : {false, true}) {
                const double distance = std::abs((atEnd ? stretches_[s].toM : stretches_[s].fromM) - at);
                if (distance < best - 1e-12) {
                    best = distance;
                    own = {s, atEnd};
                }
            }
        }
        return own;
    }

    bool isInSoil(const StretchEnd& end) const { return stretches_[end.stretch].inSoil; }

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

    /// Cuts one stretch: gap spans at its ends, spans that grow away from them, equal spans between.
    void cut(const Stretch& stretch) {
        const double length = stretch.lengthM();
        const double maxSpan = options_.maxSpanWavelengths * wavelength(stretch.inSoil);
        const auto gapLength = [](const std::vector<EndGap>& gaps) {
            double g = 0.0;
            for (const auto& gap : gaps) g = g == 0.0 ? gap.lengthM : std::min(g, gap.lengthM);
            return g;
        };
        const double radius = kernelRadiusM(model_.wires[stretch.wire]);
        const double endSpan = kEndSpanRadii * radius;
        const auto endFunction = [&](int node) {
            return options_.endFunctions && isOpen(node) && length > 4.0 * endSpan;
        };
        const bool startFunction = endFunction(stretch.startNode);
        const bool stopFunction = endFunction(stretch.endNode);
        // What stands at an end before the ordinary spans begin: a gap, the span of an end function, or
        // nothing.
        const double startPiece = startFunction ? endSpan : gapLength(stretch.startGaps);
        const double endPiece = stopFunction ? endSpan : gapLength(stretch.endGaps);
        std::vector<double> head;
        std::vector<double> tail;
        if (startPiece > 0.0) head.push_back(startPiece);
        if (endPiece > 0.0) tail.push_back(endPiece);
        double left = length - startPiece - endPiece;
        // Grow from both ends until what is left is no longer than the next growth step allows.
        double nextHead = firstSize(stretch.startNode, startPiece, radius);
        double nextTail = firstSize(stretch.endNode, endPiece, radius);
        const double headGrowth = std::min({shortened(nextHead, groundSize(stretch, false), kGroundGrowth),
                                            shortened(nextHead, stretch.startSizeM, options_.neighbourGrowth),
                                            growthFrom(stretch.startGaps)});
        const double tailGrowth = std::min({shortened(nextTail, groundSize(stretch, true), kGroundGrowth),
                                            shortened(nextTail, stretch.endSizeM, options_.neighbourGrowth),
                                            growthFrom(stretch.endGaps)});
        bool headAhead = false;  // the head has grown by a piece that the tail may take next
        while (true) {
            const bool fromHead = nextHead <= nextTail;
            double& next = fromHead ? nextHead : nextTail;
            const double allowed = std::min(next, maxSpan);
            const double pieces = std::ceil(left / maxSpan - kTiny);
            if (left / std::max(1.0, pieces) <= allowed * 1.3 || next >= maxSpan) break;
            headAhead = fromHead && next == nextTail;
            (fromHead ? head : tail).push_back(next);
            left -= next;
            next *= fromHead ? headGrowth : tailGrowth;
        }
        // Ends alike are cut alike: what the head alone has taken is shared with the middle.
        if (headAhead) {
            left += head.back();
            head.pop_back();
        }
        std::vector<double> sizes = head;
        const int middle = std::max(headAhead ? 2 : 1, static_cast<int>(std::ceil(left / maxSpan - 1e-6)));
        for (int i = 0; i < middle; ++i) sizes.push_back(left / middle);
        sizes.insert(sizes.end(), tail.rbegin(), tail.rend());
        lay(stretch, sizes, startFunction, stopFunction);
    }

    bool isOpen(int node) const {
        return endsAt(node).size() == 1 && !grounded_[static_cast<std::size_t>(node)];
    }

    double growthFrom(const std::vector<EndGap>& gaps) const {
        return gaps.empty() ? options_.growth : options_.gapGrowth;
    }

    /// Where wires meet at an angle or more than two of them do.
    bool isBend(int node) const {
        const auto& ends = endsAt(node);
        if (ends.size() > 2) return true;
        if (ends.size() < 2) return false;
        const auto outward = [&](const StretchEnd& end) {
            const auto& wire = model_.wires[stretches_[end.stretch].wire];
            const Vec3 along = (wire.endM - wire.startM).normalized();
            return end.atEnd ? Vec3(-along) : along;
        };
        return (outward(ends[0]) + outward(ends[1])).norm() > kStraight;
    }

    /// Most for the first ordinary span at an end that comes down to the ground, or up to it: the image
    /// crowds the charge over a length like the height. A level wire has the same charge all along and needs
    /// none of this.
    double groundSize(const Stretch& stretch, bool atEnd) const {
        const auto& wire = model_.wires[stretch.wire];
        const double away = stretch.inSoil ? -1.0 : 1.0;
        const double rise = away * (wire.endM.z() - wire.startM.z()) / wire.lengthM() * (atEnd ? -1.0 : 1.0);
        const double height = away * pointOn(wire, atEnd ? stretch.toM : stretch.fromM).z();
        const bool standing = height <= model::joinToleranceM(wire.radiusM, wire.radiusM);
        if (model_.ground.kind == model::GroundKind::FreeSpace || rise < kSteep || standing)
            return std::numeric_limits<double>::max();
        return kGroundSpanHeights * height;
    }

    /// Shortens the first span where the ground or a neighbour asks for it, and answers with the growth from
    /// there.
    double shortened(double& first, double most, double growth) const {
        if (most >= first) return options_.growth;
        first = most;
        return std::min(options_.growth, growth);
    }

    /// Length of the first ordinary span at an end: the charge changes fast next to a gap and at an open end.
    double firstSize(int node, double piece, double radius) const {
        if (piece > 0.0) return piece * (isOpen(node) ? options_.growth : options_.gapGrowth);
        if (isOpen(node)) return options_.plainEndRadii * radius;
        return options_.bendRadii > 0.0 && isBend(node) ? options_.bendRadii * radius
                                                        : std::numeric_limits<double>::max();
    }

    void lay(const Stretch& stretch, const std::vector<double>& sizes, bool startFunction,
             bool stopFunction) {
        const auto& wire = model_.wires[stretch.wire];
        const Vec3 direction = (wire.endM - wire.startM) / wire.lengthM();
        const double correction = kEndCorrectionRadii * kernelRadiusM(wire);
        // What the polynomial of the last span misses where it stands at an open end itself.
        const auto missed = [&](int end, bool function, double size) {
            if (!isOpen(end)) return 0.0;
            const int order = orderFor(size / wavelength(stretch.inSoil));
            return function ? correction : kPlainEndCorrection * size / (order * order);
        };
        const double before = missed(stretch.startNode, startFunction, sizes.front());
        const double behind = missed(stretch.endNode, stopFunction, sizes.back());
        double at = stretch.fromM - before;
        int node = stretch.startNode;
        const std::size_t first = mesh_.spans.size();
        for (std::size_t i = 0; i < sizes.size(); ++i) {
            Span span;
            span.wire = stretch.wire;
            span.direction = direction;
            span.lengthM = sizes[i];
            if (i == 0) span.lengthM += before;
            if (i + 1 == sizes.size()) span.lengthM += behind;
            span.radiusM = kernelRadiusM(wire);
            span.startOnWireM = at;
            span.centreM = wire.startM + (at + 0.5 * span.lengthM) * direction;
            span.inSoil = stretch.inSoil;
            span.order = orderFor(span.lengthM / wavelength(stretch.inSoil));
            if (isBesideGap(stretch, i, sizes.size())) span.order = std::max(span.order, gapOrder());
            if (startFunction && i == 0) span.kind = SpanKind::OpenStart;
            if (stopFunction && i + 1 == sizes.size()) span.kind = SpanKind::OpenEnd;
            if (span.kind != SpanKind::Inner) span.order = kMaxOrder;
            span.startNode = node;
            node = i + 1 == sizes.size() ? stretch.endNode : nodeCount_++;
            span.endNode = node;
            span.firstLocal = mesh_.localCount;
            mesh_.localCount += static_cast<std::size_t>(basisOf(span).count);
            mesh_.spans.push_back(span);
            at += span.lengthM;
        }
        for (const auto& gap : stretch.startGaps) mesh_.ports[gap.port].gap.push_back({first, gap.share});
        for (const auto& gap : stretch.endGaps)
            mesh_.ports[gap.port].gap.push_back({mesh_.spans.size() - 1, gap.share});
    }

    static bool isBesideGap(const Stretch& stretch, std::size_t i, std::size_t count) {
        return (i == 1 && !stretch.startGaps.empty()) || (i + 2 == count && !stretch.endGaps.empty());
    }

    int gapOrder() const {
        return options_.fixedOrder > 0 ? options_.fixedOrder
                                       : std::min(options_.gapOrder + options_.moreOrder, kMaxOrder);
    }

    int orderFor(double electrical) const {
        if (options_.fixedOrder > 0) return options_.fixedOrder;
        const int byLength = std::find_if(std::begin(kOrders), std::end(kOrders), [&](const auto& entry) {
                                 return electrical <= entry.wavelengths;
                             })->order;
        return std::min(byLength + options_.moreOrder, kMaxOrder);
    }

    /// Inner functions of every span, then at every node a pairing of its ends: n - 1 functions for n ends, n
    /// where the node stands on perfect ground.
    void makeFunctions() {
        std::vector<std::vector<LocalTerm>> outward(static_cast<std::size_t>(nodeCount_));
        for (const auto& span : mesh_.spans) {
            if (span.kind == SpanKind::OpenStart)
                outward[static_cast<std::size_t>(span.endNode)].push_back({span.firstLocal, -1.0});
            if (span.kind == SpanKind::OpenEnd)
                outward[static_cast<std::size_t>(span.startNode)].push_back({span.firstLocal, 1.0});
            if (span.kind != SpanKind::Inner) continue;
            outward[static_cast<std::size_t>(span.startNode)].push_back({span.firstLocal, 1.0});
            outward[static_cast<std::size_t>(span.endNode)].push_back({span.firstLocal + 1, -1.0});
            for (int p = 2; p <= span.order; ++p)
                mesh_.functions.push_back(
                    {{span.firstLocal + static_cast<std::size_t>(p), 1.0}, {span.firstLocal, 0.0}});
        }
        for (std::size_t n = 0; n < outward.size(); ++n) {
            const auto& ends = outward[n];
            const bool grounded = n < grounded_.size() && grounded_[n];
            if (grounded)
                for (const auto& end : ends) mesh_.functions.push_back({end, {end.local, 0.0}});
            else
                for (std::size_t i = 1; i < ends.size(); ++i)
                    mesh_.functions.push_back({{ends[0].local, -ends[0].sign}, ends[i]});
        }
    }

    const model::WireModel& model_;
    MeshOptions options_;
    double lambda_;
    double soilWavelengthM_;
    Mesh mesh_;
    std::vector<Stretch> stretches_;
    std::vector<std::vector<StretchEnd>> endsAt_;  ///< of each node
    std::vector<bool> grounded_;
    int nodeCount_ = 0;
};

}  // namespace

Span Span::mirrored() const {
    Span image = *this;
    image.centreM.z() = -centreM.z();
    image.direction.z() = -direction.z();
    return image;
}

Mesh makeMesh(const model::WireModel& model, double frequencyHz, const MeshOptions& options) {
    model::requireSolvable(model, frequencyHz);
    return Mesher(model, frequencyHz, options).build();
}

Mesh makeMesh(const model::WireModel& model, double frequencyHz) {
    return makeMesh(model, frequencyHz, meshOptions(model.fineness));
}

MeshOptions meshOptions(int fineness) {
    MeshOptions o;
    if (fineness <= 0) return o;
    if (fineness == 1) {
        o.bendRadii = 1.4;
        o.gapGrowth = 10.0;
        return o;
    }
    const bool check = fineness > kFineMesh;
    o.moreOrder = 2;
    o.endFunctions = false;
    o.plainEndRadii = o.bendRadii = check ? 1.0 : 1.4;
    o.growth = o.gapGrowth = o.neighbourGrowth = check ? 16.0 : 10.0;
    o.neighbourDistances = check ? 2.0 : 1.4;
    return o;
}

std::vector<LocalTerm> portWeights(const Mesh& mesh, std::size_t port) {
    std::vector<LocalTerm> weights;
    for (const auto& piece : mesh.ports.at(port).gap) {
        const Span& span = mesh.spans[piece.span];
        // Averages of the local functions over the span: 1/2, 1/2, -1/3 for degree 2, 0 above.
        weights.push_back({span.firstLocal, 0.5 * piece.share});
        weights.push_back({span.firstLocal + 1, 0.5 * piece.share});
        if (span.order >= 2) weights.push_back({span.firstLocal + 2, -piece.share / 3.0});
    }
    return weights;
}

}  // namespace rm::em
