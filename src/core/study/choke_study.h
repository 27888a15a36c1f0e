// Where a choke on a cable run does most, and how much of it is enough.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/quantity/format.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"

namespace rm::study {

/// The antenna with the choke at a place, or of a size.
struct ChokePoint {
    double alongM = 0.0;  ///< of the run, from its feed
    double ohm = 0.0;     ///< size of its impedance
    double share = 0.0;   ///< the largest current anywhere on the run over the wanted one
    double swr = 1.0;     ///< at the radio
    double lostDb =
        0.0;  ///< gain of the antenna without the run less that with it, towards its strongest lobe
    double watts = 0.0;  ///< in the choke with the radio at full power
};

struct ChokeStudy {
    std::string run;
    std::string choke;  ///< name of the load; empty: there is none, and one of kTriedOhm was tried
    double frequencyHz = 0.0;
    double lengthM = 0.0;            ///< of the run
    double swrWithout = 1.0;         ///< without the run; 0 where it cannot do without
    ChokePoint none;                 ///< without any choke
    ChokePoint now;                  ///< as it is
    std::vector<ChokePoint> places;  ///< the same choke along the run
    std::vector<ChokePoint> sizes;   ///< at its place, resistive, rising
    bool complete = false;

    /// The place with the least current on the run.
    const ChokePoint& best() const;
    /// The smallest size after which no more than a little is to be had; null where the largest is not
    /// enough.
    const ChokePoint* enough() const;
    /// "Best at 0.0 m: ...; from 1000 ohm on ...".
    std::string advice(quantity::LengthStyle lengths = quantity::LengthStyle::Metric) const;
};

/// What is tried where there is no choke yet: resistive, ohm.
inline constexpr double kTriedOhm = 2000.0;

/// Name of the first cable run in use; empty where there is none.
std::string cableRunOf(const model::Expansion& expansion);

/// One field solution with a port at every place; all else is closed on it. The first load on the run is the
/// choke; the others on it stay. Throws rm::Error for a design with errors or without a run.
ChokeStudy studyChoke(const model::Design& design, double frequencyHz, double radioW,
                      std::stop_token stop = {}, const Progress& progress = {});

}  // namespace rm::study
