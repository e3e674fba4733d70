#!/usr/bin/env bash
# Kills the server 100 times and stops the database 40 times while readings are logged,
# then counts what is there (docs/performance.md has the figures). Arguments go to the
# campaign: -kills 10 -stops 4 for a short one.
. "$(dirname "$0")/lib.sh"
pg_need
command -v chromium >/dev/null || install_packages chromium
pg_dir "campaign-pg-$$"
tidy() { trap - EXIT; pg_stop; rm -rf "$pgdata"; }
trap tidy EXIT
trap 'exit 130' INT TERM HUP
pg_init ""
pg_start_free 7420 # it syncs to disk: what is acknowledged must be there
"$pgbin/createdb" -h 127.0.0.1 -p "$port" -U talloak campaign
export TALLOAK_DATABASE_URL="postgres://talloak@127.0.0.1:$port/campaign?sslmode=disable"
cd "$root"
make --no-print-directory build >&2
as=
[ "$(id -u)" = 0 ] && as="runuser -u postgres --"
# shellcheck disable=SC2086
go run ./scripts/campaign \
  -pg-stop "cd / && $as $pgbin/pg_ctl -D $pgdata -m immediate -w stop" \
  -pg-start "cd / && $as $pgbin/pg_ctl -D $pgdata -l $pgdata/server.log -w -t 30 -o \"-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''\" start" "$@"
