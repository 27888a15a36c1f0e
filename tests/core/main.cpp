// Runs the tests of the core.
#include "run_tests.h"

int main(int argc, char** argv) {
    return rm::test::runTests(argc, argv);
}
