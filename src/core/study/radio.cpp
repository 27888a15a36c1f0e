#include "core/study/radio.h"

#include <cmath>

namespace rm::study {

std::vector<circuit::Joint> feedPathJoints(const model::Expansion& design, Complex antennaOhm,
                                           double frequencyHz, double harnessLossDb) {
    auto joints = circuit::walkChain(design.feedPath, antennaOhm, frequencyHz);
    for (auto& joint : joints) joint.totalLossDb += harnessLossDb;
    return joints;
}

Complex atRadio(const model::Expansion& design, Complex antennaOhm, double frequencyHz) {
    return feedPathJoints(design, antennaOhm, frequencyHz).back().impedanceOhm;
}

double arrivingW(const std::vector<circuit::Joint>& joints, double radioW) {
    return joints.empty() ? radioW : radioW * std::pow(10.0, -0.1 * joints.back().totalLossDb);
}

}  // namespace rm::study
