#include "core/model/on_ground.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/model/expand.h"
#include "core/model/geometry.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

/// Rounding may leave a wire a hair closer than it was put.
constexpr double kRounding = 1.0 - 1e-9;

bool lies(const PlainWire& wire) {
    const double least = leastHeightM(wire) * kRounding;
    return std::abs(wire.startM.z()) < least && std::abs(wire.endM.z()) < least;
}

}  // namespace

bool isInSoil(const Ground& ground, const Vec3& startM, const Vec3& endM) {
    return ground.kind == GroundKind::Real && startM.z() + endM.z() < 0.0;
}

bool isInSoil(const Ground& ground, const PlainWire& wire) {
    return isInSoil(ground, wire.startM, wire.endM);
}

double crossing(const Ground& ground, const PlainWire& wire) {
    const double from = wire.startM.z();
    const double to = wire.endM.z();
    if (ground.kind != GroundKind::Real || from * to >= 0.0) return 0.0;
    const double at = from / (from - to);
    const double diameter = 2.0 * wire.radiusM;
    const double length = wire.lengthM();
    return at * length < diameter || (1.0 - at) * length < diameter ? 0.0 : at;
}

void liftFromSurface(WireModel& model, std::vector<Finding>& findings) {
    if (model.ground.kind != GroundKind::Real) return;
    struct Move {
        Vec3 fromM;
        double toZ;
        double withinM;
    };
    std::vector<Move> moves;
    std::set<std::string> said;
    for (const PlainWire& wire : model.wires) {
        if (!lies(wire)) continue;
        const bool below = wire.startM.z() + wire.endM.z() < 0.0;
        const double least = leastHeightM(wire);
        for (const Vec3& end : {wire.startM, wire.endM})
            moves.push_back(
                {end, below ? -least : least, std::max(joinToleranceM(wire.radiusM, wire.radiusM), 1e-9)});
        if (said.insert(wire.origin()).second)
            findings.push_back({Severity::Warning, wire.origin(),
                                say("{} lies on the ground: it is worked out {:.1f} mm {} it.", wire.part,
                                    least * 1e3, below ? say("below") : say("above")),
                                say("Nothing to do where grass or a few blades of straw lie between; buried "
                                    "wires want their depth.")});
    }
    for (PlainWire& wire : model.wires)
        for (Vec3* end : {&wire.startM, &wire.endM})
            for (const Move& move : moves)
                if ((*end - move.fromM).norm() <= move.withinM) {
                    end->z() = move.toZ;
                    break;
                }
}

bool restsOnGround(const Expansion& expansion) {
    if (expansion.model.ground.kind == GroundKind::FreeSpace) return false;
    // Cable runs end at the ground and hung wires at their supports, whatever the height of the site.
    std::set<std::string> fixed;
    for (const auto& run : expansion.runs) fixed.insert(run.part);
    for (const auto& hung : expansion.hung) fixed.insert(hung.part);
    return std::any_of(
        expansion.model.wires.begin(), expansion.model.wires.end(), [&](const PlainWire& wire) {
            return std::min(wire.startM.z(), wire.endM.z()) < kRestsM && !fixed.contains(wire.origin());
        });
}

}  // namespace rm::model
