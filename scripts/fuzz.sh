#!/usr/bin/env bash
# Spoils drawings and lists and has the built tests read them, for so many seconds (300) where three
# are usual.
set -eu
cd "$(dirname "$0")/.."
WREN_FUZZ_SECONDS="${1:-300}" build/bin/core-tests "[fuzz]"
