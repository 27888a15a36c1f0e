// Everything that a field solution depends on but the frequency, as bytes to compare.
#pragma once

#include <string>

#include "core/model/wire_model.h"

namespace rm::study {

/// Appends the bytes of some numbers.
template <typename... Values>
void addBytes(std::string& key, Values... values) {
    for (const double v : {static_cast<double>(values)...})
        key.append(reinterpret_cast<const char*>(&v), sizeof v);
}

/// Ground, fineness of the mesh, wires and where the ports are. The values of loads, lines, feed voltages and
/// the feed path are no part of it.
std::string fieldKey(const model::WireModel& model);

}  // namespace rm::study
