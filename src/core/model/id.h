// The identity of what a project is made of: names and places in lists change, an id does not.
#pragma once

#include <algorithm>
#include <cstdint>

#include "core/common.h"
#include "core/words/words.h"

namespace rm::model {

/// Given once to every design, part, dimension, feed, load, line, block, copy, drive set, pin and measurement
/// of an open project (edit::giveIds), and to nothing else while it is open. Not saved. 0: none yet.
using Id = std::uint64_t;

/// The item with this id in a list; null where it is not there.
template <typename Items>
auto* find(Items& items, Id id) {
    const auto found =
        std::find_if(items.begin(), items.end(), [id](const auto& item) { return item.id == id; });
    return found == items.end() || id == 0 ? nullptr : &*found;
}

/// Where it stands; the size of the list where it is not there.
template <typename Items>
std::size_t indexOf(const Items& items, Id id) {
    const auto* found = find(items, id);
    return found == nullptr ? items.size() : static_cast<std::size_t>(found - items.data());
}

/// The item with this id. Throws rm::Error where it is gone.
template <typename Items>
auto& at(Items& items, Id id) {
    auto* found = find(items, id);
    if (found == nullptr) throw Error(say("What this was for is not there any more."));
    return *found;
}

}  // namespace rm::model
