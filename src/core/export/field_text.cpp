#include "core/export/field_text.h"

#include <fmt/format.h>

namespace rm::io {

namespace {

using study::FieldKind;
using study::FieldPart;

std::string head(bool peak) {
    const char* const how = peak ? "peak" : "rms";
    return fmt::format(
        "forward_m,left_m,up_m,E_Vm_{0},E_forward_Vm_{0},E_left_Vm_{0},E_up_Vm_{0},H_Am_{0},H_forward_Am_{0},"
        "H_left_Am_{0},H_up_Am_{0},S_Wm2,S_forward_Wm2,S_left_Wm2,S_up_Wm2\n",
        how);
}

std::string row(const Vec3& at, const em::PointField& field, bool peak) {
    std::string text = fmt::format("{:.6g},{:.6g},{:.6g}", at.x(), at.y(), at.z());
    for (const FieldKind kind : {FieldKind::Electric, FieldKind::Magnetic, FieldKind::Power})
        for (const FieldPart part : {FieldPart::Total, FieldPart::Front, FieldPart::Left, FieldPart::Up})
            text += fmt::format(",{:.6g}", study::fieldValue(field, kind, part, peak));
    return text + "\n";
}

}  // namespace

std::string fieldCsv(const std::vector<FieldPoint>& points, bool peak) {
    std::string text = head(peak);
    for (const auto& point : points) text += row(point.atM, point.field, peak);
    return text;
}

std::string fieldCsv(const study::FieldMap& map, bool peak) {
    std::string text = head(peak);
    for (int r = 0; r < map.plane.rows; ++r)
        for (int c = 0; c < map.plane.columns; ++c) text += row(map.plane.at(c, r), map.at(c, r), peak);
    return text;
}

}  // namespace rm::io
