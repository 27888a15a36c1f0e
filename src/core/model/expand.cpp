#include "core/model/expand.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/checks.h"
#include "core/model/materials.h"
#include "core/model/soils.h"

namespace rm::model {

namespace {

using quantity::Kind;

Kind kindOf(DimensionKind kind) {
    switch (kind) {
        case DimensionKind::Angle:
            return Kind::Angle;
        case DimensionKind::Number:
            return Kind::Number;
        default:
            return Kind::Length;
    }
}

/// Evaluates dimensions in the order that their formulas need.
class Dimensions {
  public:
    Dimensions(const std::vector<Dimension>& dimensions, quantity::Scope& scope,
               std::vector<Finding>& findings)
        : dimensions_(dimensions),
          scope_(scope),
          findings_(findings),
          state_(dimensions.size(), State::Open) {
        for (std::size_t i = 0; i < dimensions.size(); ++i) evaluate(i);
    }

  private:
    enum class State { Open, Busy, Done, Failed };

    void fail(std::size_t i, const std::string& sentence, const std::string& mend) {
        state_[i] = State::Failed;
        findings_.push_back({Severity::Error, dimensions_[i].name, sentence, mend});
    }

    bool evaluate(std::size_t i) {
        const Dimension& d = dimensions_[i];
        if (state_[i] == State::Done) return true;
        if (state_[i] == State::Failed) return false;
        if (state_[i] == State::Busy) {
            fail(i, fmt::format("Dimension {} depends on itself through its formula \"{}\".", d.name, d.text),
                 "Give one of the dimensions in the circle a number.");
            return false;
        }
        state_[i] = State::Busy;
        if (!quantity::isUsableName(d.name)) {
            fail(i, fmt::format("\"{}\" cannot name a dimension.", d.name),
                 "Use a letter, then letters, digits or underscores, and none of the words of formulas.");
            return false;
        }
        try {
            for (const auto& name : quantity::namesIn(d.text)) {
                for (std::size_t j = 0; j < dimensions_.size(); ++j) {
                    if (dimensions_[j].name != name || evaluate(j)) continue;
                    if (state_[i] != State::Failed)
                        fail(i, fmt::format("Dimension {} needs {}, which has no value.", d.name, name),
                             fmt::format("Mend {} first.", name));
                    return false;
                }
            }
            const double value = quantity::evaluate(d.text, kindOf(d.kind), scope_);
            if (scope_.values.count(d.name) != 0) {
                fail(i, fmt::format("There are two dimensions named {}.", d.name), "Rename one of them.");
                return false;
            }
            scope_.values[d.name] = value;
            state_[i] = State::Done;
            return true;
        } catch (const Error& e) {
            fail(i, fmt::format("Dimension {}: {}", d.name, e.what()), "Type a length or a formula.");
            return false;
        }
    }

    const std::vector<Dimension>& dimensions_;
    quantity::Scope& scope_;
    std::vector<Finding>& findings_;
    std::vector<State> state_;
};

/// Where the wires of a part are, and in what order a finger runs along them.
struct Path {
    std::size_t firstWire = 0;
    std::size_t wireCount = 0;
    bool closed = false;
    bool expanded = false;
};

/// Unit vector at a bearing to the right of the front, in the horizontal plane.
Vec3 bearing(double degrees) {
    return {std::cos(degrees * kDegree), -std::sin(degrees * kDegree), 0.0};
}

class Expander {
  public:
    explicit Expander(const Design& design) : design_(design) {}

    Expansion run() {
        out_.designFrequencyHz =
            value(design_.designFrequency, Kind::Frequency, design_.name, "the design frequency");
        scope_.lambdaM = out_.designFrequencyHz > 0.0 ? wavelengthM(out_.designFrequencyHz) : 0.0;
        Dimensions(design_.dimensions, scope_, out_.findings);
        out_.dimensionValue = scope_.values;
        out_.referenceOhm = value(design_.reference, Kind::Number, design_.name, "the reference impedance");
        if (out_.referenceOhm <= 0.0)
            problem(design_.name, "The reference impedance has to be above zero.", "50 ohm is usual.");
        out_.headingDeg = value(design_.site.heading, Kind::Angle, "Site", "the heading");
        out_.heightM = value(design_.site.height, Kind::Length, "Site", "the height");
        out_.model.ground = groundOfSite();
        for (const auto& part : design_.parts) expandPart(part);
        if (out_.model.wires.empty() && !hasError(out_.findings))
            out_.findings.push_back(
                {Severity::Note, design_.name, "There is nothing here yet.", "Add a part."});
        for (const auto& feed : design_.feeds) placeFeed(feed);
        for (const auto& load : design_.loads) placeLoad(load);
        for (const auto& line : design_.lines) placeLine(line);
        for (const auto& block : design_.feedPath) addBlock(block);
        for (const auto& measured : design_.measured) {
            FeedBlock lead = measured.lead;
            lead.name = measured.name;
            failed_ = false;
            std::optional<Block> plain;
            if (measured.hasLead) plain = blockOf(lead);
            out_.measuredLead.push_back(failed_ ? std::nullopt : plain);
        }
        if (design_.feeds.empty() && !out_.model.wires.empty())
            problem(design_.name, "No feed: nothing drives this antenna.", "Add a feed to one of the parts.");
        return std::move(out_);
    }

    const quantity::Scope& scope() const { return scope_; }

  private:
    void problem(const std::string& part, const std::string& sentence, const std::string& mend) {
        out_.findings.push_back({Severity::Error, part, sentence, mend});
        failed_ = true;
    }

    double value(const std::string& text, Kind kind, const std::string& part, const std::string& field) {
        try {
            return quantity::evaluate(text, kind, scope_);
        } catch (const Error& e) {
            problem(part, fmt::format("{}, {}: {}", part, field, e.what()),
                    "Type a number with its unit, or a formula.");
            return 0.0;
        }
    }

    Ground groundOfSite() {
        const Site& site = design_.site;
        Ground ground;
        ground.kind = site.ground;
        if (site.ground != GroundKind::Real) return ground;
        if (site.soil != kCustomSoil) {
            if (const Soil* soil = findSoil(site.soil)) return groundOf(*soil);
            problem("Site", fmt::format("\"{}\" is not a known kind of ground.", site.soil),
                    "Choose one from the list, or custom.");
            return ground;
        }
        ground.relativePermittivity = value(site.permittivity, Kind::Number, "Site", "the permittivity");
        ground.conductivitySm = value(site.conductivity, Kind::Number, "Site", "the conductivity");
        if (ground.relativePermittivity < 1.0 || ground.relativePermittivity > 100.0)
            problem("Site",
                    fmt::format("The permittivity of the ground is {:g}.", ground.relativePermittivity),
                    "Use a number from 1 (air) to 81 (water).");
        if (ground.conductivitySm < 0.0 || ground.conductivitySm > 100.0)
            problem("Site", fmt::format("The conductivity of the ground is {:g} S/m.", ground.conductivitySm),
                    "Use a number from 0 to 10 S/m; salt water has 5.");
        return ground;
    }

    Vec3 point(const PointText& text, const std::string& part, const std::string& field) {
        return {value(text[0], Kind::Length, part, field + " forward"),
                value(text[1], Kind::Length, part, field + " left"),
                value(text[2], Kind::Length, part, field + " height") + out_.heightM};
    }

    /// A whole number between two limits.
    int count(const std::string& text, int low, int high, const std::string& part, const std::string& field) {
        const double v = value(text, Kind::Number, part, field);
        const int n = static_cast<int>(std::lround(v));
        if (!failed_ && (n < low || n > high || std::abs(v - n) > 1e-6)) {
            problem(part, fmt::format("{}: {} is {:g}.", part, field, v),
                    fmt::format("Use a whole number from {} to {}.", low, high));
            return low;
        }
        return std::clamp(n, low, high);
    }

    void addWire(const Part& part, const Vec3& from, const Vec3& to) {
        PlainWire wire;
        wire.startM = from;
        wire.endM = to;
        wire.radiusM = radius_;
        wire.conductivitySm = conductivity_;
        wire.coatM = coat_;
        wire.coatPermittivity = coatPermittivity_;
        wire.part = part.name;
        out_.model.wires.push_back(wire);
    }

    void addPolyline(const Part& part, const std::vector<Vec3>& points, bool closed) {
        for (std::size_t i = 0; i + 1 < points.size(); ++i) addWire(part, points[i], points[i + 1]);
        if (closed && points.size() > 2) addWire(part, points.back(), points.front());
    }

    void expandPart(const Part& part) {
        Path path;
        path.firstWire = out_.model.wires.size();
        if (paths_.count(part.name) != 0) {
            problem(part.name, fmt::format("There are two parts named {}.", part.name),
                    "Rename one of them.");
            return;
        }
        if (part.enabled) {
            failed_ = false;
            const Material* material = findMaterial(part.conductor.material);
            if (material == nullptr)
                problem(
                    part.name,
                    fmt::format("{}: \"{}\" is not a known conductor.", part.name, part.conductor.material),
                    "Choose a material from the list.");
            else
                conductivity_ = material->conductivitySm;
            radius_ = 0.5 * value(part.conductor.diameter, Kind::Diameter, part.name, "the diameter");
            if (!failed_ && radius_ <= 0.0)
                problem(part.name, fmt::format("{} has no thickness.", part.name),
                        "Give it a diameter above zero.");
            readCoat(part);
            path.closed = std::visit([&](const auto& shape) { return build(part, shape); }, part.shape);
            if (failed_) out_.model.wires.resize(path.firstWire);
        }
        path.wireCount = out_.model.wires.size() - path.firstWire;
        path.expanded = part.enabled && path.wireCount > 0;
        paths_[part.name] = path;
    }

    void readCoat(const Part& part) {
        coat_ = 0.0;
        coatPermittivity_ = 1.0;
        if (part.conductor.coat.empty()) return;
        coat_ = value(part.conductor.coat, Kind::Diameter, part.name, "the insulation");
        coatPermittivity_ = value(part.conductor.coatPermittivity, Kind::Number, part.name,
                                  "the permittivity of the insulation");
        if (failed_) return;
        if (coat_ < 0.0 || coat_ > 20.0 * radius_)
            problem(part.name,
                    fmt::format("{} has insulation {:.1f} mm thick on a wire of {:.1f} mm.", part.name,
                                coat_ * 1e3, 2e3 * radius_),
                    "Give the thickness of the coat alone, up to ten times the diameter of the wire.");
        if (coatPermittivity_ < 1.0 || coatPermittivity_ > 12.0)
            problem(
                part.name,
                fmt::format("{}: the permittivity of the insulation is {:g}.", part.name, coatPermittivity_),
                "Use a number from 1 to 12; polyethylene has 2.3, PVC about 3.");
    }

    bool build(const Part& part, const StraightWire& shape) {
        const Vec3 start = point(shape.start, part.name, "start");
        addWire(part, start, point(shape.end, part.name, "end"));
        return false;
    }

    bool build(const Part& part, const BentWire& shape) {
        std::vector<Vec3> points;
        for (std::size_t i = 0; i < shape.points.size(); ++i)
            points.push_back(point(shape.points[i], part.name, fmt::format("point {}", i + 1)));
        if (points.size() < 2)
            problem(part.name, fmt::format("{} has fewer than two points.", part.name), "Add a point.");
        addPolyline(part, points, shape.closed);
        return shape.closed;
    }

    bool build(const Part& part, const RegularLoop& shape) {
        const Vec3 centre = point(shape.centre, part.name, "centre");
        const int sides = count(shape.sides, 3, 60, part.name, "the number of sides");
        const double size =
            value(shape.size, Kind::Length, part.name, shape.byPerimeter ? "the perimeter" : "the side");
        const double tilt = value(shape.tilt, Kind::Angle, part.name, "the tilt");
        const double turn = value(shape.turn, Kind::Angle, part.name, "the turn");
        const double side = shape.byPerimeter ? size / sides : size;
        const double radius = side / (2.0 * std::sin(kPi / sides));
        // In the plane of the loop: `across` to the left, `up` towards the top.
        const Vec3 front = bearing(turn);
        const Vec3 across = Vec3::UnitZ().cross(front);
        const Vec3 up = std::sin(tilt * kDegree) * Vec3::UnitZ() + std::cos(tilt * kDegree) * front;
        std::vector<Vec3> points;
        // From the bottom corner, or the left end of the bottom side, and round.
        const double first = shape.cornerDown ? -90.0 : -90.0 - 180.0 / sides;
        for (int i = 0; i < sides; ++i) {
            const double angle = (first + 360.0 * i / sides) * kDegree;
            points.push_back(centre + radius * (std::cos(angle) * across + std::sin(angle) * up));
        }
        addPolyline(part, points, true);
        return true;
    }

    bool build(const Part& part, const InvertedV& shape) {
        const Vec3 foot = point(shape.foot, part.name, "foot");
        const double apexHeight = value(shape.apexHeight, Kind::Length, part.name, "the apex height");
        const double leg = value(shape.leg, Kind::Length, part.name, "the leg");
        const double angle = value(shape.angle, Kind::Angle, part.name, "the angle between the legs");
        const double turn = value(shape.turn, Kind::Angle, part.name, "the turn");
        const Vec3 apex = foot + apexHeight * Vec3::UnitZ();
        const Vec3 left = Vec3::UnitZ().cross(bearing(turn));
        const double half = 0.5 * angle * kDegree;
        const Vec3 down = -std::cos(half) * Vec3::UnitZ();
        addPolyline(
            part,
            {apex + leg * (std::sin(half) * left + down), apex, apex + leg * (-std::sin(half) * left + down)},
            false);
        return false;
    }

    bool build(const Part& part, const Fan& shape) {
        const Vec3 hub = point(shape.hub, part.name, "hub");
        const int n = count(shape.count, 1, 128, part.name, "the number of wires");
        const double length = value(shape.length, Kind::Length, part.name, "the length");
        const double slope = value(shape.slope, Kind::Angle, part.name, "the slope");
        const double first = value(shape.first, Kind::Angle, part.name, "the first bearing");
        for (int i = 0; i < n; ++i) {
            const Vec3 out = std::cos(slope * kDegree) * bearing(first + 360.0 * i / n) -
                             std::sin(slope * kDegree) * Vec3::UnitZ();
            addWire(part, hub, hub + length * out);
        }
        return false;
    }

    /// The wire and the fraction along it, or a finding and false.
    bool locate(const std::string& name, const std::string& partName, const Place& place, WirePlace& where) {
        const auto found = paths_.find(partName);
        if (found == paths_.end()) {
            problem(name,
                    fmt::format("{} is on {}, which is not there.", name,
                                partName.empty() ? "nothing" : "\"" + partName + "\""),
                    "Choose a part for it.");
            return false;
        }
        const Path& path = found->second;
        if (!path.expanded) return false;
        std::vector<double> lengths;
        double total = 0.0;
        for (std::size_t i = 0; i < path.wireCount; ++i) {
            lengths.push_back(out_.model.wires[path.firstWire + i].lengthM());
            total += lengths.back();
        }
        double at = 0.0;
        switch (place.kind) {
            case PlaceKind::Start:
                where = {path.firstWire, 0.0};
                return true;
            case PlaceKind::End:
                where = {path.firstWire + path.wireCount - 1, 1.0};
                return true;
            case PlaceKind::Corner: {
                failed_ = false;
                const int corners = static_cast<int>(path.wireCount) + (path.closed ? 0 : -1);
                if (corners < 1) {
                    problem(name, fmt::format("{} sits on a corner, but {} has none.", name, partName),
                            "Put it in the middle or at an end.");
                    return false;
                }
                const int corner = count(place.value, 1, corners, name, "the corner");
                if (failed_) return false;
                // Corners are counted from the first bend; on a loop, corner 1 is where it starts.
                const std::size_t wire =
                    path.closed ? static_cast<std::size_t>(corner - 1) : static_cast<std::size_t>(corner);
                where = {path.firstWire + wire, 0.0};
                return true;
            }
            case PlaceKind::Middle:
                at = 0.5 * total;
                break;
            case PlaceKind::Distance:
                failed_ = false;
                at = value(place.value, Kind::Length, name, "the distance");
                if (at < 0.0) at += total;  // counted from the end
                break;
            case PlaceKind::Percent: {
                failed_ = false;
                const double v = value(place.value, Kind::Number, name, "the percentage");
                at = total * (place.value.find('%') != std::string::npos ? v : v / 100.0);
                break;
            }
        }
        if (failed_ && (place.kind == PlaceKind::Distance || place.kind == PlaceKind::Percent)) return false;
        if (at < -1e-9 || at > total * (1.0 + 1e-9)) {
            problem(
                name,
                fmt::format("{} is {:.3f} m along {}, which is {:.3f} m long.", name, at, partName, total),
                "Choose a place on the wire.");
            return false;
        }
        std::size_t i = 0;
        while (i + 1 < path.wireCount && at > lengths[i] * (1.0 - 1e-9)) at -= lengths[i++];
        where = {path.firstWire + i, std::clamp(at / lengths[i], 0.0, 1.0)};
        if (where.at < 1e-9) where.at = 0.0;
        if (where.at > 1.0 - 1e-9) where.at = 1.0;
        return true;
    }

    void placeFeed(const Feed& feed) {
        PlainFeed plain;
        plain.name = feed.name;
        failed_ = false;
        const double amplitude = value(feed.amplitude, Kind::Number, feed.name, "the amplitude");
        const double phase = value(feed.phase, Kind::Angle, feed.name, "the phase");
        plain.voltage = std::polar(amplitude, phase * kDegree);
        if (!failed_ && amplitude <= 0.0)
            problem(feed.name, fmt::format("{} has no voltage.", feed.name),
                    "Give it an amplitude above zero, or remove it.");
        if (locate(feed.name, feed.part, feed.place, plain.place))
            out_.model.feeds.push_back(plain);
        else if (paths_.count(feed.part) != 0 && !paths_[feed.part].expanded && !hasError(out_.findings))
            problem(feed.name, fmt::format("{} is on {}, which is switched off.", feed.name, feed.part),
                    "Switch the part on, or move the feed.");
    }

    void placeLoad(const Load& load) {
        if (!load.enabled) return;
        PlainLoad plain;
        plain.name = load.name;
        plain.circuit.kind = load.form == LoadForm::Series ? LoadKind::Series : LoadKind::Parallel;
        failed_ = false;
        const auto element = [&](const std::string& text, const char* field,
                                 double unit) -> std::optional<double> {
            if (text.empty()) return std::nullopt;
            const double v = value(text, Kind::Number, load.name, field);
            if (!failed_ && v < 0.0)
                problem(load.name, fmt::format("{}: {} is below zero.", load.name, field),
                        "Use a positive value.");
            return v * unit;
        };
        if (load.form == LoadForm::Trap) {
            const double f =
                value(load.trapFrequency, Kind::Frequency, load.name, "the frequency of the trap");
            const double x = value(load.trapReactance, Kind::Number, load.name, "the reactance");
            if (!failed_ && !(f > 0.0 && x > 0.0))
                problem(load.name,
                        fmt::format("{}: a trap needs a frequency and a reactance above zero.", load.name),
                        "Type the frequency it blocks and the reactance of its coil there, often 150 to 300 "
                        "ohm.");
            plain.circuit.inductanceH = x / (2.0 * kPi * f);
            plain.circuit.capacitanceF = 1.0 / (2.0 * kPi * f * x);
        } else {
            plain.circuit.resistanceOhm = element(load.resistance, "the resistance", 1.0);
            plain.circuit.inductanceH = element(load.inductance, "the inductance", 1e-6);
            plain.circuit.capacitanceF = element(load.capacitance, "the capacitance", 1e-12);
        }
        plain.circuit.coilQ = element(load.coilQ, "the Q of the coil", 1.0);
        if (!failed_ && plain.circuit.coilQ && *plain.circuit.coilQ <= 0.0)
            problem(load.name, fmt::format("{}: the Q of the coil is zero.", load.name),
                    "Use a number above zero, or leave it empty for a coil without loss.");
        if (locate(load.name, load.part, load.place, plain.place)) out_.model.loads.push_back(plain);
    }

    // -------------------------------------------------------------------------------------------------
    // Lines and the feed path

    /// A value above zero, or a finding about the item `name`.
    double positive(const std::string& text, Kind kind, const std::string& name, const std::string& field) {
        const double v = value(text, kind, name, field);
        if (!failed_ && !(v > 0.0))
            problem(name, fmt::format("{}: {} has to be above zero.", name, field), "Type a larger value.");
        return v;
    }

    std::optional<double> maybe(const std::string& text, const std::string& name, const char* field,
                                double unit) {
        if (text.empty()) return std::nullopt;
        return positive(text, Kind::Number, name, field) * unit;
    }

    LineKind lineOf(const LineText& text, const std::string& name) {
        if (text.line != kCustomLine) {
            if (const LineType* line = findLine(text.line)) return line->kind;
            problem(name, fmt::format("{}: \"{}\" is not a known line.", name, text.line),
                    "Choose one from the list, or own figures.");
            return {};
        }
        LineKind line;
        line.impedanceOhm = positive(text.lineOhm, Kind::Number, name, "the impedance of the line");
        line.velocityFactor = positive(text.velocityFactor, Kind::Number, name, "the velocity factor");
        if (!failed_ && line.velocityFactor > 1.0)
            problem(name, fmt::format("{}: the velocity factor is {:g}.", name, line.velocityFactor),
                    "Use a number up to 1; 0.66 for solid coax, 0.95 for open wire.");
        line.lossRootDb = value(text.lossRoot, Kind::Number, name, "the loss by root of frequency");
        line.lossLinearDb = value(text.lossLinear, Kind::Number, name, "the loss by frequency");
        return line;
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
        failed_ = false;
        PlainLine plain;
        plain.name = line.name;
        plain.line = lineOf(line, line.name);
        plain.lengthM = positive(line.length, Kind::Length, line.name, "the length");
        plain.crossed = line.crossed;
        const bool sound = !failed_;
        WirePlace from;
        WirePlace to;
        if (!locate(line.name, line.fromPart, line.from, from) ||
            !locate(line.name, line.toPart, line.to, to) || !sound)
            return;
        plain.fromPort = portAt(from, line.name);
        plain.toPort = portAt(to, line.name);
        if (plain.fromPort == plain.toPort)
            return problem(line.name, fmt::format("{} has both ends at the same place.", line.name),
                           "Choose another part or place for one of its ends.");
        out_.model.lines.push_back(plain);
    }

    double ratioOf(const FeedBlock& block) {
        const auto colon = block.ratio.find(':');
        if (colon == std::string::npos) return positive(block.ratio, Kind::Number, block.name, "the ratio");
        const double a = positive(block.ratio.substr(0, colon), Kind::Number, block.name, "the ratio");
        const double b = positive(block.ratio.substr(colon + 1), Kind::Number, block.name, "the ratio");
        return failed_ ? 1.0 : a / b;
    }

    Element elementOf(ElementKind kind, bool shunt, const std::string& value, const std::string& q,
                      const std::string& name) {
        const double unit = kind == ElementKind::Inductor    ? 1e-6
                            : kind == ElementKind::Capacitor ? 1e-12
                                                             : 1.0;
        return {kind, positive(value, Kind::Number, name, "the value") * unit, shunt,
                maybe(q, name, "the Q", 1.0)};
    }

    Block blockOf(const FeedBlock& block) {
        const std::string& name = block.name;
        switch (block.kind) {
            case BlockKind::Transformer:
                return Transformer{ratioOf(block),
                                   maybe(block.magnetising, name, "the magnetising inductance", 1e-6),
                                   maybe(block.coreLoss, name, "the core loss", 1.0),
                                   maybe(block.leakage, name, "the leakage inductance", 1e-6),
                                   maybe(block.compensation, name, "the compensation capacitor", 1e-12)};
            case BlockKind::Cable:
                return Cable{lineOf(block, name), positive(block.length, Kind::Length, name, "the length")};
            case BlockKind::QuarterWave: {
                Cable section{lineOf(block, name), 0.0};
                const double f = block.tuned.empty() ? out_.designFrequencyHz
                                                     : positive(block.tuned, Kind::Frequency, name,
                                                                "the frequency it is cut for");
                section.lengthM = 0.25 * section.line.velocityFactor * wavelengthM(f);
                return section;
            }
            case BlockKind::Stub:
                return Stub{lineOf(block, name), positive(block.length, Kind::Length, name, "the length"),
                            block.shorted};
            case BlockKind::Element:
                return elementOf(block.element, block.shunt, block.value, block.q, name);
            case BlockKind::Network: {
                Network network;
                for (const auto& arm : block.arms)
                    network.elements.push_back(elementOf(arm.element, arm.shunt, arm.value, arm.q, name));
                if (network.elements.empty())
                    problem(name, fmt::format("{} has no elements.", name), "Add it anew, or remove it.");
                return network;
            }
            default: {
                const double loss = value(block.loss, Kind::Number, name, "the loss");
                if (!failed_ && loss < 0.0)
                    problem(name, fmt::format("{}: the loss is below zero.", name),
                            "Use a loss in dB of zero or more.");
                return Choke{loss};
            }
        }
    }

    void addBlock(const FeedBlock& block) {
        if (!block.enabled) return;
        failed_ = false;
        const Block plain = blockOf(block);
        if (!failed_) out_.feedPath.push_back(plain);
    }

    const Design& design_;
    Expansion out_;
    quantity::Scope scope_;
    std::map<std::string, Path> paths_;
    double radius_ = 0.0;
    std::optional<double> conductivity_;
    double coat_ = 0.0;
    double coatPermittivity_ = 1.0;
    bool failed_ = false;
};

}  // namespace

Expansion expand(const Design& design) {
    Expansion out = Expander(design).run();
    if (!hasError(out.findings)) {
        const auto more = checkWires(out.model, out.designFrequencyHz);
        out.findings.insert(out.findings.end(), more.begin(), more.end());
    }
    out.joints = findJoints(out.model);
    return out;
}

quantity::Scope scopeOf(const Design& design) {
    Expander expander(design);
    expander.run();
    return expander.scope();
}

std::string shapeName(const Shape& shape) {
    struct Name {
        std::string operator()(const StraightWire&) const { return "straight wire"; }
        std::string operator()(const BentWire& w) const { return w.closed ? "closed wire" : "bent wire"; }
        std::string operator()(const RegularLoop&) const { return "loop"; }
        std::string operator()(const InvertedV&) const { return "inverted V"; }
        std::string operator()(const Fan&) const { return "fan"; }
    };
    return std::visit(Name{}, shape);
}

}  // namespace rm::model
