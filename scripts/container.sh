#!/usr/bin/env bash
# Builds the container as docs/running.md says, runs it and uses it. Podman stands for any builder. Where no
# image can be fetched, the one to build with is made of Debian's packages and the Go of this machine: what
# the Dockerfile itself does is the same.
set -euo pipefail
cd "$(dirname "$0")/.."
missing=()
for name in podman runc mmdebstrap; do command -v $name >/dev/null || missing+=("$name"); done
if [ ${#missing[@]} -gt 0 ]; then
  echo "installing ${missing[*]} from Debian's packages"
  apt-get update -qq
  apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
fi
image=mevrin-tried
work=$(mktemp -d)
ended() {
  podman rmi --force $image >/dev/null 2>&1 || true
  rm -rf "$work"
}
trap ended EXIT

base=$(sed -n 's/^FROM \(golang:[^ ]*\) AS build$/\1/p' Dockerfile)
[ -n "$base" ] || { echo "the Dockerfile names no image to build with" >&2; exit 1; }
from=()
if ! podman pull -q "$base" >/dev/null 2>&1; then
  made=localhost/mevrin-builds-with:${base#*:} # under a name of its own: it is taken for the real one nowhere else
  from=(--from "$made")
fi
if [ ${#from[@]} -gt 0 ] && ! podman image exists "$made"; then
  echo "no image $base can be fetched; one is made here"
  mmdebstrap --quiet --variant=minbase --include=ca-certificates,git "$(. /etc/os-release; echo "$VERSION_CODENAME")" "$work/debian.tar"
  cp -r "$(go env GOROOT)" "$work/go"
  cp /etc/ssl/certs/ca-certificates.crt "$work/"
  printf '%s\n' 'FROM scratch' 'ADD debian.tar /' 'COPY go /usr/local/go' 'COPY ca-certificates.crt /etc/ssl/certs/' \
    'ENV GOPATH=/go GOTOOLCHAIN=local PATH=/go/bin:/usr/local/go/bin:/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin' > "$work/Containerfile"
  podman build -q --isolation chroot -t "$made" "$work" >/dev/null
fi
# What is committed is built, as it is from a fresh clone.
git clone -q --no-hardlinks . "$work/src"
podman build -q --isolation chroot --network host "${from[@]}" -t $image "$work/src" >/dev/null
echo "built: $(podman image inspect --format '{{.Size}}' $image) bytes"
MEVRIN_CONTAINER=$image go test ./e2e -run TestTheContainer -count=1 -v -timeout 10m
