// Copies of parts, as typed. They stay linked: what is changed on the part changes everywhere.
#pragma once

#include <string>
#include <vector>

#include "core/model/typed.h"

namespace rm::model {

enum class CopyKind { Mirror, Rotate, Shift, Stack };
enum class MirrorPlane { LeftRight, FrontBack, UpDown };
enum class CopyAxis { Upright, Forward, Left };

/// Multiplies what it is of, with the feeds, loads and lines on it. Copies are made one after the other, so
/// that a later one also multiplies what an earlier one made.
struct Copy {
    std::string name = "Stack";
    CopyKind kind = CopyKind::Stack;
    bool enabled = true;
    std::vector<std::string> parts;  ///< empty: the whole antenna

    MirrorPlane plane = MirrorPlane::LeftRight;
    std::string at = "0 m";  ///< mirror: where the plane is, left, forward or up

    std::string count = "2";  ///< rotate, shift: how many in all
    CopyAxis axis = CopyAxis::Upright;
    PointText centre{"0 m", "0 m", "0 m"};  ///< rotate: a point of the axis
    std::string angle;                      ///< rotate: from one to the next; empty: evenly all round

    PointText step{"0 m", "5 m", "0 m"};  ///< shift

    std::string rows = "2";  ///< stack: one above the other
    std::string columns = "1";
    std::string rowSpacing = "4 m";
    std::string columnSpacing = "4 m";
    bool centred = false;  ///< stack: rows evenly about the height of the part, otherwise upwards from there
    Extra extra;
    Id id = 0;

    bool operator==(const Copy&) const = default;
};

}  // namespace rm::model
