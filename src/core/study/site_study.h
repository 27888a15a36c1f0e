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

/// Where a study looks from: one azimuth, several elevations.
struct Look {
    double azimuthDeg = 0.0;
    std::array<double, 4> watchDeg = model::Angles{}.watchDeg;
};

/// A design in one place.
struct SitePoint {
    std::string soil;          ///< id of model/soils.h, or the kind of ground
    double siteHeightM = 0.0;  ///< what the height of the site is set to
    double feedHeightM = 0.0;  ///< height of the first feed above ground
    Complex impedanceOhm;      ///< at the first feed
    double swr = 1.0;
    Peak peak;
    std::array<double, 4> watchGainDbi{};  ///< at the elevations of the look
    double groundShare = 0.0;              ///< of the input power, lost in the ground
};

/// Height of the first feed above ground in metres.
double feedHeightM(const model::WireModel& model);

struct HeightStudy {
    Look look;
    std::vector<SitePoint> points;  ///< ascending
    double frequencyHz = 0.0;
    double nowFeedHeightM = 0.0;
    bool complete = false;
};

/// The design with its lowest wire from near the ground (0.01 wavelengths, or as close as can be worked out)
/// to a feed height of two wavelengths (more where it hangs higher now), `count` heights, closer together
/// near the ground. Throws rm::Error for a design with
/// errors, in free space, where height means nothing, and for what hangs from supports.
HeightStudy studyHeights(const model::Design& design, double frequencyHz, const Look& look, int count = 72,
                         std::stop_token stop = {}, const Progress& progress = {});

struct GroundStudy {
    Look look;
    std::vector<SitePoint> points;  ///< one per ground; empty where it was stopped
};

/// The design over every soil of model/soils.h, and first over the ground it stands on where that is another.
/// Throws rm::Error for a design with errors.
GroundStudy studyGrounds(const model::Design& design, double frequencyHz, const Look& look,
                         std::stop_token stop = {}, const Progress& progress = {});

}  // namespace rm::study
