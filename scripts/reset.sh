#!/usr/bin/env bash
# Throws the demo's database away, so that the next start makes it afresh.
. "$(dirname "$0")/lib.sh"
[ -z "${TALLOAK_DATABASE_URL:-}" ] || fail "TALLOAK_DATABASE_URL is set: only the database of make demo is thrown away"
hold_data # whatever port it was started on
pg_need
pg_dir pg
if pg_running; then pg_stop; fi # left over from a run that was killed outright
rm -rf "$pgdata" "$data/password"
