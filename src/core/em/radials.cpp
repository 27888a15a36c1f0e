#include "core/em/radials.h"

#include <array>
#include <cmath>
#include <map>

namespace rm::em {

namespace {

constexpr double kAlikeM = 1e-6;  ///< lengths that differ by less are equal

/// How a wire looks from its hub: where that is, length, rise, radius.
using Look = std::array<long long, 6>;

Look lookFrom(const Vec3& hub, const Vec3& end, const model::PlainWire& wire) {
    const auto rounded = [](double metres) { return std::llround(metres / kAlikeM); };
    return {rounded(hub.x()),        rounded(hub.y()),           rounded(hub.z()),
            rounded(wire.lengthM()), rounded(end.z() - hub.z()), rounded(wire.radiusM * 1e3)};
}

}  // namespace

std::vector<std::vector<Radial>> radialSets(const model::WireModel& model) {
    if (model.wires.size() < kLeastRadials) return {};
    std::map<Look, std::vector<Radial>> looks;
    for (std::size_t w = 0; w < model.wires.size(); ++w) {
        const auto& wire = model.wires[w];
        looks[lookFrom(wire.startM, wire.endM, wire)].push_back({w, true});
        looks[lookFrom(wire.endM, wire.startM, wire)].push_back({w, false});
    }
    std::vector<std::vector<Radial>> sets;
    for (auto& [look, wires] : looks)
        if (wires.size() >= kLeastRadials) sets.push_back(std::move(wires));
    return sets;
}

}  // namespace rm::em
