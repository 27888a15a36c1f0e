// Elements along a boom, as typed: the part that Yagis are made of.
#pragma once

#include <string>
#include <vector>

#include "core/model/typed.h"

namespace rm::model {

/// What an element is bent of. A folded dipole and the loops have a second conductor beside the one that a
/// feed sits on.
enum class ElementForm { Straight, Bent, Folded, LoopInPlane, LoopUpright };

inline bool hasSecondConductor(ElementForm form) {
    return form != ElementForm::Straight && form != ElementForm::Bent;
}

struct RowElement {
    std::string name;
    std::string position = "0 m";  ///< from the start of the boom, or from the element before
    std::string length = "1 m";    ///< tip to tip along the conductor, or half of it (ElementRow::half)
    /// A diameter ("8 mm", "strip 20 mm", "square 15 mm") or a tubing schedule from the centre outwards with
    /// the exposed length of each section ("25 mm x 0.6 m, 20 mm x 0.5 m, 16 mm"; the last one runs to the
    /// tip). Empty: the diameter of the part.
    std::string diameter;
    ElementForm form = ElementForm::Straight;
    std::string flat;              ///< bent: length of the straight middle; empty: none
    std::string sweep = "30 deg";  ///< bent: how far the tips point forward
    std::string gap = "60 mm";     ///< second conductor: from axis to axis, forward or (folded, upright) up
    std::string endDiameter;       ///< of the short sides; empty: as the element
    Extra extra = {};

    bool operator==(const RowElement&) const = default;
};

/// How the boom holds the elements; what it does to them is a matter of the cut lengths alone.
enum class BoomKind { None, Insulating, Bonded, Insulated, Above };

struct Boom {
    BoomKind kind = BoomKind::None;
    bool square = false;
    std::string diameter = "30 mm";  ///< or side
    Extra extra = {};

    bool operator==(const Boom&) const = default;
};

struct ElementRow {
    PointText start{"0 m", "0 m", "5 m"};  ///< of the boom
    std::string turn = "0 deg";            ///< compass turn of the boom to the right of the front
    std::string rise = "0 deg";            ///< of the boom above the horizon
    std::string roll = "0 deg";            ///< 0: elements level, 90: upright
    bool spacings = false;                 ///< positions are counted from the element before
    bool half = false;                     ///< lengths are those of half an element
    Boom boom;
    std::vector<RowElement> elements;

    bool operator==(const ElementRow&) const = default;
};

}  // namespace rm::model
