#include "core/build/simulated_analyser.h"

#include <cmath>

#include "core/build/trim.h"
#include "core/circuit/chain.h"
#include "core/circuit/reflection.h"
#include "core/study/figures.h"

namespace rm::build {

namespace {

constexpr double kAnalyserOhm = 50.0;

}  // namespace

SimulatedAnalyser::SimulatedAnalyser(const model::Design& design, const HiddenTruth& truth)
    : truth_(truth),
      built_(model::expand(withCauses(design, trimDimensions(design), truth.causes))),
      random_(truth.seed) {
    study::requireUsable(built_);
}

Complex SimulatedAnalyser::measure(double frequencyHz) {
    Complex ohm = study::analyse(built_, frequencyHz).figures.antennaOhm;
    ohm = atTerminals(ohm, truth_.causes, frequencyHz);
    if (truth_.atRadio && !built_.feedPath.empty())
        ohm = circuit::walkChain(built_.feedPath, ohm, frequencyHz).back().impedanceOhm;
    ohm = throughLine(ohm, truth_.causes, frequencyHz);
    std::normal_distribution<double> scatter(0.0, truth_.noise / std::sqrt(2.0));
    const Complex read = circuit::reflection(ohm, kAnalyserOhm) + Complex(scatter(random_), scatter(random_));
    return kAnalyserOhm * (1.0 + read) / (1.0 - read);
}

}  // namespace rm::build
