#include "run_tests.h"

#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

namespace rm::test {

int runTests(int argc, char** argv) {
    return Catch::Session().run(argc, argv);
}

}  // namespace rm::test
