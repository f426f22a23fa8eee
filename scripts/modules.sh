#!/usr/bin/env bash
# Brings node and the pinned packages for styles, fonts and type checks.
set -euo pipefail
cd "$(dirname "$0")/../assets"
if ! command -v npm >/dev/null; then
  apt-get update -qq && apt-get install -y -qq nodejs npm
fi
# The mark holds the lock file that was installed; nothing to do while it fits.
if ! cmp -s package-lock.json node_modules/.mevrin-lock; then
  npm install --no-save --ignore-scripts --no-audit --no-fund --loglevel=error
  cp package-lock.json node_modules/.mevrin-lock
fi
