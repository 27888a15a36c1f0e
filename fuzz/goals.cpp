// Plans of goals: refused in a sentence, or read, written with a design and read back equal.
#include <nlohmann/json.hpp>

#include "core/common.h"
#include "core/project/design_json.h"
#include "core/project/json_text.h"
#include "target.h"

using namespace rm;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    model::Design design;
    try {
        design.tune = io::readPlan(io::parseJson(fuzz::textOf(data, size), "It"), "It");
    } catch (const Error&) {
        return 0;
    }
    const auto written = io::jsonText(io::writeDesign(design));
    const auto again = io::readDesign(io::parseJson(written, "It"), "It");
    fuzz::require(again.tune == design.tune, "a plan is read back as it was written", written);
    return 0;
}
