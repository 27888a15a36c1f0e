#include "core/model/materials.h"

namespace rm::model {

const std::vector<Material>& materials() {
    static const std::vector<Material> table = {
        {"copper", "Copper", 5.96e7},
        {"aluminium", "Aluminium (pure)", 3.77e7},
        {"aluminium-6061", "Aluminium tube (6061-T6)", 2.5e7},
        {"copper-clad-steel", "Copper-clad steel", 5.96e7},
        {"bronze", "Phosphor bronze", 9.0e6},
        {"brass", "Brass", 1.5e7},
        {"steel", "Galvanised steel", 6.0e6},
        {"stainless", "Stainless steel (304)", 1.4e6},
        {"perfect", "Perfect conductor", std::nullopt},
    };
    return table;
}

const Material* findMaterial(const std::string& id) {
    for (const auto& material : materials())
        if (material.id == id) return &material;
    return nullptr;
}

}  // namespace rm::model
