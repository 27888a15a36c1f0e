// The field close to an antenna as comma-separated values.
#pragma once

#include <string>
#include <vector>

#include "core/study/near_map.h"

namespace rm::io {

struct FieldPoint {
    Vec3 atM = Vec3::Zero();
    em::PointField field;
};

/// Columns forward_m, left_m, up_m; total, forward, left and up part of E in V/m and of H in A/m, rms or
/// peak; the mean flow of power and its parts in W/m2.
std::string fieldCsv(const std::vector<FieldPoint>& points, bool peak);

/// The same of a map, column after column of each row.
std::string fieldCsv(const study::FieldMap& map, bool peak);

}  // namespace rm::io
