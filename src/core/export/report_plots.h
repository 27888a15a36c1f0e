// The plots of a report, in lines and words: SWR over a band, cuts of the pattern, the antenna on its site.
#pragma once

#include "core/export/page.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"

namespace rm::io {

/// SWR at the radio over a band with the designer's limits.
void plotSwr(Page& page, const PageBox& box, const study::Sweep& sweep, const model::SwrLimits& limits);
/// The half above the horizon, or the whole where there is no ground; 40 dB from the rim to the middle.
void plotElevation(Page& page, const PageBox& box, const study::Cut& cut, double headingDeg, bool ground);
/// North up; 40 dB from the rim to the middle.
void plotAzimuth(Page& page, const PageBox& box, const study::Cut& cut, double headingDeg);
/// The antenna with what holds it, from the front and above, to one scale.
void drawAntenna(Page& page, const PageBox& box, const model::Expansion& expansion);

}  // namespace rm::io
