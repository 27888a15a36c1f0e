#include "core/model/loosen.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "core/model/expand.h"
#include "core/model/rename.h"

namespace rm::model {

namespace {

std::string metres(double value) {
    return fmt::format("{:.9g} m", std::abs(value) < 1e-9 ? 0.0 : value);
}

/// Wires one after the other that make one bent wire.
struct Run {
    std::string part;
    std::size_t first = 0;
    std::size_t count = 0;
};

class Loosener {
  public:
    Loosener(const Design& design, const Expansion& expansion)
        : design_(design), expansion_(expansion), wires_(expansion.model.wires) {}

    Design run() {
        Design out = design_;
        out.parts.clear();
        out.copies.clear();
        for (std::size_t i = 0; i < wires_.size(); ++i)
            if (isRun(wires_[i])) {
                continue;  // its feed would no longer know it: it stays a cable run
            } else if (i == 0 || !follows(i)) {
                runs_.push_back({nameFor(wires_[i].part), i, 1});
            } else {
                ++runs_.back().count;
            }
        for (const auto& r : runs_) out.parts.push_back(partOf(r));
        for (const auto& part : design_.parts)
            if (std::holds_alternative<CableRun>(part.shape)) out.parts.push_back(part);
        const auto& model = expansion_.model;
        out.feeds.clear();
        for (const auto& feed : model.feeds) {
            Feed typed;
            typed.name = feed.name;
            typed.amplitude = fmt::format("{:.9g}", std::abs(feed.voltage));
            typed.phase = fmt::format("{:.9g} deg", std::arg(feed.voltage) / kDegree);
            std::tie(typed.part, typed.place) = placeOf(feed.place);
            for (const auto& other : feed.together)
                if (!isRun(wires_[other.wire])) typed.with.push_back(placeOf(other).first);
            out.feeds.push_back(typed);
        }
        out.loads.clear();
        for (const auto& load : design_.loads)
            if (isOnRun(load)) out.loads.push_back(load);
        for (const auto& load : model.loads) {
            // What is on a run is typed there, or follows from the feed path.
            if (isRun(wires_[load.place.wire])) continue;
            Load typed;
            for (const auto& original : design_.loads)
                if (load.name == original.name || load.name.rfind(original.name + " (", 0) == 0)
                    typed = original;
            typed.id = 0;
            if (load.ratedW) typed.rating = fmt::format("{:.9g}", *load.ratedW);
            typed.name = load.name;
            std::tie(typed.part, typed.place) = placeOf(load.place);
            if (load.circuit.ring) {
                setRing(typed, load.circuit);
                out.loads.push_back(typed);
                continue;
            }
            typed.form = load.circuit.kind == LoadKind::Series ? LoadForm::Series : LoadForm::Parallel;
            typed.table = load.circuit.table;
            if (!typed.table.empty()) typed.form = LoadForm::Table;
            const auto text = [](const std::optional<double>& v, double unit) {
                return v ? fmt::format("{:.9g}", *v / unit) : std::string();
            };
            typed.resistance = text(load.circuit.resistanceOhm, 1.0);
            typed.inductance = text(load.circuit.inductanceH, 1e-6);
            typed.capacitance = text(load.circuit.capacitanceF, 1e-12);
            typed.coilQ = text(load.circuit.coilQ, 1.0);
            out.loads.push_back(typed);
        }
        out.lines.clear();
        const auto ports = model.places();
        for (const auto& line : model.lines) {
            PhasingLine typed;
            typed.name = line.name;
            typed.line = kCustomLine;
            typed.lineOhm = fmt::format("{:.9g}", line.line.impedanceOhm);
            typed.velocityFactor = fmt::format("{:.9g}", line.line.velocityFactor);
            typed.lossRoot = fmt::format("{:.9g}", line.line.lossRootDb);
            typed.lossLinear = fmt::format("{:.9g}", line.line.lossLinearDb);
            typed.length = metres(line.lengthM);
            typed.crossed = line.crossed;
            std::tie(typed.fromPart, typed.from) = placeOf(ports[line.fromPort].place);
            std::tie(typed.toPart, typed.to) = placeOf(ports[line.toPort].place);
            out.lines.push_back(typed);
        }
        return out;
    }

  private:
    bool isRun(const PlainWire& wire) const {
        return std::any_of(expansion_.runs.begin(), expansion_.runs.end(),
                           [&](const RunSizes& run) { return run.part == wire.origin(); });
    }
    bool isOnRun(const Load& load) const {
        const Part* part = partMeant(design_, load.part);
        return part != nullptr && std::holds_alternative<CableRun>(part->shape);
    }
    static void setRing(Load& typed, const LumpedCircuit& circuit) {
        const FerriteRing& ring = *circuit.ring;
        typed.form = LoadForm::Ring;
        typed.turns = fmt::format("{:.9g}", ring.turns);
        typed.ringOuter = metres(ring.outerM);
        typed.ringInner = metres(ring.innerM);
        typed.ringHeight = metres(ring.heightM);
        typed.permeability = fmt::format("{:.9g}", ring.permeability);
        typed.relaxation = fmt::format("{:.9g} MHz", ring.relaxationHz / 1e6);
        typed.stray = circuit.capacitanceF ? fmt::format("{:.9g}", *circuit.capacitanceF * 1e12) : "";
    }

    /// Whether a wire goes on where the one before it ends, as the same conductor.
    bool follows(std::size_t i) const {
        const PlainWire& a = wires_[i - 1];
        const PlainWire& b = wires_[i];
        return a.part == b.part && a.radiusM == b.radiusM && (a.endM - b.startM).norm() < 1e-9;
    }

    std::string nameFor(const std::string& part) {
        const int n = ++named_[part];
        return n == 1 ? part : fmt::format("{} {}", part, n);
    }

    PointText typed(const Vec3& p) const {
        return {metres(p.x()), metres(p.y()), metres(p.z() - expansion_.heightM)};
    }

    Part partOf(const Run& run) const {
        const PlainWire& first = wires_[run.first];
        const auto original = std::find_if(design_.parts.begin(), design_.parts.end(),
                                           [&](const Part& p) { return p.name == first.origin(); });
        Part part;
        if (original != design_.parts.end()) part.conductor = original->conductor;
        part.name = run.part;
        part.conductor.diameter = metres(2.0 * first.radiusM);
        if (run.count == 1) {
            part.shape = StraightWire{typed(first.startM), typed(first.endM)};
            return part;
        }
        BentWire bent;
        bent.points.push_back(typed(first.startM));
        for (std::size_t i = 0; i < run.count; ++i) bent.points.push_back(typed(wires_[run.first + i].endM));
        if (bent.points.size() > 3 && bent.points.front() == bent.points.back()) {
            bent.points.pop_back();
            bent.closed = true;
        }
        part.shape = bent;
        return part;
    }

    std::pair<std::string, Place> placeOf(const WirePlace& where) const {
        for (const auto& run : runs_) {
            if (where.wire < run.first || where.wire >= run.first + run.count) continue;
            double along = where.at * wires_[where.wire].lengthM();
            for (std::size_t i = run.first; i < where.wire; ++i) along += wires_[i].lengthM();
            return {run.part, {PlaceKind::Distance, metres(along)}};
        }
        return {};
    }

    const Design& design_;
    const Expansion& expansion_;
    const std::vector<PlainWire>& wires_;
    std::vector<Run> runs_;
    std::map<std::string, int> named_;
};

}  // namespace

Design loosened(const Design& design) {
    const Expansion expansion = expand(design);
    for (const auto& finding : expansion.findings)
        if (finding.severity == Severity::Error) throw Error(finding.sentence + " " + finding.mend);
    return Loosener(design, expansion).run();
}

}  // namespace rm::model
