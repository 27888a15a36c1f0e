// The blocks a designer can add to a feed path, and how the interface speaks of them.
#pragma once

#include <QString>
#include <vector>

#include "core/model/design.h"

namespace rm::app {

struct BlockChoice {
    QString text;      ///< as in menus, with its mnemonic
    QString shortcut;  ///< empty: none
    model::FeedBlock block;
};

const std::vector<BlockChoice>& blockChoices();

/// The figures of a block in a few words: "49:1", "25 m", "1.2 µH in series".
QString blockText(const model::FeedBlock& block);

}  // namespace rm::app
