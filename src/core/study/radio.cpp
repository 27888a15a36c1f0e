#include "core/study/radio.h"

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

}  // namespace rm::study
