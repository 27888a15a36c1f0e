#include "core/model/materials.h"

#include "core/words/words.h"

namespace rm::model {

const std::vector<Material>& materials() {
    static const std::vector<Material> table = {
        {"copper", say("Copper"), 5.96e7, 8960.0},
        {"aluminium", say("Aluminium (pure)"), 3.77e7, 2700.0},
        {"aluminium-6061", say("Aluminium tube (6061-T6)"), 2.5e7, 2700.0},
        {"copper-clad-steel", say("Copper-clad steel"), 5.96e7, 8150.0},
        {"bronze", say("Phosphor bronze"), 9.0e6, 8860.0},
        {"brass", say("Brass"), 1.5e7, 8500.0},
        {"steel", say("Galvanised steel"), 6.0e6, 7850.0},
        {"stainless", say("Stainless steel (304)"), 1.4e6, 8000.0},
        {"perfect", say("Perfect conductor"), std::nullopt, 8960.0},
    };
    return table;
}

const Material* findMaterial(const std::string& id) {
    for (const auto& material : materials())
        if (material.id == id) return &material;
    return nullptr;
}

}  // namespace rm::model
