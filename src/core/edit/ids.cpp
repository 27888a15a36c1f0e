#include "core/edit/ids.h"

#include <unordered_set>

#include "core/edit/item.h"

namespace rm::edit {

namespace {

constexpr ItemType kListed[] = {ItemType::Dimension, ItemType::Part,   ItemType::Copy, ItemType::Feed,
                                ItemType::Drive,     ItemType::Load,   ItemType::Line, ItemType::Block,
                                ItemType::Measured,  ItemType::Support};

class Giver {
  public:
    explicit Giver(model::Id& last) : last_(last) {}

    void give(model::Id& id) {
        if (id == 0 || !seen_.insert(id).second) {
            id = ++last_;
            seen_.insert(id);
        }
        last_ = std::max(last_, id);
    }
    void giveItems(model::Design& design) {
        for (const ItemType type : kListed)
            withList(design, type, [&](auto& list) {
                for (auto& item : list) give(item.id);
            });
    }

  private:
    model::Id& last_;
    std::unordered_set<model::Id> seen_;
};

}  // namespace

void giveIds(model::Project& project) {
    Giver giver(project.lastId);
    for (auto& design : project.designs) {
        giver.give(design.id);
        giver.giveItems(design);
    }
    for (auto& pin : project.pins) {
        giver.give(pin.id);
        if (pin.design.id != 0) continue;
        for (const auto& design : project.designs)
            if (design.name == pin.design.name && pin.design.id == 0) pin.design.id = design.id;
    }
}

}  // namespace rm::edit
