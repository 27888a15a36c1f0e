#include "core/model/wire_model.h"

#include <algorithm>

namespace rm::model {

double snoekRelaxationHz(double permeability) {
    constexpr double kSnoekHz = 5.6e9;
    return kSnoekHz / std::max(permeability - 1.0, 0.01);
}

WireModel::WireModel() = default;
WireModel::WireModel(const WireModel&) = default;
WireModel::WireModel(WireModel&&) noexcept = default;
WireModel& WireModel::operator=(const WireModel&) = default;
WireModel& WireModel::operator=(WireModel&&) noexcept = default;
WireModel::~WireModel() = default;

bool WireModel::runsThrough(const Vec3& point) const {
    return std::any_of(wires.begin(), wires.end(), [&](const PlainWire& wire) {
        return wire.runsOn && (wire.startM - point).norm() < 1e-6;
    });
}

Bounds WireModel::bounds() const {
    Bounds box;
    for (const auto& wire : wires) box.include(wire);
    return box;
}

std::vector<WireModel::PortPlace> WireModel::places() const {
    std::vector<PortPlace> all;
    for (const auto& feed : feeds) all.push_back({feed.place, feed.name, feed.together, feed.against});
    for (const auto& load : loads) all.push_back({load.place, load.name, {}});
    for (const auto& tap : taps) all.push_back({tap.place, tap.name, {}});
    return all;
}

}  // namespace rm::model
