// What can be selected, changed and removed in a design: a kind and an identity.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::edit {

enum class ItemType {
    None,
    Dimension,
    Part,
    Copy,
    Feed,
    Drive,
    Load,
    Line,
    Harness,
    Block,
    Measured,
    Support,
    Site,
    Design
};

/// An item of a design. Harness, site and design are there once and need no id.
struct Item {
    ItemType type = ItemType::None;
    model::Id id = 0;

    bool operator==(const Item&) const = default;
};

/// Whether items of this type stand in a list and have ids.
inline bool isListed(ItemType type) {
    return type != ItemType::None && type != ItemType::Harness && type != ItemType::Site &&
           type != ItemType::Design;
}

/// Calls `act` with the list that holds items of this type; nothing for those that stand in none.
template <typename Design, typename Act>
void withList(Design& design, ItemType type, Act act) {
    switch (type) {
        case ItemType::Dimension:
            return act(design.dimensions);
        case ItemType::Part:
            return act(design.parts);
        case ItemType::Copy:
            return act(design.copies);
        case ItemType::Feed:
            return act(design.feeds);
        case ItemType::Drive:
            return act(design.driveSets);
        case ItemType::Load:
            return act(design.loads);
        case ItemType::Line:
            return act(design.lines);
        case ItemType::Block:
            return act(design.feedPath);
        case ItemType::Measured:
            return act(design.measured);
        case ItemType::Support:
            return act(design.site.supports);
        default:
            return;
    }
}

/// Whether the design has this item. None is never there, site, design and harness always are.
bool holds(const model::Design& design, Item item);

/// The name of an item; empty for those without one.
std::string nameOf(const model::Design& design, Item item);

/// The item that goes by this name, as a finding speaks of it; None where there is none.
Item itemNamed(const model::Design& design, const std::string& name);

/// The item of this type at a place in its list; None where the list is shorter.
Item itemAt(const model::Design& design, ItemType type, std::size_t index);

}  // namespace rm::edit
