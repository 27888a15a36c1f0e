// Reference cases: refused in a sentence, or problems that are refused, too, or solved to finite figures.
#include <cmath>

#include "core/common.h"
#include "core/em/mesh.h"
#include "core/project/reference_cases.h"
#include "core/study/verify.h"
#include "target.h"

using namespace rm;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    try {
        for (const auto& problem : io::parseReferenceCases(fuzz::textOf(data, size), "It")) {
            const auto mesh = em::makeMesh(problem.model, problem.frequencyHz);
            // What takes longer than an instant teaches nothing more.
            if (mesh.functions.size() > 16 || problem.look.size() > 20) continue;
            if (problem.model.ground.kind == model::GroundKind::Real) continue;
            const auto result = study::verifyCase(problem);
            for (const Complex& z : result.impedanceOhm)
                fuzz::require(std::isfinite(z.real()) && std::isfinite(z.imag()), "impedances are finite");
            fuzz::require(std::isfinite(result.averageGain), "the average gain is finite");
        }
    } catch (const Error&) {
    }
    return 0;
}
