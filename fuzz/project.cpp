// Project files: refused in a sentence, or read, written and read back equal.
#include "core/common.h"
#include "core/project/project_file.h"
#include "target.h"

using namespace rm;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    model::Project project;
    try {
        project = io::parseProject(fuzz::textOf(data, size), "It");
    } catch (const Error&) {
        return 0;
    }
    const std::string written = io::textOf(project);
    const auto again = io::parseProject(written, "What was written");
    fuzz::require(io::textOf(again) == written, "a project is read back as it was written", written);
    fuzz::require(again == project, "what is read back is equal", written);
    return 0;
}
