#!/usr/bin/env bash
# Says where Debian's Chromium is, and installs it when it is missing and may be.
set -euo pipefail
find_it() { command -v chromium || command -v chromium-browser; }
if ! find_it > /dev/null; then
  if [ "$(id -u)" = 0 ] && command -v apt-get > /dev/null; then
    echo "Chromium is missing; installing Debian's package" >&2
    (apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium) >&2
  fi
fi
if ! find_it; then
  echo "Chromium is missing and cannot be installed from here. Install it, on Debian: sudo apt-get install chromium" >&2
  exit 1
fi
