// The runner of both test programs, compiled once.
#pragma once

namespace rm::test {

/// Runs what the command line asks for; the exit code.
int runTests(int argc, char** argv);

}  // namespace rm::test
