#!/usr/bin/env bash
# Installs what is missing: tools are checked, PostgreSQL comes from Debian.
. "$(dirname "$0")/lib.sh"
need_tools
[ -n "${TALLOAK_DATABASE_URL:-}" ] || pg_need
