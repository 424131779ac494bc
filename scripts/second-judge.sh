#!/usr/bin/env bash
# Has so many random designs (50), from a seed on (1), posted and cut again by the tests' own judge.
set -eu
cd "$(dirname "$0")/.."
WREN_JUDGE_DESIGNS="${1:-50}" WREN_JUDGE_FIRST="${2:-1}" build/bin/outside-tests "[judge]"
