// Names that are free.
#pragma once

#include <algorithm>
#include <string>

namespace rm::edit {

/// `base`, or "base 2", "base 3" and so on where an item of the list goes by that already.
template <typename Items>
std::string freeName(const Items& items, const std::string& base, const std::string& separator = " ",
                     const std::string& end = "") {
    const auto taken = [&](const std::string& name) {
        return std::any_of(items.begin(), items.end(), [&](const auto& item) { return item.name == name; });
    };
    std::string name = base;
    for (int n = 2; taken(name); ++n) name = base + separator + std::to_string(n) + end;
    return name;
}

}  // namespace rm::edit
