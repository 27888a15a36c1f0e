// Measured tables: refused in a sentence, or read in ways that all make sense and survive the project file.
#include <cmath>

#include "core/common.h"
#include "core/model/limits.h"
#include "core/project/measured_file.h"
#include "core/project/project_file.h"
#include "target.h"

using namespace rm;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    std::vector<io::MeasuredTable> readings;
    try {
        readings = io::measuredReadings(fuzz::textOf(data, size), "It");
    } catch (const Error&) {
        return 0;
    }
    fuzz::require(!readings.empty(), "a table that is not refused is read");
    for (const auto& reading : readings) {
        fuzz::require(!reading.data.points.empty(), "a table has points");
        for (const auto& p : reading.data.points)
            fuzz::require(p.frequencyHz >= model::kLowestHz && p.frequencyHz <= model::kHighestHz,
                          "frequencies are within the limits");
        model::Project project;
        project.designs.emplace_back();
        model::Measured measured;
        measured.name = "Measured";
        measured.data = reading.data;
        project.designs[0].measured.push_back(measured);
        const std::string written = io::textOf(project);
        const auto again = io::parseProject(written, "What was written");
        fuzz::require(again.designs[0].measured[0].data.points == reading.data.points,
                      "a measurement is read back with its project", written);
    }
    return 0;
}
