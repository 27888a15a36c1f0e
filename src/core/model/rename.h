// Gives a thing another name wherever the design speaks of it.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::model {

/// Feeds, loads, lines and copies follow the part, and so do those that mean one of its copies ("Yagi
/// (upper)").
void renamePart(Design& design, std::size_t part, const std::string& name);

/// Drive sets and the arms of the harness follow the feed, with every copy of it ("Feed (upper)").
void renameFeed(Design& design, std::size_t feed, const std::string& name);

/// The goals that hold for it follow.
void renameDriveSet(Design& design, std::size_t set, const std::string& name);

/// Feeds, loads and lines on that element of that part, and of its copies, follow.
void renameElement(Design& design, std::size_t part, std::size_t element, const std::string& name);

/// Wires that hang on the support follow.
void renameSupport(Design& design, std::size_t support, const std::string& name);

/// The part that a name means: its own, or that of one of its copies. Null where there is none.
const Part* partMeant(const Design& design, const std::string& name);

/// "lower left" of "Feed (lower left)"; the whole name where it is not that of a copy.
std::string labelOf(const std::string& name);

}  // namespace rm::model
