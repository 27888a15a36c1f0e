// Copies worked out: what is there, multiplied.
#pragma once

#include <string>
#include <vector>

#include "core/model/copies.h"
#include "core/model/field_values.h"
#include "core/model/wire_model.h"

namespace rm::model {

/// A run of wires along which places are counted.
struct PathOfUnit {
    std::string element;    ///< of an element row; empty: the whole part
    std::size_t first = 0;  ///< among the wires of the unit
    std::size_t count = 0;
    bool closed = false;
};

/// A part as it stands there once, or one of its copies.
struct Unit {
    std::string base;   ///< name of the part
    std::string label;  ///< which copy: "lower left"; empty: there are none
    bool enabled = true;
    std::vector<PlainWire> wires;  ///< without the height of the site
    std::vector<PathOfUnit> paths;
    std::size_t firstWire = 0;  ///< among all wires, once they are put together

    std::string name() const { return label.empty() ? base : base + " (" + label + ")"; }
};

/// Makes one copy after the other. Problems are named after the copy.
void makeCopies(FieldValues& values, const std::vector<Copy>& copies, std::vector<Unit>& units);

}  // namespace rm::model
