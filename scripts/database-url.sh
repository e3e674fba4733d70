#!/usr/bin/env bash
# Prints the address of the database of make demo, while that runs.
. "$(dirname "$0")/lib.sh"
[ -s "$data/password" ] || fail "there is no database here yet: run make demo"
printf 'postgres://talloak_app:%s@127.0.0.1:%s/talloak?sslmode=disable\n' "$(cat "$data/password")" "${TALLOAK_PG_PORT:-7375}"
