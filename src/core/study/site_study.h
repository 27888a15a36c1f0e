// What height and ground do to a design: the same figures at many heights, or over several kinds of ground.
#pragma once

#include <array>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"

namespace rm::study {

/// Elevations in degrees at which designs are compared.
inline constexpr std::array<double, 4> kWatchAnglesDeg = {5.0, 10.0, 15.0, 30.0};

/// A design in one place.
struct SitePoint {
    std::string soil;          ///< id of model/soils.h, or the kind of ground
    double siteHeightM = 0.0;  ///< what the height of the site is set to
    double feedHeightM = 0.0;  ///< height of the first feed above ground
    Complex impedanceOhm;      ///< at the first feed
    double swr = 1.0;
    Peak peak;
    std::array<double, kWatchAnglesDeg.size()> watchGainDbi{};
    double groundShare = 0.0;  ///< of the input power, lost in the ground
};

/// Height of the first feed above ground in metres.
double feedHeightM(const model::WireModel& model);

struct HeightStudy {
    std::vector<SitePoint> points;  ///< ascending
    double frequencyHz = 0.0;
    double nowFeedHeightM = 0.0;
    bool complete = false;
};

/// The design with its lowest wire from near the ground (0.01 wavelengths, or as close as can be worked out)
/// to a feed height of two wavelengths (more where it hangs higher now), `count` heights, closer together
/// near the ground. `bearingDeg` is the azimuth of the watch angles. Throws rm::Error for a design with
/// errors, and in free space, where height means nothing.
HeightStudy studyHeights(const model::Design& design, double frequencyHz, double bearingDeg, int count = 72,
                         std::stop_token stop = {}, const Progress& progress = {});

/// The design over every soil of model/soils.h, and first over the ground it stands on where that is another.
/// Throws rm::Error for a design with errors.
std::vector<SitePoint> studyGrounds(const model::Design& design, double frequencyHz, double bearingDeg,
                                    std::stop_token stop = {}, const Progress& progress = {});

}  // namespace rm::study
