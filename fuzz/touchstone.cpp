// Touchstone files: refused in a sentence, or finite points that are read back as they were written.
#include <cmath>

#include "core/circuit/reflection.h"
#include "core/model/limits.h"
#include "core/project/touchstone.h"
#include "target.h"

using namespace rm;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    std::vector<io::ImpedancePoint> points;
    try {
        points = io::parseTouchstone(fuzz::textOf(data, size), "It");
    } catch (const Error&) {
        return 0;
    }
    constexpr double kReference = 50.0;
    bool writable = !points.empty();
    for (const auto& p : points) {
        fuzz::require(std::isfinite(p.impedanceOhm.real()) && std::isfinite(p.impedanceOhm.imag()),
                      "impedances are finite");
        fuzz::require(p.frequencyHz > 0.0 && std::isfinite(p.frequencyHz), "frequencies are positive");
        // The file keeps nine digits of the reflection: far from the reference the impedance drowns in them.
        writable = writable && std::abs(p.impedanceOhm) < 1e4 && p.impedanceOhm.real() > 1.0 &&
                   p.frequencyHz > 1e5 && p.frequencyHz < 1e10;
    }
    for (std::size_t i = 1; i < points.size(); ++i)
        writable = writable && points[i].frequencyHz > points[i - 1].frequencyHz * (1.0 + 1e-6);
    if (!writable) return 0;
    const std::string written = io::touchstoneText(points, kReference, "again");
    const auto again = io::parseTouchstone(written, "What was written");
    fuzz::require(again.size() == points.size(), "every point is read back", written);
    for (std::size_t i = 0; i < points.size(); ++i) {
        fuzz::require(std::abs(again[i].frequencyHz / points[i].frequencyHz - 1.0) < 1e-6,
                      "frequencies are read back", written);
        fuzz::require(std::abs(circuit::reflection(again[i].impedanceOhm, kReference) -
                               circuit::reflection(points[i].impedanceOhm, kReference)) < 1e-6,
                      "reflections are read back", written);
    }
    return 0;
}
