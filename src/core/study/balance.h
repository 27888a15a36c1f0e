// What flows beside the wanted current: on both sides of a feed, down the outside of its cable, and through
// the chokes there.
#pragma once

#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/figures.h"

namespace rm::study {

/// The currents round a feed, A for the voltages as driven. The sides are those of its own wire and of all
/// that is against it; what the two differ by runs down the outside of a cable.
struct FeedBalance {
    std::string feed;
    Complex one;           ///< out of the feed into its own side
    Complex other;         ///< back from the other side
    Complex outside;       ///< down the cable run at the feed, as it is driven by both; 0 without a run
    std::string run;       ///< empty: none hangs from it
    double largest = 0.0;  ///< current anywhere on the run

    Complex differential() const { return 0.5 * (one + other); }
    Complex common() const { return one - other; }
    /// The largest current on the run over the wanted one.
    double share() const;
    /// "0.98 A into one side, 0.81 A back from the other: 0.22 A (25 %) run down the outside of Cable run."
    /// `perA`: what the currents are times, as rmsAtFullPower gives it.
    std::string sentence(double perA) const;
};

/// One per driven feed.
std::vector<FeedBalance> balanceOf(const model::Expansion& design, const Analysis& analysis);

/// A lumped load and what it turns to heat, with the radio at full power.
struct LoadHeat {
    std::string name;
    double watts = 0.0;
    Complex ohm;
    std::optional<double> ratedW;
    /// "Choke gets 12 W, more than the 5 W that it stands."; empty where it is not too much.
    std::string warning() const;
};
std::vector<LoadHeat> loadHeat(const model::Expansion& design, const Analysis& analysis, double radioW);

/// What a cable run does to an antenna, against the same one without it.
struct CableEffect {
    std::string run;
    double share = 0.0;         ///< its largest current over the feed's
    double costDb = 0.0;        ///< gain without it less gain with it, towards the strongest lobe without it
    double elevationDeg = 0.0;  ///< of that lobe
    double shiftHz = 0.0;       ///< by which it moves the resonance; 0 where the slope says nothing
    /// "Cable run carries 22 % of the feed current: it takes 1.1 dB from 30° and moves resonance by -18 kHz."
    std::string sentence() const;
};

/// The slope of the reactance says how far its change moves the resonance. Two solutions for each run.
/// Throws rm::Stopped.
std::vector<CableEffect> cableEffects(const model::Design& design, const model::Expansion& expansion,
                                      const Analysis& analysis, FieldStore* fields = nullptr,
                                      const std::stop_token& stop = {});

}  // namespace rm::study
