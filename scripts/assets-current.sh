#!/usr/bin/env bash
# Builds the assets elsewhere and compares: what is committed must be what is
# built from the pinned sources.
set -euo pipefail
cd "$(dirname "$0")/.."
fresh=$(mktemp -d)
trap 'rm -rf "$fresh"' EXIT
(cd assets && node build.mjs "$fresh")
go run ./assets/contract "$fresh"
for made in core/message/catalogue.json docs/map-format.schema.json web/js/sync/limits.js assets/contract.d.ts; do
  diff -q "$fresh/$made" "$made" || { echo "$made is not what is made of the Go code: run make assets"; exit 1; }
done
for part in draw/face/files licences web/static/vendor web/static/js web/static/app.css web/static/icons.svg draw/icon/icons.json; do
  diff -rq "$fresh/$part" "$part" || { echo "$part is not what is built from assets/: run make assets"; exit 1; }
done
