#include "core/study/path_study.h"

#include <algorithm>
#include <cmath>

namespace rm::study {

double PathReport::arrivingW(double powerW) const {
    return study::arrivingW(joints, powerW);
}

std::vector<double> PathReport::lostW(double powerW) const {
    std::vector<double> lost;
    const double arriving = arrivingW(powerW);
    for (std::size_t j = 1; j < joints.size(); ++j)
        lost.push_back(arriving * (std::pow(10.0, 0.1 * joints[j].totalLossDb) -
                                   std::pow(10.0, 0.1 * joints[j - 1].totalLossDb)));
    return lost;
}

PathReport reportPath(const model::Expansion& design, Complex feedOhm, double frequencyHz) {
    PathReport report;
    report.frequencyHz = frequencyHz;
    report.referenceOhm = design.referenceOhm;
    report.joints = feedPathJoints(design, feedOhm, frequencyHz);
    for (std::size_t b = 0; b < design.feedPath.size(); ++b)
        report.arcs.push_back(
            circuit::walkBlock(design.feedPath[b], report.joints[b].impedanceOhm, frequencyHz));
    return report;
}

PathStudy studyPath(const model::Expansion& design, Complex feedOhm, double frequencyHz, const Sweep& working,
                    const std::vector<const Sweep*>& bands, const MatchWish& wish) {
    PathStudy study;
    study.now = reportPath(design, feedOhm, frequencyHz);
    std::vector<const Sweep*> swept;
    for (const Sweep* band : bands) {
        study.bands.emplace_back();
        if (band == nullptr || band->points.empty()) continue;
        swept.push_back(band);
        const SweepPoint& middle = band->points[band->points.size() / 2];
        study.bands.back() = reportPath(design, middle.antennaOhm, middle.frequencyHz);
    }
    study.radio = atJoint(design, working, design.feedPath.size());
    study.joint = std::min(wish.joint, design.feedPath.size());
    study.targetOhm = wish.request.targetOhm;
    MatchRequest request = wish.request;
    request.frequencyHz = frequencyHz;
    try {
        // The frequency itself belongs to the curve: interpolated it would be matched a little beside.
        ImpedanceCurve curve = atJoint(design, working, study.joint);
        const auto at = std::lower_bound(curve.hz.begin(), curve.hz.end(), frequencyHz) - curve.hz.begin();
        const auto place = static_cast<std::size_t>(at);
        if (place >= curve.hz.size() || curve.hz[place] != frequencyHz) {
            curve.hz.insert(curve.hz.begin() + at, frequencyHz);
            curve.ohm.insert(curve.ohm.begin() + at, study.now.joints[study.joint].impedanceOhm);
        } else {
            curve.ohm[place] = study.now.joints[study.joint].impedanceOhm;
        }
        study.options = matchOptions(curve, request);
    } catch (const Error& e) {
        study.problem = e.what();
    }
    if (!swept.empty()) study.ratios = transformerRatios(design, swept);
    return study;
}

}  // namespace rm::study
