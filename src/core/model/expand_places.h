// Where on the wires of a design something sits that is said to be on one of its parts.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/model/expand_copies.h"
#include "core/model/field_values.h"
#include "core/model/wire_model.h"

namespace rm::model {

/// Looks places up among the units of a design and their wires, both of which may still grow. Problems are
/// named after what is to be placed.
class Places {
  public:
    Places(FieldValues& values, const std::vector<Unit>& units, const WireModel& model)
        : values_(values), units_(units), model_(model) {}

    /// The units that a name means: one copy by its full name, or all copies of a part. A finding where there
    /// is none.
    std::vector<const Unit*> unitsNamed(const std::string& name, const std::string& partName) const;

    /// "Feed (upper)" where there are several.
    static std::string withLabel(const std::string& name, const Unit& unit, bool several);

    /// The wire and the fraction along it, or a finding and false; false alone where the unit has no wires.
    bool locate(const std::string& name, const Unit& unit, const Place& place, WirePlace& where) const;

    Vec3 pointOf(const WirePlace& place) const;

  private:
    std::vector<std::size_t> sides(const PathOfUnit& path, std::size_t first) const;
    /// The number of a corner or a side as typed; a finding where it is none of `count`.
    std::optional<std::size_t> numberOf(const std::string& name, const Place& place, std::size_t count,
                                        const std::string& what, const std::string& partName) const;

    FieldValues& values_;
    const std::vector<Unit>& units_;
    const WireModel& model_;
};

}  // namespace rm::model
