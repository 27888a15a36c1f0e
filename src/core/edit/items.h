// Adding, duplicating, switching and removing what a design is made of. All of it acts on the design that a
// project has on the bench and gives back another project; nothing here knows a window.
#pragma once

#include "core/edit/item.h"

namespace rm::edit {

enum class PartKind { Wire, Bent, Loop, Vee, Fan, Row, Radials, Rod, Mast, Guys, Tube, Gutter, Hung, Cable };

/// A project with something new in it.
struct Added {
    model::Project project;
    Item item;
};

/// Whether the part stands nearby and is never fed: masts, guys, tubes, gutters.
bool isNearby(PartKind kind);

/// Something to stand on: added under what is there.
bool isEarth(PartKind kind);

/// A part of sizes that suit the wavelength in m, in numbers where they are for the tape. The first part of a
/// design that can be fed gets a feed.
[[nodiscard]] Added addPart(model::Project project, PartKind kind, double lambdaM);
[[nodiscard]] Added addDimension(model::Project project);
/// On `part` where it can be fed, or on the first that is not fed yet, where nothing sits.
[[nodiscard]] Added addFeed(model::Project project, model::Id part = 0);
/// On `part`, or on the first where there is none, where nothing sits; on a cable run it is a choke at its
/// feed.
[[nodiscard]] Added addLoad(model::Project project, bool trap, model::Id part = 0);
[[nodiscard]] Added addLine(model::Project project);
/// Before the block at `place` of the feed path, or at its end where there is none.
[[nodiscard]] Added addBlock(model::Project project, model::FeedBlock block, std::size_t place);
/// Copies of `part` where the design has other parts too, otherwise of the whole antenna.
[[nodiscard]] Added addCopy(model::Project project, model::CopyKind kind, model::Id part);
[[nodiscard]] Added addMeasured(model::Project project, std::vector<model::Measured> measured);
/// A set with the name of one that is there takes its place. The first one is driven at once.
[[nodiscard]] model::Project addDriveSets(model::Project project, const std::vector<model::DriveSet>& sets);

/// A copy behind it under a free name, a feed or a load where nothing sits. Throws rm::Error where the item
/// is gone or cannot be duplicated.
[[nodiscard]] Added duplicate(model::Project project, Item item);
/// Without the item; as it was where it is gone or stays always. What stands on a part goes with it: its
/// feeds and loads, lines that end there; copies and feeds of others forget it. Wires hung on a support hang
/// on what else holds them.
[[nodiscard]] model::Project remove(model::Project project, Item item);
/// Feeds of the design on the bench that go with a part.
std::vector<model::Feed> feedsOn(const model::Design& design, model::Id part);
/// The part that a feed without one would best go to: the first that can be fed and has no feed of its own;
/// null where there is none.
const model::Part* partForFeed(const model::Design& design);
/// Puts feeds (as feedsOn gave them) on the middle of another part.
[[nodiscard]] model::Project handOn(model::Project project, const std::vector<model::Feed>& feeds,
                                    model::Id part);
/// On where it was off and the other way; a drive set is driven or idle, a measurement shown or hidden.
[[nodiscard]] model::Project toggle(model::Project project, Item item);

/// The text that a length really comes from: the field, or the dimension that it names, through any number of
/// names; null where it is a formula.
std::string* sourceOf(model::Design& design, std::string& typed);
/// Sets the spacing of a stack, of its rows or, where it has one row, of its columns, in m to the centimetre.
[[nodiscard]] model::Project setSpacing(model::Project project, model::Id copy, double metres);
/// As typed, of a stack: of its rows or, where it has one row, of its columns.
std::string& spacingOf(model::Copy& copy);

/// Height of the site in m, in the unit in which it stands there.
[[nodiscard]] model::Project setHeight(model::Project project, double metres);

}  // namespace rm::edit
