#!/usr/bin/env bash
# Installs what is missing, builds, and opens the window with the demo. Without a display it saves a
# picture of each main view instead and says where.
set -eu
cd "$(dirname "$0")"
scripts/install-deps.sh
scripts/build.sh build -- upland-wren wren wren-controller
demo/prepare.sh build/demo
if [ -n "${DISPLAY:-}" ] || [ -n "${WAYLAND_DISPLAY:-}" ]; then
  exec build/bin/upland-wren --book build/demo/shop.sqlite build/demo/whinchat.wren
fi
mkdir -p out/pictures
scripts/with-display.sh build/bin/upland-wren --book build/demo/shop.sqlite \
  --pictures out/pictures build/demo/whinchat.wren >/dev/null
echo "No display here: pictures of the main views are in $(pwd)/out/pictures"
