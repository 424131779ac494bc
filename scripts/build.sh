#!/usr/bin/env bash
# Configures and builds: build.sh FOLDER [cmake options ...] [-- targets ...]
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
folder=$1
shift
options=()
while [ $# -gt 0 ] && [ "$1" != -- ]; do
  options+=("$1")
  shift
done
[ $# -eq 0 ] || shift
launcher=()
if command -v ccache >/dev/null; then
  launcher=(-DCMAKE_CXX_COMPILER_LAUNCHER=ccache)
  # Precompiled headers need this to be cached at all.
  export CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime
fi
cmake -S "$here" -B "$folder" -G Ninja "${launcher[@]}" "${options[@]}" >/dev/null
ninja -C "$folder" --quiet "$@"
