# Shared by the scripts: messages, packages, and a PostgreSQL server of our own
# on loopback. Source it; it runs nothing.
# shellcheck shell=bash
set -euo pipefail

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
data=$root/.data

say() { printf '%s\n' "$*" >&2; }
fail() { say "Tall Oak: $*"; exit 1; }

# install_packages NAME...: Debian packages, as root or through sudo.
install_packages() {
  local as=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "these packages are missing and there is no sudo to install them: $*. As root: apt-get install $*"
    as=(sudo)
  fi
  command -v apt-get >/dev/null || fail "these packages are missing and this is no Debian to install them on: $*"
  say "Installing $* ..."
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -qq update >/dev/null || fail "apt-get update did not work; is there a network?"
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -qq install -y --no-install-recommends "$@" >/dev/null || fail "could not install $*"
}

need_tools() {
  command -v go >/dev/null || fail "Go 1.26 is needed; it is not on the PATH"
  command -v node >/dev/null && command -v npm >/dev/null || fail "Node 20 with npm is needed; it is not on the PATH"
  local v
  v=$(node -p 'process.versions.node.split(".")[0]')
  [ "$v" -ge 20 ] || fail "Node $v is too old; 20 or newer is needed"
}

# pg_find sets pgbin to the newest server of version 15 or later, if any.
pg_find() {
  pgbin=
  local d
  for d in $(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -t/ -k5 -n); do
    [ -x "$d/postgres" ] && [ "$(basename "$(dirname "$d")")" -ge 15 ] && pgbin=$d
  done
  [ -n "$pgbin" ]
}

# pg_need makes sure of a server, installed without a cluster of its own running.
pg_need() {
  pg_find && return
  local as=()
  [ "$(id -u)" = 0 ] || as=(sudo)
  install_packages postgresql-common
  "${as[@]}" mkdir -p /etc/postgresql-common/createcluster.d
  printf 'create_main_cluster = false\n' | "${as[@]}" tee /etc/postgresql-common/createcluster.d/talloak.conf >/dev/null
  install_packages postgresql-15
  pg_find || fail "PostgreSQL 15 or newer is needed; the one Debian gave is older"
}

# pg_run runs a server command; root may not, so it does so as postgres.
pg_run() {
  # The database holds no lock on the folder: it is stopped by who finds it left over.
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@" 9>&-); else (cd / && "$@" 9>&-); fi
}

# pg_dir NAME sets pgdata to .data/NAME, or to a place under /var/lib where the
# server's user cannot reach the project (root running below a private folder).
pg_dir() {
  mkdir -p "$data"
  pgdata=$data/$1
  if [ "$(id -u)" = 0 ] && ! pg_run test -x "$data" 2>/dev/null; then
    pgdata=/var/lib/talloak/$(printf '%s' "$root" | cksum | cut -d' ' -f1)/$1
    install -d -m 755 "$(dirname "$(dirname "$pgdata")")" "$(dirname "$pgdata")"
    say "The database user cannot reach $data, so the data are in $pgdata."
  fi
}

# hold_data takes the one lock on the data of this folder, or says who has it: descriptor 9 is
# held by this script and by the server that it starts, until the last of them has ended.
# runs_here says how to reach what holds it.
hold_data() {
  mkdir -p "$data"
  command -v flock >/dev/null || install_packages util-linux
  exec 9>>"$data/lock"
  flock -n 9 || fail "Tall Oak runs in this folder already: $(cat "$data/running" 2>/dev/null || printf 'it is just starting'). Stop it first (Ctrl-C where it runs), or work in a folder of its own"
}
runs_here() { printf '%s\n' "$*" >"$data/running"; }

port_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# pg_init NAME PASSWORD: a new data directory unless there is one. An empty
# password makes a cluster for tests: trusting, and without syncing to disk.
pg_init() {
  [ -s "$pgdata/PG_VERSION" ] && {
    local have=${pgbin%/bin}
    have=${have##*/}
    [ "$(cat "$pgdata/PG_VERSION")" = "$have" ] || fail "the data in $pgdata are of PostgreSQL $(cat "$pgdata/PG_VERSION"), but the server is version $have: install postgresql-$(cat "$pgdata/PG_VERSION"), or start afresh with make demo-reset"
    return
  }
  if [ "$(id -u)" = 0 ]; then install -d -o postgres -g postgres -m 700 "$pgdata"; else install -d -m 700 "$pgdata"; fi
  local auth=(--auth=trust --no-sync)
  if [ -n "$1" ]; then
    printf '%s\n' "$1" | pg_run sh -c "umask 077; cat > '$pgdata.pw'" 2>/dev/null || printf '%s\n' "$1" >"$pgdata.pw"
    [ "$(id -u)" = 0 ] && chown postgres "$pgdata.pw"
    chmod 600 "$pgdata.pw"
    auth=(--auth=scram-sha-256 --pwfile="$pgdata.pw")
  fi
  pg_run "$pgbin/initdb" -D "$pgdata" -U talloak -E UTF8 --locale=C.UTF-8 "${auth[@]}" >/dev/null || fail "could not make a database in $pgdata"
  rm -f "$pgdata.pw"
}

pg_try() { # PORT [more options]
  local port=$1
  shift
  pg_run "$pgbin/pg_ctl" -D "$pgdata" -l "$pgdata/server.log" -w -t 30 \
    -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' $*" start >/dev/null
}

pg_start() { pg_try "$@" || fail "PostgreSQL did not start; see $pgdata/server.log"; }

# pg_start_free PORT [more options] starts on that port or the next that is free, and sets port:
# another may take it in the same moment.
pg_start_free() {
  port=$1
  shift
  local tries=0
  until port_free "$port" && pg_try "$port" "$@" 2>/dev/null; do
    tries=$((tries + 1))
    [ "$tries" -lt 200 ] || fail "PostgreSQL did not start; see $pgdata/server.log"
    port=$((port + 1))
  done
}

pg_stop() { pg_run "$pgbin/pg_ctl" -D "$pgdata" -m fast -w stop >/dev/null 2>&1 || true; }

pg_running() { pg_run "$pgbin/pg_ctl" -D "$pgdata" status >/dev/null 2>&1; }

# pg_role PORT PASSWORD: the application's own role, which is no superuser, and a database
# that is its; one made before there was such a role becomes its too.
pg_role() {
  local sql=("$pgbin/psql" -h 127.0.0.1 -p "$1" -U talloak -v ON_ERROR_STOP=1 -Atq)
  "${sql[@]}" -d postgres -v password="$2" <<'SQL' >/dev/null || fail "could not make the application's database role"
SELECT 'CREATE ROLE talloak_app LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE' WHERE NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'talloak_app') \gexec
ALTER ROLE talloak_app PASSWORD :'password';
SELECT 'CREATE DATABASE talloak OWNER talloak_app' WHERE NOT EXISTS (SELECT 1 FROM pg_database WHERE datname = 'talloak') \gexec
ALTER DATABASE talloak OWNER TO talloak_app;
SQL
  "${sql[@]}" -d talloak <<'SQL' >/dev/null || fail "could not give the database to the application's role"
ALTER SCHEMA public OWNER TO talloak_app;
SELECT format('ALTER %s %s OWNER TO talloak_app', CASE relkind WHEN 'S' THEN 'SEQUENCE' ELSE 'TABLE' END, oid::regclass)
  FROM pg_class c WHERE relnamespace = 'public'::regnamespace AND relowner <> 'talloak_app'::regrole
  AND (relkind = 'r' OR relkind = 'S' AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('i', 'a'))) \gexec
SELECT format('ALTER FUNCTION %s OWNER TO talloak_app', oid::regprocedure) FROM pg_proc WHERE pronamespace = 'public'::regnamespace AND proowner <> 'talloak_app'::regrole \gexec
SQL
}
