#pragma once

/// Runs the tests of this program that the arguments name, as Catch2 reads them; the exit code.
int run_tests(int argc, char** argv);
