#include "core/model/expand.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/checks.h"
#include "core/model/expand_circuit.h"
#include "core/model/expand_copies.h"
#include "core/model/expand_dimensions.h"
#include "core/model/expand_parts.h"
#include "core/model/expand_places.h"
#include "core/model/expand_runs.h"
#include "core/model/geometry.h"
#include "core/model/joints.h"
#include "core/model/limits.h"
#include "core/model/on_ground.h"
#include "core/model/soils.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

/// Voltages of feeds compare with each other: beyond these nobody means them.
constexpr double kSmallestAmplitude = 1e-6;
constexpr double kLargestAmplitude = 1e6;

class Expander {
  public:
    explicit Expander(const Design& design) : design_(design) {}

    Expansion run() {
        out_.designFrequencyHz = values_.value(design_.designFrequency, Kind::Frequency, design_.name,
                                               say("the design frequency"));
        if (!values_.failed && !(out_.designFrequencyHz >= kLowestHz && out_.designFrequencyHz <= kHighestHz))
            values_.problem(design_.name,
                            say("The design frequency is {:.6g} MHz.", out_.designFrequencyHz / 1e6),
                            say("Use one from {:g} MHz to {:g} MHz.", kLowestHz / 1e6, kHighestHz / 1e6));
        values_.scope.lambdaM = out_.designFrequencyHz > 0.0 ? wavelengthM(out_.designFrequencyHz) : 0.0;
        evaluateDimensions(values_, design_.dimensions);
        out_.dimensionValue = values_.scope.values;
        out_.referenceOhm =
            values_.value(design_.reference, Kind::Number, design_.name, say("the reference impedance"));
        if (!values_.failed && !(out_.referenceOhm >= 0.1 && out_.referenceOhm <= 1e5))
            values_.problem(design_.name, say("The reference impedance is {:g} ohm.", out_.referenceOhm),
                            say("Use a value from 0.1 to 100000 ohm; 50 ohm is usual."));
        out_.headingDeg = values_.value(design_.site.heading, Kind::Angle, say("Site"), say("the heading"));
        out_.heightM = values_.value(design_.site.height, Kind::Length, say("Site"), say("the height"));
        out_.model.ground = groundOfSite();
        expandParts();
        if (out_.model.wires.size() > kMostWires) {
            values_.problem(design_.name,
                            say("This design has {} wires; at most {} can be worked out.",
                                out_.model.wires.size(), kMostWires),
                            say("Remove parts, or switch them off."));
            out_.model.wires.clear();
            out_.findings = std::move(values_.findings);
            return std::move(out_);
        }
        if (out_.model.wires.empty() && !hasError(values_.findings))
            values_.findings.push_back(
                {Severity::Note, design_.name, say("There is nothing here yet."), say("Add a part.")});
        for (const auto& feed : design_.feeds) placeFeed(feed);
        drive();
        for (const auto& load : design_.loads) placeLoad(load);
        for (const auto& block : design_.feedPath) {
            if (!block.enabled) continue;
            values_.failed = false;
            Block plain = blockOf(values_, block, out_.designFrequencyHz);
            runs_.measure(block.name, plain);
            if (!values_.failed) out_.feedPath.push_back(plain);
        }
        runs_.choke();
        for (const auto& line : design_.lines) placeLine(line);
        runs_.hang();
        for (const auto& measured : design_.measured) {
            FeedBlock lead = measured.lead;
            lead.name = measured.name;
            values_.failed = false;
            std::optional<Block> plain;
            if (measured.hasLead) plain = blockOf(values_, lead, out_.designFrequencyHz);
            out_.measuredLead.push_back(values_.failed ? std::nullopt : plain);
        }
        if (design_.feeds.empty() && !out_.model.wires.empty())
            values_.problem(design_.name, say("No feed: nothing drives this antenna."),
                            say("Add a feed to one of the parts."));
        out_.findings = std::move(values_.findings);
        return std::move(out_);
    }

    const quantity::Scope& scope() const { return values_.scope; }

  private:
    Ground groundOfSite() {
        const Site& site = design_.site;
        Ground ground;
        ground.kind = site.quick ? GroundKind::FreeSpace : site.ground;
        if (ground.kind != GroundKind::Real) return ground;
        if (site.soil != kCustomSoil) {
            if (const Soil* soil = findSoil(site.soil)) return groundOf(*soil);
            values_.problem(say("Site"), say("\"{}\" is not a known kind of ground.", site.soil),
                            say("Choose one from the list, or custom."));
            return ground;
        }
        ground.relativePermittivity =
            values_.value(site.permittivity, Kind::Number, say("Site"), say("the permittivity"));
        ground.conductivitySm =
            values_.value(site.conductivity, Kind::Number, say("Site"), say("the conductivity"));
        if (ground.relativePermittivity < 1.0 || ground.relativePermittivity > 100.0)
            values_.problem(say("Site"),
                            say("The permittivity of the ground is {:g}.", ground.relativePermittivity),
                            say("Use a number from 1 (air) to 81 (water)."));
        if (ground.conductivitySm < 0.0 || ground.conductivitySm > 100.0)
            values_.problem(say("Site"),
                            say("The conductivity of the ground is {:g} S/m.", ground.conductivitySm),
                            say("Use a number from 0 to 10 S/m; salt water has 5."));
        return ground;
    }

    void expandParts() {
        const PartScene scene{values_.scope.lambdaM,
                              readSupports(values_, design_.site.supports, out_.headingDeg), out_.heightM};
        out_.supports = scene.supports;
        for (const auto& part : design_.parts) {
            if (std::any_of(units_.begin(), units_.end(),
                            [&](const Unit& u) { return u.base == part.name; })) {
                values_.problem(part.name, say("There are two parts named {}.", part.name),
                                say("Rename one of them."));
                continue;
            }
            PartSizes sizes;
            units_.push_back(expandPart(values_, part, scene, sizes));
            if (std::holds_alternative<CableRun>(part.shape)) runs_.madeOf(part.name, sizes.run);
            uselessOnPerfectGround(part, units_.back());
            if (!sizes.row.elements.empty()) out_.rows.push_back(sizes.row);
            if (!sizes.hung.wireM.empty()) out_.hung.push_back(sizes.hung);
        }
        makeCopies(values_, design_.copies, units_);
        for (auto& unit : units_) {
            unit.firstWire = out_.model.wires.size();
            for (PlainWire wire : unit.wires) {
                wire.startM.z() += out_.heightM;
                wire.endM.z() += out_.heightM;
                out_.model.wires.push_back(std::move(wire));
            }
            if (!unit.wires.empty()) out_.units.push_back(unit.name());
        }
        runs_.lay(scene);
        liftFromSurface(out_.model, values_.findings);
    }

    /// Perfect ground has no inside, and its image is the best of radials: what lies in it is left out.
    void uselessOnPerfectGround(const Part& part, Unit& unit) {
        if (out_.model.ground.kind != GroundKind::Perfect || !part.enabled) return;
        if (!std::holds_alternative<RadialSystem>(part.shape) &&
            !std::holds_alternative<GroundRod>(part.shape))
            return;
        const auto inGround = [&](const PlainWire& wire) {
            return std::max(wire.startM.z(), wire.endM.z()) + out_.heightM <= 1e-9;
        };
        if (!std::all_of(unit.wires.begin(), unit.wires.end(), inGround) || unit.wires.empty()) return;
        unit.wires.clear();
        unit.paths.clear();
        values_.findings.push_back(
            {Severity::Warning, part.name,
             say("{} does nothing on perfect ground and is left out: there the ground itself is the "
                 "counterpoise.",
                 part.name),
             say("Choose the soil of the site to see what it does.")});
    }

    void placeFeed(const Feed& feed) {
        PlainFeed plain;
        values_.failed = false;
        const double amplitude = values_.within(feed.amplitude, Kind::Number, 0.0, kLargestAmplitude,
                                                feed.name, say("the amplitude"));
        const double phase = values_.value(feed.phase, Kind::Angle, feed.name, say("the phase"));
        plain.voltage = std::polar(amplitude, phase * kDegree);
        if (!values_.failed && amplitude < kSmallestAmplitude)
            values_.problem(feed.name, say("{} has no voltage.", feed.name),
                            say("Give it an amplitude above zero, or remove it."));
        const auto units = places_.unitsNamed(feed.name, feed.part);
        for (const Unit* unit : units) {
            plain.name = Places::withLabel(feed.name, *unit, units.size() > 1);
            if (places_.locate(feed.name, *unit, feed.place, plain.place)) {
                plain.together.clear();
                joinHalves(feed, *unit, plain);
                out_.model.feeds.push_back(plain);
            } else if (unit->wires.empty() && !hasError(values_.findings))
                values_.problem(feed.name, say("{} is on {}, which is switched off.", feed.name, feed.part),
                                say("Switch the part on, or move the feed."));
        }
        for (auto& row : out_.rows)
            for (auto& element : row.elements)
                if (!units.empty() && units.front()->base == row.part && element.name == feed.place.element) {
                    element.fed = true;
                    element.addM = 0.0;  // it does not pass through the boom in one piece
                }
    }

    /// The ends of a unit's wires that lie where a place is: those that start there, or those that end there.
    std::vector<WirePlace> endsThere(const Unit& unit, const WirePlace& place, double at) const {
        std::vector<WirePlace> ends;
        const Vec3 point = places_.pointOf(place);
        const double radius = out_.model.wires[place.wire].radiusM;
        for (std::size_t w = unit.firstWire; w < unit.firstWire + unit.wires.size(); ++w) {
            const double tolerance = joinToleranceM(radius, out_.model.wires[w].radiusM);
            if ((places_.pointOf({w, at}) - point).norm() <= tolerance && w != place.wire)
                ends.push_back({w, at});
        }
        return ends;
    }

    /// What is fed together with the feed's own wire; a word where a second wire passes through the joint and
    /// nobody said on which side it is.
    void joinHalves(const Feed& feed, const Unit& unit, PlainFeed& plain) {
        const bool atJoint = plain.place.at == 0.0 || plain.place.at == 1.0;
        for (const std::string& name : feed.with) {
            std::vector<WirePlace> ends;
            for (const auto& other : units_) {
                if (other.base != name || !atJoint || (other.label != unit.label && !unit.label.empty()))
                    continue;
                ends = endsThere(other, plain.place, plain.place.at);
                if (ends.empty()) ends = endsThere(other, plain.place, 1.0 - plain.place.at);
                if (!ends.empty()) break;
            }
            if (ends.empty())
                values_.problem(feed.name,
                                say("{} is to feed {} together with {}, but they do not meet there.",
                                    feed.name, name, feed.part),
                                say("Move the feed to their joint, or take that part out of it."));
            plain.together.insert(plain.together.end(), ends.begin(), ends.end());
        }
        if (!atJoint || !plain.together.empty()) return;
        const auto passes = [&](const Unit& one) {
            return !endsThere(one, plain.place, 0.0).empty() && !endsThere(one, plain.place, 1.0).empty();
        };
        for (const auto& other : units_)
            if (&other != &unit && other.label == unit.label && passes(other))
                return values_.findings.push_back(
                    {Severity::Warning, feed.name,
                     say("{} drives one side of {} against its other side and all of {}, which passes "
                         "through there.",
                         feed.name, feed.part, other.base),
                     say("To feed two halves against each other choose {} under Together with.",
                         other.base)});
    }

    /// Who is driven: by the drive set in use, and through the harness.
    void drive() {
        values_.failed = false;
        auto& feeds = out_.model.feeds;
        const auto feedNamed = [&](const std::string& name) {
            return std::find_if(feeds.begin(), feeds.end(), [&](const auto& f) { return f.name == name; });
        };
        std::vector<double> phaseDeg(feeds.size(), 0.0);
        for (std::size_t i = 0; i < feeds.size(); ++i) phaseDeg[i] = std::arg(feeds[i].voltage) / kDegree;
        const auto chosen = static_cast<std::size_t>(design_.driveSet);
        if (design_.driveSet >= 0 && chosen < design_.driveSets.size()) {
            const DriveSet& set = design_.driveSets[chosen];
            out_.driveSet = set.name;
            std::optional<double> idleOhm;
            if (set.idle == IdleKind::Shorted) idleOhm = 0.0;
            if (set.idle == IdleKind::Terminated)
                idleOhm = values_.positive(set.termination, Kind::Number, set.name, say("the termination"));
            for (auto& feed : feeds) {
                feed.driven = false;
                feed.idleOhm = idleOhm;
            }
            for (const auto& entry : set.driven) {
                const auto feed = feedNamed(entry.feed);
                if (feed == feeds.end()) {
                    values_.problem(set.name,
                                    say("{} drives \"{}\", which is not there.", set.name, entry.feed),
                                    say("Take it out of the set, or choose another."));
                    continue;
                }
                const double amplitude = values_.within(entry.amplitude, Kind::Number, kSmallestAmplitude,
                                                        kLargestAmplitude, set.name, say("an amplitude"));
                const double phase = values_.value(entry.phase, Kind::Angle, set.name, say("a phase"));
                feed->driven = true;
                feed->voltage = std::polar(amplitude, phase * kDegree);
                phaseDeg[static_cast<std::size_t>(feed - feeds.begin())] = phase;
                if (!entry.delay.empty())
                    feed->delayM = values_.value(entry.delay, Kind::Length, set.name, say("a delay line"));
            }
            if (!values_.failed && std::none_of(feeds.begin(), feeds.end(), [](auto& f) { return f.driven; }))
                values_.problem(set.name, say("{} drives no feed.", set.name), say("Drive one of them."));
        }
        if (design_.harness.enabled && feeds.size() > 1 && !values_.failed) addHarness(phaseDeg);
    }

    /// What a feed is to lag behind the others becomes cable; opposite phase crosses the arm.
    void addHarness(const std::vector<double>& phaseDeg) {
        const Harness& harness = design_.harness;
        const LineKind line = lineOf(values_, harness.line, say("Harness"));
        for (std::size_t i = 0; i < out_.model.feeds.size(); ++i) {
            const auto& feed = out_.model.feeds[i];
            PlainArm arm;
            arm.line = line;
            std::string length = harness.line.length;
            for (const auto& own : harness.arms)
                if (own.feed == feed.name) {
                    if (!own.length.empty()) length = own.length;
                    arm.crossed = own.crossed;
                }
            arm.lengthM =
                values_.value(length, Kind::Length, say("Harness"), say("the length to ") + feed.name);
            if (!values_.failed && arm.lengthM < 0.0)
                values_.problem(say("Harness"),
                                say("Harness: the cable to {} is shorter than nothing.", feed.name),
                                say("Type a length of zero or more."));
            double lag = std::fmod(std::fmod(-phaseDeg[i], 360.0) + 360.0, 360.0);
            if (std::abs(lag - 180.0) < 1e-6) {
                arm.crossed = !arm.crossed;
                lag = 0.0;
            }
            arm.delayM = feed.delayM + lag / 360.0 * values_.scope.lambdaM;
            out_.model.harness.push_back(arm);
        }
        if (values_.failed) out_.model.harness.clear();
    }

    void placeLoad(const Load& load) {
        if (!load.enabled) return;
        PlainLoad plain;
        values_.failed = false;
        plain.circuit = circuitOf(values_, load);
        plain.ratedW = values_.maybe(load.rating, load.name, say("what it stands"), 1.0);
        const auto units = places_.unitsNamed(load.name, load.part);
        for (const Unit* unit : units) {
            plain.name = Places::withLabel(load.name, *unit, units.size() > 1);
            if (places_.locate(load.name, *unit, load.place, plain.place)) out_.model.loads.push_back(plain);
        }
    }

    /// The port at a place: that of a feed or load there, or a tap, made where there is none yet.
    std::size_t portAt(const WirePlace& place, const std::string& name) {
        const auto ports = out_.model.places();
        for (std::size_t i = 0; i < ports.size(); ++i)
            if (ports[i].place.wire == place.wire && std::abs(ports[i].place.at - place.at) < 1e-9) return i;
        out_.model.taps.push_back({place, name});
        return ports.size();
    }

    void placeLine(const PhasingLine& line) {
        if (!line.enabled) return;
        values_.failed = false;
        PlainLine plain;
        plain.line = lineOf(values_, line, line.name);
        plain.lengthM = values_.positive(line.length, Kind::Length, line.name, say("the length"));
        plain.crossed = line.crossed;
        if (values_.failed) return;
        const auto from = places_.unitsNamed(line.name, line.fromPart);
        const auto to = places_.unitsNamed(line.name, line.toPart);
        // Within every copy; where only one end is on something copied, to every copy of it.
        for (const Unit* a : from)
            for (const Unit* b : to) {
                if (from.size() > 1 && to.size() > 1 && a->label != b->label) continue;
                const Unit& named = from.size() > 1 ? *a : *b;
                plain.name = Places::withLabel(line.name, named, from.size() > 1 || to.size() > 1);
                joinPorts(line, *a, *b, plain);
            }
    }

    void joinPorts(const PhasingLine& line, const Unit& a, const Unit& b, PlainLine plain) {
        WirePlace from;
        WirePlace to;
        if (!places_.locate(line.name, a, line.from, from) || !places_.locate(line.name, b, line.to, to))
            return;
        plain.fromPort = portAt(from, plain.name);
        plain.toPort = portAt(to, plain.name);
        if (plain.fromPort == plain.toPort)
            return values_.problem(line.name, say("{} has both ends at the same place.", line.name),
                                   say("Choose another part or place for one of its ends."));
        out_.model.lines.push_back(plain);
    }

    const Design& design_;
    Expansion out_;
    FieldValues values_;
    std::vector<Unit> units_;
    Places places_{values_, units_, out_.model};
    CableRuns runs_{design_, values_, units_, places_, out_};
};

}  // namespace

Expansion expand(const Design& design) {
    Expansion out = Expander(design).run();
    out.model.fineness = design.fineness.level;
    if (!hasError(out.findings)) {
        const auto more = checkWires(out.model, out.designFrequencyHz);
        out.findings.insert(out.findings.end(), more.begin(), more.end());
    }
    out.joints = findJoints(out.model);
    return out;
}

std::vector<Finding> findingsAt(const Expansion& expansion, double frequencyHz) {
    auto all = expansion.findings;
    if (hasError(all)) return all;
    for (const auto& finding : checkThickness(expansion.model, frequencyHz)) {
        const bool known = std::any_of(all.begin(), all.end(), [&](const Finding& f) {
            return f.part == finding.part && f.severity == finding.severity;
        });
        if (!known) all.push_back(finding);
    }
    return all;
}

Expansion::Expansion() = default;
Expansion::Expansion(const Expansion&) = default;
Expansion::Expansion(Expansion&&) noexcept = default;
Expansion& Expansion::operator=(const Expansion&) = default;
Expansion& Expansion::operator=(Expansion&&) noexcept = default;
Expansion::~Expansion() = default;

const RowSizes* Expansion::row(const std::string& part) const {
    const auto found =
        std::find_if(rows.begin(), rows.end(), [&](const RowSizes& row) { return row.part == part; });
    return found == rows.end() ? nullptr : &*found;
}

quantity::Scope scopeOf(const Design& design) {
    Expander expander(design);
    expander.run();
    return expander.scope();
}

}  // namespace rm::model
