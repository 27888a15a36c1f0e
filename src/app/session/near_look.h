// Which part of the field close to the antenna is looked at, and where: shared by the map on the stage and
// the one in the yard.
#pragma once

#include <memory>

#include "core/study/near_map.h"

namespace rm::app {

struct NearLook {
    study::MapPlace place;
    study::FieldKind kind = study::FieldKind::Electric;
    study::FieldPart part = study::FieldPart::Total;
    bool peak = false;
    bool even = false;  ///< colours in even steps of the value instead of decibels

    bool operator==(const NearLook& other) const {
        return samePlace(other) && kind == other.kind && part == other.part && peak == other.peak &&
               even == other.even;
    }
    bool samePlace(const NearLook& other) const {
        const auto& a = place;
        const auto& b = other.place;
        return a.upright == b.upright && a.heightM == b.heightM && a.azimuthDeg == b.azimuthDeg &&
               a.acrossM == b.acrossM && a.reachM == b.reachM;
    }
};

using FieldMapPtr = std::shared_ptr<const study::FieldMap>;

}  // namespace rm::app
