#!/usr/bin/env bash
# Installs what is missing, builds everything, and runs every test.
set -eu
cd "$(dirname "$0")"
scripts/install-deps.sh
scripts/build.sh build
ctest --test-dir build --output-on-failure --no-tests=error -j "$(nproc)"
