#!/usr/bin/env bash
# Runs clang-tidy over the core, the commands and the controller, or over the files named;
# fails on any finding. The checker cannot read GCC's precompiled headers, so it gets a configuration of its own
# without them. With --since COMMIT: what was changed since then.
set -eu
cd "$(dirname "$0")/.."
if [ "${1:-}" = --since ]; then
  mapfile -t files < <(git diff --name-only --diff-filter=d "$2" -- 'src/core/*.cpp' 'src/cli/*.cpp' 'src/controller/*.cpp')
elif [ $# -gt 0 ]; then
  files=("$@")
else
  mapfile -t files < <(git ls-files 'src/core/*.cpp' 'src/cli/*.cpp' 'src/controller/*.cpp')
fi
[ "${#files[@]}" -gt 0 ] || exit 0
scripts/install-deps.sh clang-tidy
cmake -S . -B build-tidy -G Ninja -DWREN_APP=OFF -DWREN_TESTS=OFF -DWREN_BENCH=OFF \
  -DCMAKE_DISABLE_PRECOMPILE_HEADERS=ON >/dev/null
# What the checker says of itself ("12 warnings generated") is left out; a failure is not.
printf '%s\n' "${files[@]}" |
  xargs -P "$(nproc)" -n 2 clang-tidy -p build-tidy --quiet --warnings-as-errors='*' 2> >(grep -v "warnings\? generated\|^Suppressed\|^Use -header" >&2)
