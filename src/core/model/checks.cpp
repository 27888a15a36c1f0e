#include "core/model/checks.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/model/geometry.h"
#include "core/model/limits.h"
#include "core/model/on_ground.h"
#include "core/model/soils.h"
#include "core/model/wire_boxes.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

/// Above this radius in wavelengths the current no longer runs only along the wire.
constexpr double kThickRadius = 0.01;
/// Above this one the answer is not to be trusted at all.
constexpr double kTooThickRadius = 0.05;

/// Wires that leave a joint at an acute angle are refused where they stay closer than four radii of both for
/// more than this share of the shorter one.
constexpr double kAcuteDeg = 5.0;
constexpr double kSharpestDeg = 1.99;
constexpr double kCloseRadii = 4.0;
constexpr double kMostClose = 0.05;

/// Errors after which pairs are not looked at any more: whoever has mended so many sees the others then.
/// Warnings do not count: behind any number of them an error is still found. Copies on one another say the
/// same over and over, which is listed once and counted here.
constexpr std::size_t kMostErrors = 200;
constexpr std::size_t kMostRepeated = 20000;
/// Two wires that are this many of their radii apart have nothing to do with each other here.
constexpr double kPairRadii = 4.0;

std::string both(const PlainWire& a, const PlainWire& b) {
    return a.part == b.part ? say("Two wires of {}", a.part) : say("{} and {}", a.part, b.part);
}

class Checker {
  public:
    Checker(const WireModel& model, double frequencyHz) : model_(model), lambda_(wavelengthM(frequencyHz)) {
        if (model.ground.kind == GroundKind::Real)
            soilIndex_ = std::sqrt(std::abs(permittivityAt(model.ground, frequencyHz)));
    }

    std::vector<Finding> thickWires() {
        for (const auto& wire : model_.wires) thickness(wire);
        return std::move(findings_);
    }

    std::vector<Finding> run() {
        for (const auto& wire : model_.wires) single(wire);
        if (hasError(findings_)) return std::move(findings_);
        pairs();
        if (!hasError(findings_)) {
            for (const auto& p : model_.places()) port(p.name, p.place);
            feedsApart();
        }
        return std::move(findings_);
    }

  private:
    void add(Severity severity, const std::string& part, const std::string& sentence,
             const std::string& mend) {
        // A fan of radials has many wires with the same trouble: say it once.
        if (!said_.insert(sentence).second) {
            if (severity == Severity::Error) ++repeated_;
            return;
        }
        findings_.push_back({severity, part, sentence, mend});
        if (severity == Severity::Error) ++errors_;
    }

    void single(const PlainWire& wire) {
        const double length = wire.lengthM();
        const double diameter = 2.0 * wire.radiusM;
        if (!(wire.radiusM >= kThinnestRadiusM)) {
            add(Severity::Error, wire.origin(),
                say("{} is {:.3g} mm thick: no wire is.", wire.part, diameter * 1e3),
                say("Give it a diameter of {:g} mm or more.", 2e3 * kThinnestRadiusM));
            return;
        }
        if (!(length > 1e-9)) {
            add(Severity::Error, wire.origin(),
                say("A wire of {} has no length: its ends are in one place.", wire.part),
                say("Move one end or remove the wire."));
            return;
        }
        if (length < diameter)
            add(Severity::Error, wire.origin(),
                say("A wire of {} is {:.1f} mm long, shorter than its diameter of {:.1f} mm.", wire.part,
                    length * 1e3, diameter * 1e3),
                say("Make it longer or thinner, or join its neighbours without it."));
        thickness(wire);
        if (model_.ground.kind != GroundKind::FreeSpace) overGround(wire);
    }

    void thickness(const PlainWire& wire) {
        const double diameter = 2.0 * wire.radiusM;
        const double mhz = kSpeedOfLight / lambda_ / 1e6;
        const bool soil = isInSoil(model_.ground, wire);
        const double lambda = soil ? lambda_ / soilIndex_ : lambda_;
        const char* where = soil ? " in this soil" : "";
        if (wire.radiusM > kTooThickRadius * lambda)
            add(Severity::Error, wire.origin(),
                say("{} is {:.2f} wavelengths{} thick at {:.6g} MHz, too much for a wire.", wire.part,
                    diameter / lambda, where, mhz),
                say("Use a thinner conductor or a lower frequency."));
        else if (wire.radiusM > kThickRadius * lambda)
            add(Severity::Warning, wire.origin(),
                say("{} is {:.3f} wavelengths{} thick at {:.6g} MHz; impedance may be off by several "
                    "percent.",
                    wire.part, diameter / lambda, where, mhz),
                say("Trust the trend more than the last digit."));
    }

    void overGround(const PlainWire& wire) {
        if (model_.ground.kind == GroundKind::Real) {
            onSoil(wire);
            coatInSoil(wire);
        } else
            onPerfectGround(wire);
    }

    void onPerfectGround(const PlainWire& wire) {
        const double low = std::min(wire.startM.z(), wire.endM.z());
        const double high = std::max(wire.startM.z(), wire.endM.z());
        const double touch = joinToleranceM(wire.radiusM, wire.radiusM);
        if (low < -touch)
            add(Severity::Error, wire.origin(),
                say("{} reaches {} below the ground.", wire.part, quantity::said(-low, 2)),
                say("Raise it or the whole antenna by {}, or choose a soil for the site: perfect "
                    "ground has no inside.",
                    quantity::said(-low, 2)));
        else if (high <= touch)
            add(Severity::Error, wire.origin(), say("{} lies on perfect ground, which shorts it.", wire.part),
                say("Raise it."));
        else if (low > touch && low < 2.0 * wire.radiusM)
            add(Severity::Error, wire.origin(),
                say("{} is {:.1f} mm above the ground, less than its diameter.", wire.part, low * 1e3),
                say("Raise it, or let it touch the ground."));
    }

    /// Another wire meets this one at its end.
    bool joinedAt(const Vec3& end, const PlainWire& own) const {
        return std::any_of(model_.wires.begin(), model_.wires.end(), [&](const PlainWire& other) {
            return &other != &own && pointToSegment(end, other.startM, other.endM) <=
                                         joinToleranceM(own.radiusM, other.radiusM);
        });
    }

    /// What the coat of a wire is worth at an open end in the soil is up to whoever cuts it.
    void coatInSoil(const PlainWire& wire) {
        if (wire.coatM <= 0.0) return;
        for (const Vec3& end : {wire.startM, wire.endM}) {
            if (end.z() >= 0.0) continue;
            if (joinedAt(end, wire)) continue;
            add(Severity::Note, wire.origin(),
                say("{} ends in the ground inside its insulation: its end is worked out as sealed.",
                    wire.part),
                say("Seal it against water, or join it to a ground rod there if it is to hold on to the "
                    "soil."));
            return;
        }
    }

    /// Ends near the surface of real ground are joined there, or keep their distance; what lies on it was
    /// lifted before (model/on_ground.h).
    void onSoil(const PlainWire& wire) {
        if (crossing(model_.ground, wire) > 0.0) return;
        const double touch = joinToleranceM(wire.radiusM, wire.radiusM);
        const double least = leastHeightM(wire) * (1.0 - 1e-9);
        for (const Vec3& end : {wire.startM, wire.endM}) {
            const double distance = std::abs(end.z());
            if (distance >= least) continue;
            const bool air = meetsAt(end, wire, false);
            const bool soil = meetsAt(end, wire, true);
            if (air && soil) continue;
            if (distance > touch)
                add(Severity::Error, wire.origin(),
                    say("{} ends {:.1f} mm {} the ground, too close to work out.", wire.part, distance * 1e3,
                        end.z() > 0.0 ? say("above") : say("below")),
                    say("Move that end to {:.1f} mm or more, or join it to something in the ground.",
                        std::ceil(leastHeightM(wire) * 1e4) / 10.0));
            else if (air)
                add(Severity::Error, wire.origin(),
                    say("{} ends on real ground with nothing in it to hold on to.", wire.part),
                    say("Give it a ground rod or radials there, or raise it."));
            else
                add(Severity::Error, wire.origin(),
                    say("{} comes up to the surface, where nothing in the air joins it.", wire.part),
                    say("Join the antenna to it there, or end it {:.1f} mm below.",
                        std::ceil(leastHeightM(wire) * 1e4) / 10.0));
        }
    }

    /// A wire in air, or one in the soil, ends at or passes through this point; the wire itself counts.
    bool meetsAt(const Vec3& point, const PlainWire& own, bool soil) const {
        return std::any_of(model_.wires.begin(), model_.wires.end(), [&](const PlainWire& other) {
            const bool through = crossing(model_.ground, other) > 0.0;
            return (through || isInSoil(model_.ground, other) == soil) &&
                   pointToSegment(point, other.startM, other.endM) <=
                       joinToleranceM(own.radiusM, other.radiusM);
        });
    }

    void pairs() {
        const WireBoxes boxes(model_.wires);
        double thickest = 0.0;
        for (const auto& wire : model_.wires) thickest = std::max(thickest, wire.radiusM);
        for (std::size_t i = 0; i < model_.wires.size(); ++i) {
            const PlainWire& wire = model_.wires[i];
            for (const std::size_t j : boxes.nearTo(i, kPairRadii * (wire.radiusM + thickest))) {
                if (j <= i || !boxes.near(i, j, kPairRadii * (wire.radiusM + model_.wires[j].radiusM)))
                    continue;
                pair(wire, model_.wires[j]);
                if (errors_ >= kMostErrors || repeated_ >= kMostRepeated) return;
            }
        }
    }

    void pair(const PlainWire& a, const PlainWire& b) {
        const double tolerance = joinToleranceM(a.radiusM, b.radiusM);
        const double radii = a.radiusM + b.radiusM;
        const auto nearest = nearestPoints(a.startM, a.endM, b.startM, b.endM);
        if (nearest.distanceM > kPairRadii * radii) return;
        const bool joined = meet(a, b, tolerance);
        const Vec3 ua = (a.endM - a.startM).normalized();
        const Vec3 ub = (b.endM - b.startM).normalized();
        const bool parallel = ua.cross(ub).norm() < 1e-3;
        if (parallel && overlapM(a, b, ua) > radii && lateralM(a, b, ua) < radii) {
            add(Severity::Error, b.origin(), say("{} lie on each other.", both(a, b)),
                say("Remove one of them or move them apart."));
            return;
        }
        if (joined) {
            // Many radials leave their hub close together and are soon apart.
            const double angle = jointAngleDeg(a, b, tolerance);
            const double closeM = kCloseRadii * radii / std::max(angle * kDegree, 1e-6);
            if (angle < kSharpestDeg ||
                (angle < kAcuteDeg && closeM > kMostClose * std::min(a.lengthM(), b.lengthM())))
                add(Severity::Error, b.origin(),
                    say("{} leave their joint only {:.1f}° apart.", both(a, b), angle),
                    say("Open the angle or use one wire."));
            return;
        }
        if (nearest.distanceM < radii) {
            add(Severity::Error, b.origin(),
                say("{} touch at a height of {} without a joint.", both(a, b),
                    quantity::said(nearest.onA.z(), 2)),
                say("End one wire on the other to join them, or move them apart."));
        } else {
            const double gap = nearest.distanceM - radii;
            if (gap < std::max(a.radiusM, b.radiusM))
                add(Severity::Warning, b.origin(),
                    say("{} are only {:.1f} mm apart, less than a radius.", both(a, b), gap * 1e3),
                    say("Move them apart: the currents crowd on the facing sides, which is not modelled."));
        }
    }

    static bool meet(const PlainWire& a, const PlainWire& b, double tolerance) {
        for (const Vec3& end : {a.startM, a.endM})
            if (pointToSegment(end, b.startM, b.endM) <= tolerance) return true;
        for (const Vec3& end : {b.startM, b.endM})
            if (pointToSegment(end, a.startM, a.endM) <= tolerance) return true;
        return false;
    }

    static double overlapM(const PlainWire& a, const PlainWire& b, const Vec3& u) {
        const double b1 = (b.startM - a.startM).dot(u);
        const double b2 = (b.endM - a.startM).dot(u);
        return std::min(a.lengthM(), std::max(b1, b2)) - std::max(0.0, std::min(b1, b2));
    }

    static double lateralM(const PlainWire& a, const PlainWire& b, const Vec3& u) {
        const Vec3 d = 0.5 * (b.startM + b.endM) - a.startM;
        return (d - d.dot(u) * u).norm();
    }

    /// Angle between two wires that share an end; 180 where an end meets the middle of the other.
    static double jointAngleDeg(const PlainWire& a, const PlainWire& b, double tolerance) {
        for (const bool aEnd : {false, true})
            for (const bool bEnd : {false, true}) {
                const Vec3& pa = aEnd ? a.endM : a.startM;
                const Vec3& pb = bEnd ? b.endM : b.startM;
                if ((pa - pb).norm() > tolerance) continue;
                const Vec3 outA = (aEnd ? a.startM - a.endM : a.endM - a.startM).normalized();
                const Vec3 outB = (bEnd ? b.startM - b.endM : b.endM - b.startM).normalized();
                return std::acos(std::clamp(outA.dot(outB), -1.0, 1.0)) / kDegree;
            }
        return 180.0;
    }

    void port(const std::string& name, const WirePlace& place) {
        const PlainWire& wire = model_.wires[place.wire];
        const double at = place.at * wire.lengthM();
        const double edge = std::max(0.5 * wire.radiusM, 1e-9);
        const bool first = at <= edge;
        if (!first && at < wire.lengthM() - edge) return;
        const Vec3& end = first ? wire.startM : wire.endM;
        if (model_.ground.kind == GroundKind::Perfect &&
            std::abs(end.z()) <= joinToleranceM(wire.radiusM, wire.radiusM))
            return;
        if (joinedAt(end, wire)) return;
        add(Severity::Error, name,
            say("{} sits on an open end of {}, where no current can flow.", name, wire.part),
            say("Move it along the wire, or join a counterpoise there."));
    }

    /// Two voltages in one gap would have to be the same.
    void feedsApart() {
        const auto& feeds = model_.feeds;
        for (std::size_t i = 0; i < feeds.size(); ++i)
            for (std::size_t j = i + 1; j < feeds.size(); ++j) {
                const auto& wire = model_.wires[feeds[i].place.wire];
                if (feeds[j].place.wire != feeds[i].place.wire ||
                    std::abs(feeds[i].place.at - feeds[j].place.at) * wire.lengthM() > wire.radiusM)
                    continue;
                add(Severity::Error, feeds[j].name,
                    say("{} and {} are in the same place on {}.", feeds[i].name, feeds[j].name, wire.part),
                    say("Move one of them along the wire, or remove it."));
            }
    }

    const WireModel& model_;
    double lambda_;
    double soilIndex_ = 1.0;  ///< wavelengths in air over those in the soil
    std::vector<Finding> findings_;
    std::set<std::string> said_;
    std::size_t errors_ = 0;
    std::size_t repeated_ = 0;  ///< errors that had been said before
};

}  // namespace

std::vector<Finding> checkWires(const WireModel& model, double frequencyHz) {
    return Checker(model, frequencyHz).run();
}

std::vector<Finding> checkThickness(const WireModel& model, double frequencyHz) {
    return Checker(model, frequencyHz).thickWires();
}

void requireFrequency(double frequencyHz) {
    if (frequencyHz >= kLowestHz && frequencyHz <= kHighestHz) return;
    throw Error(say("Antennas are worked out from {:g} MHz to {:g} MHz: {:.6g} MHz is not.", kLowestHz / 1e6,
                    kHighestHz / 1e6, frequencyHz / 1e6));
}

void requireSolvable(const WireModel& model, double frequencyHz) {
    requireFrequency(frequencyHz);
    // Spans beside a wire's ends are as long as its radius asks for: without one they never end.
    constexpr double kNoWireM = 1e-10;
    for (const auto& wire : model.wires)
        if (!(wire.radiusM > kNoWireM))
            throw Error(say("{} has no thickness. Give it a diameter.", wire.part));
    for (const auto& finding : checkThickness(model, frequencyHz))
        if (finding.severity == Severity::Error) throw Error(finding.sentence + " " + finding.mend);
}

}  // namespace rm::model
