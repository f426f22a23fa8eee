#!/usr/bin/env bash
# The figures of docs/architecture.md that can be measured by now.
set -euo pipefail
cd "$(dirname "$0")/.."
go test -run '^$' -bench . ./core/... ./draw/... ./store/... ./format/... | grep -E '^(Benchmark|pkg)' | grep -v '^pkg'
go run ./e2e/figures -binary bin/mevrin
