#!/usr/bin/env bash
# Other programs that open what Mevrin writes, from Debian's packages where they are missing.
set -euo pipefail
missing=()
need() { command -v "$1" >/dev/null || missing+=("$2"); }
need soffice "libreoffice-writer-nogui libreoffice-impress-nogui libreoffice-calc-nogui"
need pdftotext poppler-utils
need qpdf qpdf
need dot graphviz
need rapper raptor2-utils
need xmllint libxml2-utils
need unzip unzip
python3 -c 'import networkx' 2>/dev/null || missing+=(python3-networkx)
[ ${#missing[@]} -eq 0 ] && exit 0
echo "installing ${missing[*]} from Debian's packages"
apt-get update -qq
# shellcheck disable=SC2086
apt-get install -y -qq --no-install-recommends ${missing[*]} >/dev/null
