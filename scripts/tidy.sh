#!/usr/bin/env bash
# Runs clang-tidy (package clang-tidy) over the core, the commands and the controller. The checker cannot
# read GCC's precompiled headers, so it gets a configuration of its own without them.
set -eu
cd "$(dirname "$0")/.."
cmake -S . -B build-tidy -G Ninja -DWREN_APP=OFF -DWREN_TESTS=OFF -DWREN_BENCH=OFF \
  -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON >/dev/null
git ls-files 'src/core/*.cpp' 'src/cli/*.cpp' 'src/controller/*.cpp' |
  xargs -P "$(nproc)" -n 4 clang-tidy -p build-tidy --quiet 2>/dev/null
