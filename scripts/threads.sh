#!/usr/bin/env bash
# Deriving under the thread sanitizer, before a release: parts planned and proved side by side, the
# loops inside them, a cancelled run. Plain threads stand in for the task library, which the
# sanitizer cannot see into (tests/threads).
set -eu
cd "$(dirname "$0")/.."
scripts/build.sh build-threads -DCMAKE_BUILD_TYPE=RelWithDebInfo -DWREN_SANITIZE_THREADS=ON \
  -DWREN_APP=OFF -DWREN_BENCH=OFF -- core-tests wren
TSAN_OPTIONS="halt_on_error=1 second_deadlock_stack=1" \
  build-threads/bin/core-tests "[threads]"
