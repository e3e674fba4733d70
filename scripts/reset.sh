#!/usr/bin/env bash
# Throws the demo's database away, so that the next start makes it afresh.
. "$(dirname "$0")/lib.sh"
[ -z "${TALLOAK_DATABASE_URL:-}" ] || fail "TALLOAK_DATABASE_URL is set: only the database of make demo is thrown away"
pg_need
pg_dir pg
if pg_running; then
  port_free "${TALLOAK_PORT:-7373}" || fail "Tall Oak is running; stop it first"
  pg_stop
fi
rm -rf "$pgdata" "$data/password"
