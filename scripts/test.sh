#!/usr/bin/env bash
# All checks and tests. Stops at the first kind that fails.
set -euo pipefail
cd "$(dirname "$0")/.."
step() { echo "== $*"; }

step format
unformatted=$(gofmt -l .)
[ -z "$unformatted" ] || { echo "not formatted (make fmt): $unformatted"; exit 1; }
step go vet
go vet ./...
step staticcheck
go tool staticcheck ./...
step scripts of the page, checked by their types
(cd assets && node_modules/.bin/tsc -p .)
step scripts of the page, by themselves
if [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ]; then
  node --test --test-reporter=dot assets/test/
else
  echo "left out: node $(node -p process.version) has no clock for tests; node 20 or later does"
fi
step built assets are current
./scripts/assets-current.sh
step the list of modules is tidy
go mod tidy -diff
step tests
# Those that drive a browser wait, too, so that four of them keep two cores busy.
# What go vet would say has been said above.
go test -vet=off -count=1 -parallel 4 -timeout 15m ./...
step "the tables in a served database, where PostgreSQL is there"
./scripts/with-postgres.sh go test -vet=off -count=1 ./store
./scripts/with-postgres.sh go test -vet=off -count=1 -run 'TestTwoProcesses|TestSuggestions|TestPeopleSignIn|TestAMapIsTried|TestThoseWhoAreHere' ./web
