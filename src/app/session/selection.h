// What is selected on the bench: an item of the design, by its id.
#pragma once

#include "core/edit/item.h"

namespace rm::app {

/// The item that is selected; Selection::Type names the kinds.
struct Selection : edit::Item {
    using Type = edit::ItemType;

    Selection() = default;
    Selection(edit::Item item) : edit::Item(item) {}
    Selection(Type kind, model::Id itemId = 0) : edit::Item{kind, itemId} {}

    bool operator==(const Selection&) const = default;
};

}  // namespace rm::app
