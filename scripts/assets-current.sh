#!/usr/bin/env bash
# Builds the assets elsewhere and compares: what is committed must be what is
# built from the pinned sources.
set -euo pipefail
cd "$(dirname "$0")/.."
fresh=$(mktemp -d)
trap 'rm -rf "$fresh"' EXIT
(cd assets && node build.mjs "$fresh")
go run ./web/limits "$fresh/limits.js"
diff -q "$fresh/limits.js" web/static/js/limits.js || { echo "web/static/js/limits.js is not what is made of web/limits.go: run make assets"; exit 1; }
for part in draw/face/files licences web/static/vendor web/static/app.css web/static/icons.svg draw/icon/icons.json; do
  diff -rq "$fresh/$part" "$part" || { echo "$part is not what is built from assets/: run make assets"; exit 1; }
done
