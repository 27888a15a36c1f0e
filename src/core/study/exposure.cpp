#include "core/study/exposure.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/words/words.h"

namespace rm::study {

namespace {

/// The fields of a plane wave of this flow of power.
FieldLimits wave(double wm2, double minutes) {
    return {std::sqrt(wm2 * kEta0), std::sqrt(wm2 / kEta0), minutes};
}

FieldLimits icnirp1998(bool people, double f) {
    constexpr double kMinutes = 6.0;
    if (f < 10.0)
        return people ? FieldLimits{87.0 / std::sqrt(f), 0.73 / f, kMinutes}
                      : FieldLimits{610.0 / f, 1.6 / f, kMinutes};
    if (f <= 400.0) return people ? FieldLimits{28.0, 0.073, kMinutes} : FieldLimits{61.0, 0.16, kMinutes};
    if (f <= 2000.0) {
        const double root = std::sqrt(f);
        return people ? FieldLimits{1.375 * root, 0.0037 * root, kMinutes}
                      : FieldLimits{3.0 * root, 0.008 * root, kMinutes};
    }
    return people ? FieldLimits{61.0, 0.16, kMinutes} : FieldLimits{137.0, 0.36, kMinutes};
}

FieldLimits icnirp2020(bool people, double f) {
    constexpr double kMinutes = 30.0;
    if (f <= 30.0) {
        const double fall = std::pow(f, 0.7);
        return people ? FieldLimits{300.0 / fall, 2.2 / f, kMinutes}
                      : FieldLimits{660.0 / fall, 4.9 / f, kMinutes};
    }
    if (f <= 400.0) return people ? FieldLimits{27.7, 0.073, kMinutes} : FieldLimits{61.0, 0.16, kMinutes};
    if (f <= 2000.0) {
        const double root = std::sqrt(f);
        return people ? FieldLimits{1.375 * root, 0.0037 * root, kMinutes}
                      : FieldLimits{3.0 * root, 0.008 * root, kMinutes};
    }
    return wave(people ? 10.0 : 50.0, kMinutes);
}

FieldLimits fcc(bool people, double f) {
    constexpr double kMilliwattPerCm2 = 10.0;  // W/m2
    const double minutes = people ? 30.0 : 6.0;
    if (f < (people ? 1.34 : 3.0)) return {614.0, 1.63, minutes};
    if (f < 30.0)
        return people ? FieldLimits{824.0 / f, 2.19 / f, minutes}
                      : FieldLimits{1842.0 / f, 4.89 / f, minutes};
    if (f <= 300.0) return people ? FieldLimits{27.5, 0.073, minutes} : FieldLimits{61.4, 0.163, minutes};
    if (f <= 1500.0) return wave(kMilliwattPerCm2 * f / (people ? 1500.0 : 300.0), minutes);
    return wave(kMilliwattPerCm2 * (people ? 1.0 : 5.0), minutes);
}

}  // namespace

FieldLimits fieldLimits(const model::KeepClear& rules, Person person, double frequencyHz) {
    const double f = frequencyHz / 1e6;
    const bool people = person == Person::Public;
    switch (rules.limits) {
        case model::LimitSet::Icnirp1998:
            return icnirp1998(people, f);
        case model::LimitSet::Icnirp2020:
            return icnirp2020(people, f);
        case model::LimitSet::Fcc:
            return fcc(people, f);
        default:
            return {rules.ownVm, rules.ownAm, 6.0};
    }
}

std::string nameOf(const model::KeepClear& rules, Person person) {
    if (rules.limits == model::LimitSet::Own)
        return say("limits of your own, {:g} V/m and {:g} A/m", rules.ownVm, rules.ownAm);
    const char* const set = rules.limits == model::LimitSet::Icnirp1998   ? "ICNIRP 1998"
                            : rules.limits == model::LimitSet::Icnirp2020 ? "ICNIRP 2020"
                                                                          : "47 CFR 1.1310";
    return say("{}, {}, averaged over {:g} min", set,
               person == Person::Public ? say("general public") : say("operator"),
               fieldLimits(rules, person, 14e6).averagingMin);
}

double meanShare(model::SendMode mode) {
    switch (mode) {
        case model::SendMode::SpeechSsb:
            return 0.2;
        case model::SendMode::ProcessedSsb:
            return 0.5;
        case model::SendMode::Morse:
            return 0.4;
        default:
            return 1.0;
    }
}

std::string nameOf(model::SendMode mode) {
    switch (mode) {
        case model::SendMode::SpeechSsb:
            return say("speech (SSB)");
        case model::SendMode::ProcessedSsb:
            return say("processed speech (SSB)");
        case model::SendMode::Morse:
            return say("Morse");
        default:
            return say("carrier, FM, digital");
    }
}

double countedShare(const model::KeepClear& rules) {
    return meanShare(rules.mode) * rules.dutyPercent / 100.0 * std::pow(10.0, 0.1 * rules.marginDb);
}

double exposure(const em::PointField& field, const FieldLimits& limits, double countedShare) {
    double share = 0.0;
    if (limits.electricVm)
        share = 0.5 * field.electricVm.squaredNorm() / (*limits.electricVm * *limits.electricVm);
    if (limits.magneticAm)
        share =
            std::max(share, 0.5 * field.magneticAm.squaredNorm() / (*limits.magneticAm * *limits.magneticAm));
    return countedShare * share;
}

}  // namespace rm::study
