#!/usr/bin/env bash
# Takes rules of the job out one at a time and sees whether a test misses each: see scripts/mutants. All of them take a
# quarter of an hour; -rules the named ones of mutants/rules.txt, -n 200 takes as many by chance, -room judge those of one room.
cd "$(dirname "$0")/.."
exec go run ./scripts/mutants "$@"
