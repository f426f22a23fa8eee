#!/usr/bin/env bash
# Finds a browser for the tests, or installs Debian's headless Chromium.
set -euo pipefail
if [ -n "${MEVRIN_BROWSER:-}" ]; then
  [ -x "$MEVRIN_BROWSER" ] || { echo "MEVRIN_BROWSER names $MEVRIN_BROWSER, which is no program" >&2; exit 1; }
  exit 0
fi
for name in chromium-headless-shell chromium chromium-browser google-chrome; do
  command -v "$name" >/dev/null && exit 0
done
echo "installing Chromium from Debian's packages"
apt-get update -qq
apt-get install -y -qq chromium-headless-shell >/dev/null || apt-get install -y -qq chromium >/dev/null
