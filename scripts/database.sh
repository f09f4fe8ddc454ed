# Own PostgreSQL clusters under the data folder, on loopback. Sourced by ./firstcoat.

find_postgres() {
  [ -n "$PGBIN" ] && return 0
  local dir
  for dir in $(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -Vr); do
    if [ -x "$dir/initdb" ]; then PGBIN=$dir; return 0; fi
  done
  return 1
}

sudo_if_needed() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }

# Packages of Debian that a call names as "program package".
need_packages() {
  command -v dotnet >/dev/null || fail "the .NET 10 SDK is missing; install it and run this again."
  command -v node >/dev/null || fail "Node 20 or newer is missing; install it and run this again."
  local missing=()
  find_postgres || missing+=(postgresql)
  [ -x /usr/bin/chromium ] || missing+=(chromium)
  command -v curl >/dev/null || missing+=(curl)
  local pair
  for pair in "$@"; do command -v "${pair% *}" >/dev/null || missing+=("${pair#* }"); done
  [ ${#missing[@]} = 0 ] && return 0
  command -v apt-get >/dev/null || fail "please install: ${missing[*]} (this script knows Debian's packages only)."
  say "Installing ${missing[*]} from Debian..."
  # No cluster of Debian's own is made or started.
  sudo_if_needed mkdir -p /etc/postgresql-common/createcluster.d
  echo 'create_main_cluster = false' | sudo_if_needed tee /etc/postgresql-common/createcluster.d/firstcoat.conf >/dev/null
  sudo_if_needed apt-get update -qq
  sudo_if_needed env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
  find_postgres || fail "PostgreSQL was installed but its programs were not found under /usr/lib/postgresql."
}

# PostgreSQL refuses to run as root: use Debian's account for it, or a user namespace where that account cannot enter.
as_database_user() {
  if [ "$(id -u)" != 0 ]; then "$@"; return; fi
  if [ "$(database_way)" = account ]; then
    (cd / && exec setpriv --reuid=postgres --regid=postgres --init-groups env HOME=/ "$@")
  else
    (cd / && exec unshare --user --map-user=1000 --map-group=1000 env HOME=/ "$@")
  fi
}

database_way() {
  local parent=$DATA
  mkdir -p "$DATA"
  if id postgres >/dev/null 2>&1 && (cd / && setpriv --reuid=postgres --regid=postgres --init-groups test -x "$parent"); then echo account; else echo namespace; fi
}

port_busy() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

db_folder() { echo "$DATA/$1/pg"; }

# Running means: the process in the pid file is a postgres that names our folder. pg_ctl only asks for some process.
db_running() {
  local folder pid
  folder=$(db_folder "$1")
  [ -f "$folder/postmaster.pid" ] || return 1
  pid=$(head -1 "$folder/postmaster.pid")
  tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q -- "postgres.*$folder"
}

db_init() { # name trust|password
  local name=$1 how=$2 folder
  folder=$(db_folder "$name")
  if [ -d "$folder" ] && [ ! -f "$DATA/$name/made" ]; then say "A half-built database was left over; making it again."; rm -rf "$folder"; fi
  [ -d "$folder" ] && return 0
  mkdir -p "$folder"
  [ "$(id -u)" != 0 ] || [ "$(database_way)" != account ] || chown postgres:postgres "$folder"
  chmod 700 "$folder"
  if [ "$how" = trust ]; then
    as_database_user "$PGBIN/initdb" -D "$folder" -U shop --auth=trust -E UTF8 --locale=C.UTF-8 --no-sync >/dev/null
  else
    local secret="$DATA/$name/secret" given
    (umask 077 && head -c 24 /dev/urandom | base64 | tr -d '/+=\n' >"$secret")
    given=$(mktemp)
    cp "$secret" "$given"
    chmod 644 "$given"
    as_database_user "$PGBIN/initdb" -D "$folder" -U shop --auth=scram-sha-256 --pwfile="$given" -E UTF8 --locale=C.UTF-8 >/dev/null
    rm -f "$given"
  fi
  date -u +%FT%TZ >"$DATA/$name/made"
}

db_start() { # name port [trust] [settings...]
  local name=$1 port=$2 how=${3:-password} folder log
  shift 2; [ $# = 0 ] || shift
  folder=$(db_folder "$name")
  mkdir -p "$DATA/$name"
  chmod 755 "$DATA" "$DATA/$name"
  db_init "$name" "$how"
  if db_running "$name"; then return 0; fi
  rm -f "$folder/postmaster.pid"
  port=$(free_port "$port")
  log="$folder/server.log"
  if ! as_database_user "$PGBIN/pg_ctl" -D "$folder" -w -t 60 -l "$log" \
    -o "-c port=$port -c listen_addresses=127.0.0.1 -c unix_socket_directories= $*" start >/dev/null; then
    tail -5 "$log" >&2 || true
    fail "PostgreSQL did not start; the end of $log stands above."
  fi
  echo "$port" >"$DATA/$name/port"
}

db_stop() {
  if db_running "$1"; then as_database_user "$PGBIN/pg_ctl" -D "$(db_folder "$1")" -m fast -w stop >/dev/null || true; fi
}

db_remove() {
  find_postgres && db_stop "$1"
  rm -rf "$(db_folder "$1")" "$DATA/$1/made"
}

db_password() { [ -f "$DATA/$1/secret" ] && cat "$DATA/$1/secret" || true; }

db_connection() { # name
  echo "Host=127.0.0.1;Port=$(cat "$DATA/$1/port");Username=shop;Password=$(db_password "$1");Database=firstcoat"
}

db_sql() { # name sql, on the maintenance database
  PGPASSWORD="$(db_password "$1")" "$PGBIN/psql" -h 127.0.0.1 -p "$(cat "$DATA/$1/port")" -U shop -d postgres -qc "$2"
}

db_recreate() {
  db_sql "$1" "drop database if exists firstcoat with (force)"
  db_sql "$1" "create database firstcoat"
}
