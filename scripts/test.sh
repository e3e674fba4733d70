#!/usr/bin/env bash
# Runs all tests, or `go test` with the arguments given, against a throw-away PostgreSQL server; each test has a
# database of its own in it.
. "$(dirname "$0")/lib.sh"
pg_need
command -v chromium >/dev/null || install_packages chromium
command -v pdftotext >/dev/null || install_packages poppler-utils # what a PDF says, by another program
command -v gcc >/dev/null || install_packages gcc libc6-dev
pg_dir "test-pg-$$"
tidy() { trap - EXIT; pg_stop; rm -rf "$pgdata"; }
trap tidy EXIT
trap 'exit 130' INT TERM HUP
pg_init ""
pg_start_free 7400 "-c fsync=off -c full_page_writes=off -c synchronous_commit=off"
export TALLOAK_TEST_DATABASE_URL="postgres://talloak@127.0.0.1:$port/postgres?sslmode=disable"
cd "$root"
if [ $# = 0 ]; then set -- -race -timeout 60m ./...; fi # a busy machine is no verdict
go test "$@"
