#!/usr/bin/env bash
# Lays the demo out in a folder of its own, so that trying things leaves the shipped files alone, and
# really runs the first two programs on the simulated machine, so that the shop book has something in it.
set -eu
here=$(cd "$(dirname "$0")" && pwd)
bin=$here/../build/bin
folder=$1
mkdir -p "$folder"
for project in whinchat dotterel ring-ouzel; do
  if [ ! -e "$folder/$project.wren" ]; then
    cp "$here/$project.wren" "$folder/"
  fi
done
if [ ! -e "$folder/shop.sqlite" ]; then
  "$bin/wren-controller" --tcp 0 --speed 5000 >"$folder/address" &
  controller=$!
  trap 'kill $controller 2>/dev/null; rm -f "$folder/address"' EXIT
  for _ in $(seq 100); do
    [ -s "$folder/address" ] && break
    sleep 0.05
  done
  for program in 1 2; do
    "$bin/wren" run "$here/whinchat.wren" --program "$program" --to "$(cat "$folder/address")" \
      --book "$folder/shop.sqlite" >/dev/null
  done
fi
