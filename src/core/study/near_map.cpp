#include "core/study/near_map.h"

#include <algorithm>
#include <cmath>

namespace rm::study {

namespace {

/// How much of what is round the antenna a map shows: of its size, and of a wavelength.
constexpr double kRoundSize = 0.7;
constexpr double kRoundWaves = 0.35;

Complex partOf(const Eigen::Vector3cd& v, FieldPart part) {
    return v(static_cast<Eigen::Index>(part) - static_cast<Eigen::Index>(FieldPart::Front));
}

const Eigen::Vector3cd& vectorOf(const em::PointField& field, FieldKind kind) {
    return kind == FieldKind::Magnetic ? field.magneticAm : field.electricVm;
}

double partOf(const Vec3& v, FieldPart part) {
    if (part == FieldPart::Total) return v.norm();
    return v(static_cast<Eigen::Index>(part) - static_cast<Eigen::Index>(FieldPart::Front));
}

}  // namespace

const char* unitOf(FieldKind kind) {
    return kind == FieldKind::Electric ? "V/m" : kind == FieldKind::Magnetic ? "A/m" : "W/m²";
}

double fieldValue(const em::PointField& field, FieldKind kind, FieldPart part, bool peak) {
    if (kind == FieldKind::Power) return partOf(field.powerFlow(), part);
    const Eigen::Vector3cd& v = vectorOf(field, kind);
    if (part != FieldPart::Total) return std::abs(partOf(v, part)) * (peak ? 1.0 : std::sqrt(0.5));
    const double squared = v.squaredNorm();
    if (!peak) return std::sqrt(0.5 * squared);
    const Complex turning = v.x() * v.x() + v.y() * v.y() + v.z() * v.z();
    return std::sqrt(0.5 * (squared + std::abs(turning)));
}

double fieldAtPhase(const em::PointField& field, FieldKind kind, FieldPart part, double phase) {
    const Complex turn = std::polar(1.0, phase);
    const Vec3 e = (turn * field.electricVm).real();
    const Vec3 h = (turn * field.magneticAm).real();
    return partOf(kind == FieldKind::Electric ? e : kind == FieldKind::Magnetic ? h : Vec3(e.cross(h)), part);
}

FieldAround::FieldAround(const Analysis& analysis, double radioW)
    : antennaW_(arrivingW(analysis.figures.joints, radioW)),
      field_(analysis.mesh, atFullPower(analysis, radioW) * analysis.reading.localCurrent,
             analysis.reading.frequencyHz) {}

std::vector<em::PointField> FieldAround::at(const std::vector<Vec3>& pointsM,
                                            const std::stop_token& stop) const {
    return field_.at(pointsM, stop);
}

std::vector<em::PointField> FieldAround::on(const em::PointPlane& plane, const std::stop_token& stop) const {
    return field_.on(plane, stop);
}

em::PointPlane mapPlane(const model::WireModel& model, double frequencyHz, const MapPlace& place) {
    const model::Bounds box = model.bounds();
    const Vec3 middle = box.centre();
    const bool ground = model.ground.kind != model::GroundKind::FreeSpace;
    const Vec3 half = 0.5 * (box.high - box.low);
    const double size = place.upright ? half.norm() : std::hypot(half.x(), half.y());
    const double reach = place.reachM > 0.0
                             ? place.reachM
                             : (1.0 + kRoundSize) * size + kRoundWaves * wavelengthM(frequencyHz);
    em::PointPlane plane;
    const int n = std::max(2, place.points);
    const double step = 2.0 * reach / (n - 1);
    plane.columns = n;
    if (!place.upright) {
        // Seen from above with the front upwards, the left of the antenna is on the left.
        plane.rightM = {0.0, -step, 0.0};
        plane.upM = {step, 0.0, 0.0};
        plane.rows = n;
        plane.cornerM = {middle.x() - reach, middle.y() + reach, place.heightM};
        return plane;
    }
    const double azimuth = place.azimuthDeg * kDegree;
    const Vec3 along(std::cos(azimuth), std::sin(azimuth), 0.0);
    const Vec3 left(-along.y(), along.x(), 0.0);
    const double low = ground ? 0.0 : place.heightM - 0.6 * reach;
    const double high =
        ground ? std::max(box.high.z() + 0.4 * reach, 0.6 * reach) : place.heightM + 0.6 * reach;
    plane.rightM = step * along;
    plane.upM = {0.0, 0.0, step};
    plane.rows = std::max(2, static_cast<int>(std::lround((high - low) / step)) + 1);
    const Vec3 foot(middle.x(), middle.y(), low);
    plane.cornerM = foot - reach * along + place.acrossM * left;
    return plane;
}

FieldMap mapField(const model::Expansion& design, const Analysis& analysis, double radioW,
                  const MapPlace& place, const std::stop_token& stop) {
    const FieldAround around(analysis, radioW);
    FieldMap map;
    map.place = place;
    map.plane = mapPlane(design.model, analysis.figures.frequencyHz, place);
    map.fields = around.on(map.plane, stop);
    map.frequencyHz = around.frequencyHz();
    map.antennaW = around.antennaW();
    return map;
}

std::vector<MapSegment> levelLines(const std::vector<double>& values, int columns, int rows, double level) {
    std::vector<MapSegment> lines;
    const auto value = [&](int c, int r) {
        return values[static_cast<std::size_t>(r * columns + c)] - level;
    };
    struct Point {
        double column;
        double row;
    };
    for (int r = 0; r + 1 < rows; ++r)
        for (int c = 0; c + 1 < columns; ++c) {
            const double corner[4] = {value(c, r), value(c + 1, r), value(c + 1, r + 1), value(c, r + 1)};
            constexpr int kColumn[5] = {0, 1, 1, 0, 0};
            constexpr int kRow[5] = {0, 0, 1, 1, 0};
            Point cut[4];
            int cuts = 0;
            for (int side = 0; side < 4; ++side) {
                const double from = corner[side];
                const double to = corner[(side + 1) % 4];
                if ((from < 0.0) == (to < 0.0)) continue;
                const double share = from / (from - to);
                cut[cuts++] = {c + kColumn[side] + share * (kColumn[side + 1] - kColumn[side]),
                               r + kRow[side] + share * (kRow[side + 1] - kRow[side])};
            }
            for (int i = 0; i + 1 < cuts; i += 2)
                lines.push_back({cut[i].column, cut[i].row, cut[i + 1].column, cut[i + 1].row});
        }
    return lines;
}

}  // namespace rm::study
