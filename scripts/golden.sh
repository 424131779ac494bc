#!/usr/bin/env bash
# Writes the list of posted motion anew and prints which programs changed. Why they may has to be said:
#   scripts/golden.sh "outline laps are cut down in passes where roughing kept clear"
# The reason and the programs are put at the head of tests/golden/reasons.md.
set -eu
cd "$(dirname "$0")/.."
reason=${1:?why may the motion change? One sentence was expected.}
list=tests/golden/motion.txt
before=$(mktemp)
trap 'rm -f "$before" "$before.new"' EXIT
cp "$list" "$before" 2>/dev/null || true
WREN_GOLDEN_RENEW=1 build/bin/core-tests "Posted motion is what it was" >/dev/null
changed=$(diff "$before" "$list" | sed -n 's/^> \([^:]*\):.*/- \1/p' || true)
gone=$(diff "$before" "$list" | sed -n 's/^< \([^:]*\):.*/\1/p' | while read -r name; do
  grep -qF "$name:" "$list" || echo "- $name (no longer made)"
done)
if [ -z "$changed$gone" ]; then
  echo "No program's motion changed."
  exit 0
fi
echo "$changed"
[ -z "$gone" ] || echo "$gone"
{
  printf '## %s\n\n%s\n' "$reason" "$changed"
  if [ -n "$gone" ]; then
    echo "$gone"
  fi
  if [ -e tests/golden/reasons.md ]; then
    echo
    cat tests/golden/reasons.md
  fi
} >"$before.new"
cp "$before.new" tests/golden/reasons.md
