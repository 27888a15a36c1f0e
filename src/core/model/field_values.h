// Reads the typed fields of a design: values, or findings that name the item and the field.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/model/finding.h"
#include "core/model/typed.h"
#include "core/quantity/formula.h"

namespace rm::model {

/// Fields are read in the scope of the dimensions. `failed` is set by every problem and stays so until
/// cleared; a field that could not be read has the value 0.
class FieldValues {
  public:
    quantity::Scope scope;
    std::vector<Finding> findings;
    bool failed = false;

    void problem(const std::string& item, const std::string& sentence, const std::string& mend);

    double value(const std::string& text, quantity::Kind kind, const std::string& item,
                 const std::string& field);

    /// A value above zero.
    double positive(const std::string& text, quantity::Kind kind, const std::string& item,
                    const std::string& field);

    /// A value between two limits in the unit of the result.
    double within(const std::string& text, quantity::Kind kind, double low, double high,
                  const std::string& item, const std::string& field);

    /// A number above zero times `unit`, or nothing where the field is empty.
    std::optional<double> maybe(const std::string& text, const std::string& item, const std::string& field,
                                double unit);

    /// A whole number between two limits.
    int count(const std::string& text, int low, int high, const std::string& item, const std::string& field);

    Vec3 point(const PointText& text, const std::string& item, const std::string& field);

    /// Radius in metres of a conductor: a diameter, "strip 20 mm" (radius a quarter of the width) or "square
    /// 15 mm" (0.59 of the side). Source: equivalent radii, Balanis, Antenna Theory (2016), table 9.3.
    double radius(const std::string& text, const std::string& item, const std::string& field);
};

}  // namespace rm::model
