// The field close to an antenna with its radio at full power: at points, along lines and on planes.
#pragma once

#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/em/near_field.h"
#include "core/study/figures.h"

namespace rm::study {

enum class FieldKind { Electric, Magnetic, Power };

/// Along the axes of the design: towards the front, the left, up.
enum class FieldPart { Total, Front, Left, Up };

/// "V/m"
const char* unitOf(FieldKind kind);

/// V/m, A/m, W/m2. Of phasors with peak values: rms, or the largest that the field comes to in a period (of
/// the total that is the longer half axis of its ellipse: its square is (|E|^2 + |E.E|)/2). The flow of power
/// is always its mean; a part of it has a sign.
double fieldValue(const em::PointField& field, FieldKind kind, FieldPart part, bool peak);

/// The same at a phase of the period in rad: of the total its length then, of a part with its sign. The flow
/// of power at that moment.
double fieldAtPhase(const em::PointField& field, FieldKind kind, FieldPart part, double phase);

/// The fields of an antenna at full power.
class FieldAround {
  public:
    FieldAround(const Analysis& analysis, double radioW);

    double antennaW() const { return antennaW_; }
    double frequencyHz() const { return field_.frequencyHz(); }
    const em::NearField& field() const { return field_; }

    std::vector<em::PointField> at(const std::vector<Vec3>& pointsM, const std::stop_token& stop = {}) const;
    std::vector<em::PointField> on(const em::PointPlane& plane, const std::stop_token& stop = {}) const;

  private:
    double antennaW_;
    em::NearField field_;
};

/// Where a map is laid.
struct MapPlace {
    bool upright = false;
    double heightM = 1.8;  ///< of a level one above the ground; of the middle of an upright one in free space
    double azimuthDeg = 0.0;  ///< along which an upright one runs
    double acrossM = 0.0;     ///< how far to the left of the middle of the antenna an upright one stands
    double reachM = 0.0;  ///< from the middle to its sides; 0: so that the antenna and what is round it fit
    int points = 160;     ///< along its longer side
};

/// A field on a plane, the antenna in its middle.
struct FieldMap {
    MapPlace place;
    em::PointPlane plane;
    std::vector<em::PointField> fields;
    double frequencyHz = 0.0;
    double antennaW = 0.0;

    const em::PointField& at(int column, int row) const {
        return fields[static_cast<std::size_t>(row * plane.columns + column)];
    }
};

/// The plane of a map. Over ground an upright one begins on its surface.
em::PointPlane mapPlane(const model::WireModel& model, double frequencyHz, const MapPlace& place);

/// Throws rm::Stopped.
FieldMap mapField(const model::Expansion& design, const Analysis& analysis, double radioW,
                  const MapPlace& place, const std::stop_token& stop = {});

/// A line of equal value across a map, in columns and rows of its plane.
struct MapSegment {
    double fromColumn = 0.0;
    double fromRow = 0.0;
    double toColumn = 0.0;
    double toRow = 0.0;
};

/// Where values on a grid (columns running fastest) pass `level`: straight pieces between the sides of its
/// cells.
std::vector<MapSegment> levelLines(const std::vector<double>& values, int columns, int rows, double level);

}  // namespace rm::study
