#!/usr/bin/env bash
# Runs a command in a virtual display of its own, with a window manager so that windows get the focus.
set -u
number=0
for candidate in $(seq 90 190); do
  if [ ! -e "/tmp/.X11-unix/X$candidate" ] && [ ! -e "/tmp/.X$candidate-lock" ]; then
    number=$candidate
    break
  fi
done
Xvfb ":$number" -screen 0 2600x1700x24 -nolisten tcp >/dev/null 2>&1 &
server=$!
for _ in $(seq 100); do
  [ -e "/tmp/.X11-unix/X$number" ] && break
  sleep 0.05
done
export DISPLAY=":$number"
export XDG_RUNTIME_DIR="${XDG_RUNTIME_DIR:-$(mktemp -d)}"
# It says when it manages the display: on a fresh machine it first reads every font there is.
managed=$(mktemp -u)
openbox --startup "touch $managed" >/dev/null 2>&1 &
manager=$!
for _ in $(seq 600); do
  [ -e "$managed" ] && break
  sleep 0.05
done
"$@"
code=$?
rm -f "$managed"
kill "$manager" "$server" 2>/dev/null
wait "$manager" "$server" 2>/dev/null
exit $code
