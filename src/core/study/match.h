// Matching at a joint of the feed path: every network that does it, with buildable values, its loss, and its
// SWR over the band, ready to be put into the design.
#pragma once

#include <string>
#include <vector>

#include "core/model/expand.h"
#include "core/study/sweep.h"

namespace rm::study {

/// The impedance at one joint against frequency.
struct ImpedanceCurve {
    std::vector<double> hz;
    std::vector<Complex> ohm;
};

/// What a sweep says of joint `joint` of the feed path: 0 is the feedpoint, then one after every block.
ImpedanceCurve atJoint(const model::Expansion& design, const Sweep& sweep, std::size_t joint);

enum class Values { Exact, Steps12, Steps24 };

struct MatchRequest {
    double frequencyHz = 0.0;
    double targetOhm = 50.0;
    Values values = Values::Exact;      ///< of coils and capacitors; steps per decade (IEC 60063)
    double coilQ = 200.0;               ///< 0: no loss
    double capacitorQ = 1000.0;         ///< 0: no loss
    double loadedQ = 5.0;               ///< of pi and T networks
    std::string line = "coax 50 thin";  ///< for stubs and pieces before them, an id of lineTypes()
};

enum class MatchFamily { L, Stub, QuarterWave, Pi, T };

/// One way to match.
struct MatchOption {
    MatchFamily family = MatchFamily::L;
    std::string title;                     ///< "series coil 1.20 µH, then capacitor 330 pF across"
    std::vector<model::FeedBlock> blocks;  ///< to insert, from the antenna to the radio
    double swr = 1.0;                      ///< at the frequency, to the target, with the buildable values
    double lossDb = 0.0;                   ///< at the frequency
    std::vector<double> bandSwr;           ///< at the frequencies of the curve, to the target
    double worstSwr = 1.0;                 ///< of those
};

/// All L networks, pi and T networks of the loaded Q (where it is enough), both single stubs, open and
/// shorted (where the line has the target impedance), and both quarter-wave sections, each family in the
/// order of its worst SWR over the band. `curve` is the impedance at the joint; at the frequency it is
/// interpolated. Throws rm::Error where the impedance has no resistance or the request makes no sense.
std::vector<MatchOption> matchOptions(const ImpedanceCurve& curve, const MatchRequest& request);

/// How a transformer of this ratio would do on every band.
struct RatioOption {
    std::string ratio;             ///< "49:1"
    std::vector<double> worstSwr;  ///< per band, at the radio
    double worst = 1.0;            ///< of all bands
};

/// Usual ratios tried in the first transformer of the feed path, or in one added at the feedpoint where there
/// is none, over the sweeps of several bands; the best first.
std::vector<RatioOption> transformerRatios(const model::Expansion& design,
                                           const std::vector<const Sweep*>& bands);

/// Where in the feed path of the design (blocks that are off counted too) a block after joint `joint` goes.
std::size_t placeInPath(const model::Design& design, std::size_t joint);

}  // namespace rm::study
