#include "core/edit/item.h"

#include "core/words/words.h"

namespace rm::edit {

bool holds(const model::Design& design, Item item) {
    if (!isListed(item.type)) return item.type != ItemType::None;
    bool there = false;
    withList(design, item.type, [&](const auto& list) { there = model::find(list, item.id) != nullptr; });
    return there;
}

std::string nameOf(const model::Design& design, Item item) {
    std::string name;
    withList(design, item.type, [&](const auto& list) {
        if (const auto* found = model::find(list, item.id)) name = found->name;
    });
    return name;
}

Item itemNamed(const model::Design& design, const std::string& name) {
    if (name == say("Harness")) return {ItemType::Harness, 0};
    if (name == say("Site")) return {ItemType::Site, 0};
    Item item;
    for (const ItemType type :
         {ItemType::Dimension, ItemType::Part, ItemType::Feed, ItemType::Load, ItemType::Line, ItemType::Copy,
          ItemType::Drive, ItemType::Block, ItemType::Measured, ItemType::Support})
        withList(design, type, [&](const auto& list) {
            for (const auto& one : list)
                if (item.type == ItemType::None && one.name == name) item = {type, one.id};
        });
    return item;
}

Item itemAt(const model::Design& design, ItemType type, std::size_t index) {
    if (!isListed(type)) return {type, 0};
    Item item;
    withList(design, type, [&](const auto& list) {
        if (index < list.size()) item = {type, list[index].id};
    });
    return item;
}

}  // namespace rm::edit
