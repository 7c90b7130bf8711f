#!/usr/bin/env bash
# Generates the named files again and fails when one of them changes.
set -euo pipefail
before=$(mktemp -d)
trap 'rm -rf "$before"' EXIT
for f in "$@"; do mkdir -p "$before/$(dirname "$f")"; cp "$f" "$before/$f"; done
make --no-print-directory -s generate > /dev/null
stale=0
for f in "$@"; do
  if ! cmp -s "$f" "$before/$f"; then
    echo "$f was stale: run make generate and commit it" >&2
    stale=1
  fi
done
exit $stale
