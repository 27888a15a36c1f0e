#include "core/build/pieces.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "core/model/geometry.h"
#include "core/model/materials.h"
#include "core/study/figures.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

constexpr double kSameM = 5e-4;  ///< lengths that differ by less are cut alike
constexpr double kStraight = 1e-6;

/// A wire of the model, cut where a feed or a load sits in it.
struct Stretch {
    const model::PlainWire* wire = nullptr;
    Vec3 from;
    Vec3 to;
    double lengthM() const { return (to - from).norm(); }
};

/// One end of a stretch.
struct End {
    std::size_t stretch = 0;
    bool atEnd = false;
};

class Cutter {
  public:
    Cutter(const model::Design& design, const model::Expansion& expansion, const Allowances& allowances)
        : design_(design), expansion_(expansion), allowances_(allowances) {
        splitAtPorts();
        meet();
        chain();
        addBooms();
        weigh();
        sumUp();
    }

    CutList list;

  private:
    void splitAtPorts() {
        const auto places = expansion_.model.places();
        for (std::size_t w = 0; w < expansion_.model.wires.size(); ++w) {
            const auto& wire = expansion_.model.wires[w];
            // The outside of a cable is cut with the cable, which the feed path orders.
            const model::Part* part = partOf(wire.origin());
            if (part != nullptr && std::holds_alternative<model::CableRun>(part->shape)) continue;
            std::vector<double> cuts{0.0, 1.0};
            for (const auto& port : places) {
                if (port.place.wire != w) continue;
                const double at = port.place.at;
                ports_.push_back(wire.startM + at * (wire.endM - wire.startM));
                if (at > 1e-9 && at < 1.0 - 1e-9) cuts.push_back(at);
            }
            std::sort(cuts.begin(), cuts.end());
            for (std::size_t i = 0; i + 1 < cuts.size(); ++i)
                if (cuts[i + 1] - cuts[i] > 1e-9)
                    stretches_.push_back({&wire, wire.startM + cuts[i] * (wire.endM - wire.startM),
                                          wire.startM + cuts[i + 1] * (wire.endM - wire.startM)});
        }
    }

    Vec3 pointOf(const End& end) const {
        return end.atEnd ? stretches_[end.stretch].to : stretches_[end.stretch].from;
    }

    /// Which ends lie in one place.
    void meet() {
        nodeOf_.assign(2 * stretches_.size(), 0);
        for (std::size_t i = 0; i < nodeOf_.size(); ++i) {
            const End end{i / 2, i % 2 == 1};
            const Vec3 at = pointOf(end);
            std::size_t n = 0;
            for (; n < nodes_.size(); ++n)
                if ((pointOf(nodes_[n].front()) - at).norm() <=
                    model::joinToleranceM(stretches_[end.stretch].wire->radiusM,
                                          stretches_[nodes_[n].front().stretch].wire->radiusM))
                    break;
            if (n == nodes_.size()) nodes_.emplace_back();
            nodes_[n].push_back(end);
            nodeOf_[i] = n;
        }
    }

    bool isPort(std::size_t node) const {
        const Vec3 at = pointOf(nodes_[node].front());
        const double radius = stretches_[nodes_[node].front().stretch].wire->radiusM;
        return std::any_of(ports_.begin(), ports_.end(),
                           [&](const Vec3& port) { return (port - at).norm() <= radius; });
    }

    static bool sameRadius(const model::PlainWire& a, const model::PlainWire& b) {
        return std::abs(a.radiusM - b.radiusM) < 1e-9;
    }

    /// The diameter of the thicker tube that goes on straight at this end; 0 where there is none.
    double goesInto(const End& end) const {
        const auto& ends = nodes_[nodeAt(end)];
        if (ends.size() != 2 || isPort(nodeAt(end))) return 0.0;
        const End other = ends[0].stretch == end.stretch && ends[0].atEnd == end.atEnd ? ends[1] : ends[0];
        const auto& own = *stretches_[end.stretch].wire;
        const auto& next = *stretches_[other.stretch].wire;
        if (own.part != next.part || next.radiusM <= own.radiusM + 1e-9) return 0.0;
        const Vec3 out = pointOf(end) - pointOf(otherEnd(end));
        const Vec3 on = pointOf(otherEnd(other)) - pointOf(other);
        return (out.normalized() - on.normalized()).norm() < kStraight ? 2.0 * next.radiusM : 0.0;
    }

    /// Where the conductor runs on: two ends of one part, and nothing between them.
    bool runsOn(std::size_t node) const {
        const auto& ends = nodes_[node];
        if (ends.size() != 2 || isPort(node)) return false;
        const auto& a = *stretches_[ends[0].stretch].wire;
        const auto& b = *stretches_[ends[1].stretch].wire;
        return a.part == b.part && sameRadius(a, b);
    }

    std::size_t nodeAt(const End& end) const { return nodeOf_[2 * end.stretch + (end.atEnd ? 1 : 0)]; }

    End otherEnd(const End& end) const { return {end.stretch, !end.atEnd}; }

    /// Follows every conductor from one of its ends to the other.
    void chain() {
        std::vector<bool> used(stretches_.size(), false);
        const auto follow = [&](End at) {
            std::vector<End> path;  // each by the end that it is entered at
            while (!used[at.stretch]) {
                used[at.stretch] = true;
                path.push_back(at);
                const End out = otherEnd(at);
                if (!runsOn(nodeAt(out))) break;
                const auto& ends = nodes_[nodeAt(out)];
                at = ends[0].stretch == out.stretch && ends[0].atEnd == out.atEnd ? ends[1] : ends[0];
            }
            return path;
        };
        for (std::size_t i = 0; i < 2 * stretches_.size(); ++i) {
            const End end{i / 2, i % 2 == 1};
            if (!used[end.stretch] && !runsOn(nodeAt(end))) put(follow(end), false);
        }
        for (std::size_t s = 0; s < stretches_.size(); ++s)
            if (!used[s]) put(follow({s, false}), true);
    }

    const model::Part* partOf(const std::string& origin) const {
        for (const auto& part : design_.parts)
            if (part.name == origin) return &part;
        return nullptr;
    }

    /// The element of a row that a wire belongs to, of whichever copy.
    const model::ElementSize* elementOf(const model::PlainWire& wire) const {
        const model::RowSizes* row = expansion_.row(wire.origin());
        if (row == nullptr) return nullptr;
        for (const auto& element : row->elements) {
            const std::string end = ", " + element.name;
            if (wire.part.size() > end.size() &&
                wire.part.compare(wire.part.size() - end.size(), end.size(), end) == 0)
                return &element;
        }
        return nullptr;
    }

    /// The diameter as typed, of the part or of the section of an element's tubing.
    static std::string diameterOf(const model::PlainWire& wire, const model::Part& part,
                                  const model::ElementSize* element) {
        if (element == nullptr) return part.conductor.diameter;
        for (const auto& section : element->sections)
            if (std::abs(section.radiusM - wire.radiusM) < 1e-9)
                return section.text.empty() ? part.conductor.diameter : section.text;
        return figure("{:.4g} mm", 2e3 * wire.radiusM);  // the short sides
    }

    void put(const std::vector<End>& path, bool closed) {
        const auto& wire = *stretches_[path.front().stretch].wire;
        Piece piece;
        piece.part = wire.part;
        piece.origin = wire.origin();
        const model::Part* part = partOf(piece.origin);
        const model::ElementSize* element = elementOf(wire);
        if (element != nullptr) piece.element = element->name;
        if (part != nullptr)
            piece.conductor =
                fmt::format("{} {}{}", part->conductor.material, diameterOf(wire, *part, element),
                            part->conductor.coat.empty() ? "" : say(", insulated"));
        double thickest = 0.0;
        for (std::size_t i = 0; i < path.size(); ++i) {
            const auto& one = stretches_[path[i].stretch];
            piece.modelledM += one.lengthM();
            thickest = std::max(thickest, one.wire->radiusM);
            if (i == 0) continue;
            const Vec3 before = pointOf(otherEnd(path[i - 1])) - pointOf(path[i - 1]);
            const Vec3 after = pointOf(otherEnd(path[i])) - pointOf(path[i]);
            // Where a wire only sags it is not bent.
            if (!one.wire->runsOn && (before.normalized() - after.normalized()).norm() > kStraight)
                ++piece.bends;
        }
        piece.diameterM = 2.0 * thickest;
        piece.wire = piece.diameterM <= allowances_.thickestWireM;
        piece.cutM = piece.modelledM;
        if (!closed)
            for (const std::size_t node : {nodeAt(path.front()), nodeAt(otherEnd(path.back()))})
                piece.freeEnds += nodes_[node].size() == 1 && !isPort(node) ? 1 : 0;
        if (!piece.wire && !closed) {
            std::vector<std::string> words;
            for (const End& end : {path.front(), otherEnd(path.back())})
                if (const double into = goesInto(end); into > 0.0) {
                    piece.overlapM += allowances_.overlapM;
                    piece.insideOfM = into;
                    words.push_back(
                        say("{:.0f} mm inside the {:.4g} mm tube", 1e3 * allowances_.overlapM, 1e3 * into));
                }
            piece.cutM += piece.overlapM;
            for (const End& end : {path.front(), otherEnd(path.back())})
                if (allowances_.gapM > 0.0 && isPort(nodeAt(end)) && nodes_[nodeAt(end)].size() == 2) {
                    piece.cutM -= 0.5 * allowances_.gapM;
                    words.push_back(say("{:.1f} mm less for the gap", 500.0 * allowances_.gapM));
                }
            piece.added = fmt::format("{}", fmt::join(words, ", "));
        }
        if (piece.wire) {
            const double joint = allowances_.feedM;
            const auto own = allowances_.partEndM.find(piece.origin);
            const double fold = own != allowances_.partEndM.end() ? own->second : allowances_.endM;
            if (closed) {
                piece.cutM += 2.0 * joint;
                piece.added = say("{:.0f} cm to close it", 200.0 * joint);
            } else {
                const int free = piece.freeEnds;
                piece.cutM += free * fold + (2 - free) * joint;
                std::vector<std::string> words;
                if (free > 0)
                    words.push_back(say("{:.0f} cm at {}", 100.0 * fold,
                                        free == 2 ? say("each end") : say("the free end")));
                if (free < 2)
                    words.push_back(say("{:.0f} cm at {}", 100.0 * joint,
                                        free == 0 ? say("each end") : say("the joint")));
                piece.added = fmt::format("{}", fmt::join(words, ", "));
            }
        }
        for (auto& known : list.pieces)
            if (known.part == piece.part && known.bends == piece.bends && known.added == piece.added &&
                known.conductor == piece.conductor && std::abs(known.cutM - piece.cutM) < kSameM) {
                ++known.count;
                return;
            }
        list.pieces.push_back(std::move(piece));
    }

    /// A metal boom makes its elements longer: at their tips, shared by the two of a split one.
    void addBooms() {
        for (const auto& row : expansion_.rows)
            for (const auto& element : row.elements) {
                if (!(std::abs(element.addM) > 0.0)) continue;
                // Each copy of the row for itself.
                std::map<std::string, std::vector<Piece*>> tips;
                for (auto& piece : list.pieces)
                    if (piece.origin == row.part && piece.element == element.name && piece.freeEnds > 0)
                        tips[piece.part].push_back(&piece);
                for (const auto& [part, own] : tips) {
                    int count = 0;
                    for (const Piece* piece : own) count += piece->count;
                    for (Piece* piece : own) {
                        const double each = element.addM / count;
                        piece->cutM += each;
                        piece->added +=
                            say("{}{:.1f} mm for the boom", piece->added.empty() ? "" : ", ", 1e3 * each);
                    }
                }
            }
    }

    void weigh() {
        for (auto& piece : list.pieces) {
            const model::Part* part = partOf(piece.origin);
            const model::Material* material =
                part != nullptr ? model::findMaterial(part->conductor.material) : nullptr;
            if (material == nullptr) continue;
            const double area = piece.wire ? 0.25 * kPi * piece.diameterM * piece.diameterM
                                           : allowances_.sectionM2(piece.diameterM);
            piece.massKg = material->densityKgM3 * area * piece.cutM;
        }
    }

    void sumUp() {
        for (const auto& piece : list.pieces) {
            auto total = std::find_if(list.totals.begin(), list.totals.end(), [&](const Total& t) {
                return t.conductor == piece.conductor && t.wire == piece.wire;
            });
            if (total == list.totals.end())
                total = list.totals.insert(list.totals.end(), {piece.conductor, 0.0, 0, piece.wire});
            total->cutM += piece.count * piece.cutM;
            total->pieces += piece.count;
        }
    }

    const model::Design& design_;
    const model::Expansion& expansion_;
    const Allowances& allowances_;
    std::vector<Stretch> stretches_;
    std::vector<Vec3> ports_;
    std::vector<std::vector<End>> nodes_;
    std::vector<std::size_t> nodeOf_;
};

}  // namespace

double Allowances::sectionM2(double diameterM) const {
    const double inside = solid(diameterM) ? 0.0 : diameterM - 2.0 * wallM;
    return 0.25 * kPi * (diameterM * diameterM - inside * inside);
}

CutList cutList(const model::Design& design, const model::Expansion& expansion,
                const Allowances& allowances) {
    study::requireUsable(expansion);
    return Cutter(design, expansion, allowances).list;
}

CutList cutList(const model::Design& design, const Allowances& allowances) {
    return cutList(design, model::expand(design), allowances);
}

}  // namespace rm::build
