#include "core/study/radio.h"

namespace rm::study {

std::vector<circuit::Joint> feedPathJoints(const model::Expansion& design, Complex feedOhm,
                                           double frequencyHz) {
    return circuit::walkChain(design.feedPath, feedOhm, frequencyHz);
}

Complex atRadio(const model::Expansion& design, Complex feedOhm, double frequencyHz) {
    return feedPathJoints(design, feedOhm, frequencyHz).back().impedanceOhm;
}

}  // namespace rm::study
