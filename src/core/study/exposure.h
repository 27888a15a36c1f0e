// Published limits of fields for people, and how much of them a field takes.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/em/near_field.h"
#include "core/model/keep_clear.h"

namespace rm::study {

enum class Person { Public, Operator };

/// Limits of the undisturbed field as rms values, averaged over the body and over time. The flow of power
/// where the tables give no field.
struct FieldLimits {
    std::optional<double> electricVm;
    std::optional<double> magneticAm;
    double averagingMin = 6.0;
};

/// Sources: ICNIRP guidelines 1998, Health Physics 74 (4), tables 6 and 7; ICNIRP guidelines 2020, Health
/// Physics 118 (5), table 5 (whole body); 47 CFR 1.1310 (e), table 1. Where a table gives the flow of power
/// alone, the fields of a plane wave of it. Limits of one's own are the same for everybody. Frequencies from
/// 1 MHz to 100 GHz.
FieldLimits fieldLimits(const model::KeepClear& rules, Person person, double frequencyHz);

/// "ICNIRP 2020, general public, averaged over 30 min"
std::string nameOf(const model::KeepClear& rules, Person person);
/// Of the mode alone: mean over peak power.
double meanShare(model::SendMode mode);
/// "speech (SSB)"
std::string nameOf(model::SendMode mode);

/// Mean power over the power of the radio: mode times duty, and the margin on top.
double countedShare(const model::KeepClear& rules);

/// The part of the limit that a field takes, as a share of power: the larger of (E/limit)^2 and (H/limit)^2.
/// 1 is the limit.
double exposure(const em::PointField& field, const FieldLimits& limits, double countedShare);

}  // namespace rm::study
