#!/usr/bin/env bash
# Runs the tests in which many requests meet with the race detector, which needs a C
# compiler; installs Debian's where there is none.
set -euo pipefail
cd "$(dirname "$0")/.."
if ! command -v "${CC:-gcc}" >/dev/null; then
  echo "installing gcc from Debian's packages"
  apt-get update -qq
  apt-get install -y -qq gcc libc6-dev >/dev/null
fi
CGO_ENABLED=1 go test -race -count=1 -timeout 10m ./web -run 'TestManyMaps|TestViewsAndEdits|TestACancelled|TestAStale|TestNobodyIsTold|TestAClosedLink|TestManyHands|TestWindowsAreKept'
CGO_ENABLED=1 go test -race -count=1 -timeout 5m ./draw/face
