// An element row worked out: conductors in metres, and the lengths to cut.
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/model/field_values.h"

namespace rm::model {

/// A section of the tubing of an element.
struct TubeSection {
    double radiusM = 0.0;
    double toM = 0.0;  ///< outward from the centre
    std::string text;  ///< its diameter as typed; empty: that of the part
};

/// One element as worked out.
struct ElementSize {
    std::string name;
    ElementForm form = ElementForm::Straight;
    double positionM = 0.0;  ///< along the boom, from its start
    double lengthM = 0.0;    ///< tip to tip along the conductor, as modelled
    double diameterM = 0.0;  ///< at the centre
    double secondM = 0.0;    ///< second conductor: distance; forward for a loop in the plane of the boom
    double sweepDeg = 0.0;   ///< bent
    double flatM = 0.0;      ///< bent: straight middle
    double addM = 0.0;       ///< what the boom asks for when a straight element is cut
    bool fed = false;        ///< a feed sits on it
    std::vector<TubeSection> sections;  ///< from the centre outwards

    double cutM() const { return lengthM + addM; }
};

struct RowSizes {
    std::string part;
    Vec3 boom = Vec3::UnitX();  ///< towards the front
    std::vector<ElementSize> elements;
    double boomLengthM() const;
};

/// The conductors of one element, in order along it.
struct ElementWires {
    std::string element;
    std::vector<PlainWire> fed;   ///< from the left tip to the right one; a feed sits here
    std::vector<PlainWire> rest;  ///< second conductor and short sides
};

/// The directions of an element row.
struct RowAxes {
    Vec3 start = Vec3::Zero();
    Vec3 boom = Vec3::UnitX();   ///< towards the front
    Vec3 along = Vec3::UnitY();  ///< the elements, to the left
    Vec3 above = Vec3::UnitZ();
};

RowAxes rowAxes(FieldValues& values, const std::string& part, const ElementRow& row);

/// Wires of all elements, in the coordinates of the design; `base` has the metal, the coat and the radius of
/// elements without a diameter of their own. `sizes` is filled, with what the boom asks for at `lambdaM`.
std::vector<ElementWires> buildRow(FieldValues& values, const std::string& part, const ElementRow& row,
                                   const PlainWire& base, double lambdaM, RowSizes& sizes);

}  // namespace rm::model
