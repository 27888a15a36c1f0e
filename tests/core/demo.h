// Designs of the demo project.
#pragma once

#include "core/project/project_file.h"

namespace rm::test {

inline model::Design demoDesign(const std::string& name) {
    const std::string file = RM_SOURCE_DIR "/demo/heron_point.json";
    return io::designOf(io::readProject(file), name, file);
}

}  // namespace rm::test
