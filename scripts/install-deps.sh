#!/usr/bin/env bash
# Installs what building, running and testing need and this machine lacks, and the packages named.
# Debian 12 packages only.
set -eu

packages=(
  # building
  g++ cmake ninja-build ccache mold
  # the core
  libfmt-dev nlohmann-json3-dev libtbb-dev libsqlitecpp-dev libsqlite3-dev libssl-dev libcli11-dev
  libxxhash-dev libserialport-dev
  # drawings, sheets and solids
  pkg-config libcairo2-dev libfreetype-dev libdxflib-dev libgeos-dev libpugixml-dev
  libpoppler-glib-dev
  libocct-foundation-dev libocct-modeling-data-dev libocct-modeling-algorithms-dev
  libocct-data-exchange-dev libocct-visualization-dev
  # the window
  qt6-base-dev libgl-dev
  # tests: a display of their own, second readers
  catch2 libbenchmark-dev xvfb openbox python3 python3-ezdxf libpolyclipping-dev
  "$@"
)

missing=()
for package in "${packages[@]}"; do
  state=$(dpkg-query -W -f='${db:Status-Status}' "$package" 2>/dev/null || true)
  [ "$state" = installed ] || missing+=("$package")
done
[ ${#missing[@]} -gt 0 ] || exit 0

sudo=""
if [ "$(id -u)" != 0 ]; then
  sudo=sudo
fi
echo "Installing: ${missing[*]}"
$sudo apt-get update -qq
DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
