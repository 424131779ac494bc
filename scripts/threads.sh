#!/usr/bin/env bash
# Deriving under the thread sanitizer, before a release: parts planned and proved side by side, the loops
# inside them, a cancelled run. The scheduler itself is not instrumented; what it hands over is
# (tests/threads.supp names what is left out).
set -eu
cd "$(dirname "$0")/.."
scripts/build.sh build-threads -DCMAKE_BUILD_TYPE=RelWithDebInfo -DWREN_SANITIZE_THREADS=ON \
  -DWREN_APP=OFF -DWREN_BENCH=OFF -- core-tests wren
TSAN_OPTIONS="suppressions=$PWD/tests/threads.supp halt_on_error=1 second_deadlock_stack=1" \
  build-threads/bin/core-tests "[threads]"
