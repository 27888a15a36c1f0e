#include "core/build/rigging.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/geometry.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

/// How much of a line of points lies between two heights of its way, where span `i` of the tied points is.
double lengthWithin(const std::vector<Vec3>& line, const Vec3& from, const Vec3& to) {
    const Vec3 chord = to - from;
    double sum = 0.0;
    for (std::size_t i = 1; i < line.size(); ++i) {
        const Vec3 middle = 0.5 * (line[i - 1] + line[i]);
        const double along = (middle - from).dot(chord) / chord.squaredNorm();
        const Vec3 off = middle - from - along * chord;
        // A sag is shallow: what lies beside the chord by more belongs to another span.
        if (along > -1e-6 && along < 1.0 + 1e-6 && off.norm() < 0.26 * chord.norm() + 1e-6)
            sum += (line[i] - line[i - 1]).norm();
    }
    return sum;
}

void addHung(const model::HungSizes& hung, double headingDeg, std::vector<HungRow>& rows) {
    for (std::size_t i = 0; i < hung.spans.size(); ++i) {
        const auto& span = hung.spans[i];
        const Vec3& from = hung.tiedM[i];
        const Vec3& to = hung.tiedM[i + 1];
        HungRow row;
        row.part = hung.part;
        row.from = span.from;
        row.to = span.to;
        row.wireM = lengthWithin(hung.wireM, from, to);
        row.ropeM = lengthWithin(hung.ropeStartM, from, to) + lengthWithin(hung.ropeEndM, from, to);
        row.fromUpM = from.z();
        row.toUpM = to.z();
        const double level = std::hypot(to.x() - from.x(), to.y() - from.y());
        row.middleUpM = 0.5 * (from.z() + to.z()) - (level > 0.0 ? span.sagM * level / span.chordM : 0.0);
        row.sagM = span.sagM;
        row.pullN = span.pullN;
        row.slopeDeg = span.slopeDeg;
        row.bearingDeg = level > 1e-6 ? model::compassDeg(to - from, headingDeg) : 0.0;
        rows.push_back(row);
    }
}

PegRow pegAt(const std::string& what, const std::string& from, const Vec3& run, double upM,
             double headingDeg) {
    return {what, from, model::compassDeg(run, headingDeg), std::hypot(run.x(), run.y()), upM};
}

}  // namespace

Rigging riggingOf(const model::Design& design, const model::Expansion& expansion) {
    Rigging out;
    const double heading = expansion.headingDeg;
    for (const auto& hung : expansion.hung) addHung(hung, heading, out.hung);
    for (const auto& support : expansion.supports)
        if (support.kind == model::SupportKind::Peg)
            out.pegs.push_back(
                pegAt(support.name, say("the middle of the site"), support.topM, support.heightM(), heading));
    for (const auto& part : design.parts) {
        const bool spread = std::holds_alternative<model::RadialSystem>(part.shape) ||
                            std::holds_alternative<model::Fan>(part.shape);
        if (!spread || !part.enabled) continue;
        // The ends that nothing is joined to, seen from where the first wire begins.
        const model::PlainWire* first = nullptr;
        int number = 0;
        for (const auto& wire : expansion.model.wires) {
            if (wire.origin() != part.name) continue;
            if (first == nullptr) first = &wire;
            const bool runsOn = std::any_of(
                expansion.model.wires.begin(), expansion.model.wires.end(), [&](const auto& other) {
                    return &other != &wire && ((other.startM - wire.endM).norm() < 1e-6 ||
                                               (other.endM - wire.endM).norm() < 1e-6);
                });
            const Vec3 run = wire.endM - first->startM;
            if (runsOn || std::hypot(run.x(), run.y()) < 1e-3) continue;
            out.pegs.push_back(
                pegAt(say("{}, end {}", part.name, ++number), part.name, run, wire.endM.z(), heading));
        }
    }
    return out;
}

}  // namespace rm::build
