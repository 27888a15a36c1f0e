#include "core/model/expand_copies.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/model/limits.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

constexpr int kMost = 64;

struct Placement {
    std::string label;
    Eigen::Affine3d move = Eigen::Affine3d::Identity();
};

Eigen::Affine3d shifted(const Vec3& by) {
    return Eigen::Affine3d(Eigen::Translation3d(by));
}

/// "lower", "middle", "upper" of up to three, "row 4" of more.
std::string rank(int i, int n, const std::array<const char*, 3>& words, const char* counted) {
    if (n == 1) return {};
    if (n > 3) return fmt::format("{} {}", counted, i + 1);
    return words[static_cast<std::size_t>(n == 2 && i == 1 ? 2 : i)];
}

std::vector<Placement> mirrored(FieldValues& values, const Copy& copy) {
    const double at = values.value(copy.at, Kind::Length, copy.name, say("the place of the mirror"));
    const Vec3 axis = copy.plane == MirrorPlane::LeftRight   ? Vec3::UnitY()
                      : copy.plane == MirrorPlane::FrontBack ? Vec3::UnitX()
                                                             : Vec3::UnitZ();
    Eigen::Affine3d move = Eigen::Affine3d::Identity();
    move.linear() -= 2.0 * axis * axis.transpose();
    move.translation() = 2.0 * at * axis;
    return {{"original", Eigen::Affine3d::Identity()}, {"mirrored", move}};
}

std::vector<Placement> rotated(FieldValues& values, const Copy& copy) {
    const int n = values.count(copy.count, 1, kMost, copy.name, say("the number of copies"));
    const Vec3 centre = values.point(copy.centre, copy.name, say("the axis"));
    const double step =
        copy.angle.empty() ? 360.0 / n : values.value(copy.angle, Kind::Angle, copy.name, say("the angle"));
    // To the right as seen from above, from behind, or from the right.
    const Vec3 axis = copy.axis == CopyAxis::Upright   ? Vec3(-Vec3::UnitZ())
                      : copy.axis == CopyAxis::Forward ? Vec3::UnitX()
                                                       : Vec3::UnitY();
    std::vector<Placement> all;
    for (int i = 0; i < n; ++i) {
        const Eigen::Affine3d turn(Eigen::AngleAxisd(i * step * kDegree, axis));
        all.push_back({fmt::format("{}", i + 1), shifted(centre) * turn * shifted(-centre)});
    }
    return all;
}

std::vector<Placement> inSteps(FieldValues& values, const Copy& copy) {
    const int n = values.count(copy.count, 1, kMost, copy.name, say("the number of copies"));
    const Vec3 step = values.point(copy.step, copy.name, say("the step"));
    if (!values.failed && n > 1 && step.norm() == 0.0)
        values.problem(copy.name, say("{}: its copies lie on each other.", copy.name),
                       say("Give it a step."));
    std::vector<Placement> all;
    for (int i = 0; i < n; ++i) all.push_back({fmt::format("{}", i + 1), shifted(i * step)});
    return all;
}

std::vector<Placement> stacked(FieldValues& values, const Copy& copy) {
    const int rows = values.count(copy.rows, 1, kMost, copy.name, say("the number of rows"));
    const int columns = values.count(copy.columns, 1, kMost, copy.name, say("the number of columns"));
    const auto spacing = [&](const std::string& text, int n, const std::string& field) {
        return n > 1 ? values.positive(text, Kind::Length, copy.name, field) : 0.0;
    };
    const double up = spacing(copy.rowSpacing, rows, say("the spacing of the rows"));
    const double across = spacing(copy.columnSpacing, columns, say("the spacing of the columns"));
    const double lowest = copy.centred ? -0.5 * up * (rows - 1) : 0.0;
    std::vector<Placement> all;
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            std::string label = rank(r, rows, {"lower", "middle", "upper"}, "row");
            const std::string column = rank(c, columns, {"left", "centre", "right"}, "column");
            if (!label.empty() && !column.empty()) label += " ";
            const Vec3 by(0.0, (0.5 * (columns - 1) - c) * across, lowest + r * up);
            all.push_back({label + column, shifted(by)});
        }
    return all;
}

std::vector<Placement> placements(FieldValues& values, const Copy& copy) {
    switch (copy.kind) {
        case CopyKind::Mirror:
            return mirrored(values, copy);
        case CopyKind::Rotate:
            return rotated(values, copy);
        case CopyKind::Shift:
            return inSteps(values, copy);
        default:
            return stacked(values, copy);
    }
}

Unit placed(const Unit& unit, const Placement& placement) {
    Unit out = unit;
    const std::string before = unit.name();
    if (!placement.label.empty()) out.label += (out.label.empty() ? "" : " ") + placement.label;
    for (auto& wire : out.wires) {
        wire.startM = placement.move * wire.startM;
        wire.endM = placement.move * wire.endM;
        wire.part = out.name() + wire.part.substr(before.size());
        wire.unit = out.name();
    }
    return out;
}

}  // namespace

void makeCopies(FieldValues& values, const std::vector<Copy>& copies, std::vector<Unit>& units) {
    for (const auto& copy : copies) {
        if (!copy.enabled) continue;
        values.failed = false;
        for (const auto& part : copy.parts)
            if (std::none_of(units.begin(), units.end(), [&](const Unit& u) { return u.base == part; }))
                values.problem(copy.name, say("{} is of \"{}\", which is not there.", copy.name, part),
                               say("Choose other parts for it."));
        const auto all = placements(values, copy);
        if (values.failed) continue;
        std::size_t wires = 0;
        for (const auto& unit : units) {
            const bool meant = copy.parts.empty() ||
                               std::find(copy.parts.begin(), copy.parts.end(), unit.base) != copy.parts.end();
            // What has no wires, as it cannot be worked out, would multiply all the same.
            wires += std::max<std::size_t>(1, unit.wires.size()) * (meant ? all.size() : 1);
        }
        if (wires > kMostWires) {
            values.problem(copy.name,
                           say("{} makes {} wires of this design; at most {} can be worked out.", copy.name,
                               wires, kMostWires),
                           say("Make fewer copies."));
            continue;
        }
        std::vector<Unit> next;
        // One copy after the other, whole.
        for (std::size_t p = 0; p < all.size(); ++p)
            for (const auto& unit : units) {
                const bool meant = copy.parts.empty() || std::find(copy.parts.begin(), copy.parts.end(),
                                                                   unit.base) != copy.parts.end();
                if (meant)
                    next.push_back(placed(unit, all[p]));
                else if (p == 0)
                    next.push_back(unit);
            }
        units = std::move(next);
    }
}

}  // namespace rm::model
