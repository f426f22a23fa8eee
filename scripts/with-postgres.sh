#!/usr/bin/env bash
# Runs a command beside a PostgreSQL server of its own, which MEVRIN_TEST_DATABASE names then.
# Where the server's programs are not there (Debian: postgresql), the command is left out.
set -euo pipefail
bin=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1 || true)
if [ -z "$bin" ] || [ ! -x "$bin/initdb" ]; then
	echo "PostgreSQL is not there: left out: $*"
	exit 0
fi
place=$(mktemp -d /tmp/mevrin-postgres.XXXXXX)
as=()
if [ "$(id -u)" = 0 ]; then # the server refuses to run as root
	chown postgres "$place"
	as=(setpriv --reuid=postgres --regid=postgres --clear-groups)
fi
stop() {
	"${as[@]}" "$bin/pg_ctl" -D "$place/data" -m immediate stop >/dev/null 2>&1 || true
	rm -rf "$place"
}
trap stop EXIT
cd "$place"
"${as[@]}" "$bin/initdb" -D "$place/data" -U mevrin -A trust -E UTF8 --locale=C.UTF-8 >"$place/said" 2>&1 || { cat "$place/said"; exit 1; }
"${as[@]}" "$bin/pg_ctl" -D "$place/data" -w -o "-k $place -h '' -c fsync=off" -l "$place/data/log" start >"$place/said" 2>&1 || { cat "$place/said" "$place/data/log"; exit 1; }
cd - >/dev/null
MEVRIN_TEST_DATABASE="postgres:///postgres?user=mevrin&host=$place" "$@"
