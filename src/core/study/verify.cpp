#include "core/study/verify.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>

#include "core/circuit/port_circuit.h"
#include "core/model/checks.h"
#include "core/study/peak.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

void compare(const io::Expectation& expected, CaseResult& result) {
    for (std::size_t i = 0; i < expected.impedanceOhm.size(); ++i)
        result.impedanceErrorOhm = std::max(result.impedanceErrorOhm,
                                            std::abs(expected.impedanceOhm[i] - result.impedanceOhm.at(i)));
    result.gainErrorDb = std::abs(result.maxDbi - expected.maxDbi);
    for (std::size_t i = 0; i < expected.gainDbi.size(); ++i)
        if (expected.gainDbi[i] >= expected.maxDbi - expected.gainWithinDb)
            result.gainErrorDb =
                std::max(result.gainErrorDb, std::abs(expected.gainDbi[i] - result.gainDbi.at(i)));
    std::vector<std::string> reasons;
    if (result.impedanceErrorOhm > expected.impedanceToleranceOhm)
        reasons.push_back(say("impedance off by {:.3f} ohm, allowed {:.3f}", result.impedanceErrorOhm,
                              expected.impedanceToleranceOhm));
    if (result.gainErrorDb > expected.gainToleranceDb)
        reasons.push_back(
            say("gain off by {:.3f} dB, allowed {:.3f}", result.gainErrorDb, expected.gainToleranceDb));
    result.verdict = reasons.empty() ? Verdict::Pass : Verdict::Fail;
    result.reason = fmt::format("{}", fmt::join(reasons, "; "));
}

}  // namespace

CaseResult verifyCase(const io::ReferenceCase& reference, const em::MeshOptions& options) {
    CaseResult result;
    result.name = reference.name;
    // What must not be solved is said, as everywhere.
    for (const auto& finding : model::checkWires(reference.model, reference.frequencyHz))
        if (finding.severity == model::Severity::Error) throw Error(finding.sentence + " " + finding.mend);
    const auto begin = std::chrono::steady_clock::now();
    const auto mesh =
        std::make_shared<const em::Mesh>(em::makeMesh(reference.model, reference.frequencyHz, options));
    const em::PortSolution solution = em::solvePorts(mesh, reference.frequencyHz);
    const circuit::Reading reading = circuit::closePorts(reference.model, solution);
    for (const auto& field : em::farField(*mesh, reading.localCurrent, reference.frequencyHz, reference.look))
        result.gainDbi.push_back(em::gainDbi(field, reading.inputPowerW));
    result.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    result.impedanceOhm = reading.feedImpedance;
    result.unknowns = solution.unknowns;
    result.maxDbi = findPeak(*mesh, reading).gainDbi;
    result.averageGain =
        em::averageGain(*mesh, reading.localCurrent, reference.frequencyHz, reading.inputPowerW);
    result.powerBalance = result.averageGain + reading.lostPowerW() / reading.inputPowerW - 1.0;
    if (reference.expected) compare(*reference.expected, result);
    if (reference.lossless() && std::abs(result.averageGain - 1.0) > kAverageGainTolerance) {
        result.verdict = Verdict::Fail;
        result.reason += say("{}average gain {:.4f}", result.reason.empty() ? "" : "; ", result.averageGain);
    }
    return result;
}

}  // namespace rm::study
