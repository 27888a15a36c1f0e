#include "core/study/field_key.h"

namespace rm::study {

std::string fieldKey(const model::WireModel& model) {
    std::string key;
    const model::Ground& g = model.ground;
    addBytes(key, model.fineness, static_cast<int>(g.kind), g.relativePermittivity, g.conductivitySm,
             g.relaxationHz);
    for (const auto& w : model.wires)
        addBytes(key, w.startM.x(), w.startM.y(), w.startM.z(), w.endM.x(), w.endM.y(), w.endM.z(), w.radiusM,
                 w.conductivitySm.value_or(-1.0), w.coatM, w.coatPermittivity);
    addBytes(key, model.feeds.size());
    for (const auto& port : model.places()) {
        addBytes(key, port.place.wire, port.place.at, port.together.size());
        for (const auto& other : port.together) addBytes(key, other.wire, other.at);
        addBytes(key, port.against.size());
        for (const auto& other : port.against) addBytes(key, other.wire, other.at);
    }
    return key;
}

}  // namespace rm::study
