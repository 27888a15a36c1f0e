#include "core/model/bands.h"

namespace rm::model {

const std::vector<Band>& allocatedBands() {
    static const std::vector<Band> bands = {
        {"160 m", 1.81e6, 2.0e6, {}},     {"80 m", 3.5e6, 3.8e6, {}},       {"60 m", 5.3515e6, 5.3665e6, {}},
        {"40 m", 7.0e6, 7.2e6, {}},       {"30 m", 10.1e6, 10.15e6, {}},    {"20 m", 14.0e6, 14.35e6, {}},
        {"17 m", 18.068e6, 18.168e6, {}}, {"15 m", 21.0e6, 21.45e6, {}},    {"12 m", 24.89e6, 24.99e6, {}},
        {"10 m", 28.0e6, 29.7e6, {}},     {"6 m", 50.0e6, 52.0e6, {}},      {"4 m", 70.0e6, 70.5e6, {}},
        {"2 m", 144.0e6, 146.0e6, {}},    {"1.25 m", 222.0e6, 225.0e6, {}}, {"70 cm", 430.0e6, 440.0e6, {}},
    };
    return bands;
}

const Band* findAllocatedBand(const std::string& name) {
    for (const auto& band : allocatedBands())
        if (band.name == name) return &band;
    return nullptr;
}

}  // namespace rm::model
