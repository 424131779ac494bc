#!/usr/bin/env bash
# Builds the core, the commands and the core's tests with the address and undefined-behaviour
# sanitizers, by Clang, and runs them. Those tagged [long] go the ways of shorter ones over more
# designs: they are run too when --long is asked for.
set -eu
cd "$(dirname "$0")/.."
long=OFF
[ "${1:-}" != --long ] || long=ON
scripts/install-deps.sh clang libclang-rt-14-dev llvm
scripts/build.sh build-sanitized -DCMAKE_CXX_COMPILER=clang++ -DCMAKE_ASM_COMPILER=clang \
  -DCMAKE_BUILD_TYPE=RelWithDebInfo -DWREN_SANITIZE=ON -DWREN_TESTS_LONG=$long -DWREN_APP=OFF \
  -DWREN_BENCH=OFF
LSAN_OPTIONS="suppressions=$PWD/tests/leaks.supp:print_suppressions=0" \
  ctest --test-dir build-sanitized --output-on-failure --no-tests=error -j "$(nproc)"
