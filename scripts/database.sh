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

free_port() { # the first free port from $1 on
  local p=$1
  while port_busy "$p"; do p=$((p + 1)); done
  echo "$p"
}

db_folder() { echo "$DATA/$1/pg"; }

# Running means: the process in the pid file is a postgres that names our folder. pg_ctl only asks for some process.
db_running() {
  local folder pid
  folder=$(db_folder "$1")
  [ -f "$folder/postmaster.pid" ] || return 1
  pid=$(head -1 "$folder/postmaster.pid")
  tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q -- "postgres.*$folder"
}

# Whether a folder holds a cluster in which something was ever made: databases of one's own have numbers from 16384 on.
db_holds_records() { # folder
  [ -f "$1/PG_VERSION" ] && [ -f "$1/global/pg_control" ] || return 1
  local base
  for base in "$1"/base/*; do
    case ${base##*/} in *[!0-9]*) continue ;; esac
    [ "${base##*/}" -ge 16384 ] && return 0
  done
  return 1
}

# Files belong to the account that runs the database, and to nobody else, whoever copied them here.
db_own() { # folder
  if [ "$(id -u)" = 0 ]; then
    local owner=root
    [ "$(database_way)" != account ] || owner=postgres
    find "$1" ! -user "$owner" -exec chown -h "$owner:$owner" {} +
  elif [ -n "$(find "$1" ! -user "$(id -un)" -print -quit)" ]; then
    fail "some files in $1 belong to another account; give them to $(id -un) (chown -R) and start again."
  fi
  find "$1" -type d ! -perm 700 -exec chmod 700 {} +
  find "$1" -type f -perm /077 -exec chmod go-rwx {} +
}

# A cluster is run by the PostgreSQL that made it.
db_use_version() { # folder
  local made
  made=$(cat "$1/PG_VERSION")
  [ -x "/usr/lib/postgresql/$made/bin/postgres" ] || fail "the database in $1 was made by PostgreSQL $made, which is not installed here. Install postgresql-$made, or restore a backup into an empty folder."
  PGBIN="/usr/lib/postgresql/$made/bin"
}

# Writes a fresh password into a cluster that does not run; the one that stood in the lost file is of no use any more.
db_new_password() { # name
  local folder
  folder=$(db_folder "$1")
  rm -f "$folder/postmaster.pid"
  (umask 077 && head -c 24 /dev/urandom | base64 | tr -d '/+=\n' >"$DATA/$1/secret")
  printf "alter role shop password '%s'\n" "$(cat "$DATA/$1/secret")" \
    | as_database_user "$PGBIN/postgres" --single -D "$folder" postgres >/dev/null 2>"$DATA/$1/password.log" \
    || { tail -3 "$DATA/$1/password.log" >&2; rm -f "$DATA/$1/secret"; fail "the database in $folder cannot be opened. Nothing was changed in it; its message stands above."; }
  rm -f "$DATA/$1/password.log"
}

db_init() { # name trust|password
  local name=$1 how=$2 folder aside
  folder=$(db_folder "$name")
  if [ -d "$folder" ] && ! [ -f "$DATA/$name/made" ] && ! db_holds_records "$folder" && [ -n "$(ls -A "$folder")" ]; then
    aside="$folder.half-built-$(date -u +%Y%m%dT%H%M%SZ)"
    mv "$folder" "$aside"
    say "A half-built database was left over. It was moved to $aside, and a new one is made."
  fi
  if [ -d "$folder" ] && [ -n "$(ls -A "$folder")" ]; then
    db_holds_records "$folder" || [ -f "$folder/PG_VERSION" ] || fail "$folder holds something that is no database. Move it away, or restore a backup."
    db_use_version "$folder"
    db_running "$name" && return 0
    db_own "$folder"
    [ "$how" = trust ] || [ -s "$DATA/$name/secret" ] || db_new_password "$name"
    [ -f "$DATA/$name/made" ] || date -u +%FT%TZ >"$DATA/$name/made"
    return 0
  fi
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
    [ "$(id -u)" != 0 ] || [ "$(database_way)" != account ] || chown postgres "$given"
    as_database_user "$PGBIN/initdb" -D "$folder" -U shop --auth=scram-sha-256 --pwfile="$given" -E UTF8 --locale=C.UTF-8 >/dev/null || { rm -f "$given"; fail "the database could not be made."; }
    rm -f "$given"
  fi
  date -u +%FT%TZ >"$DATA/$name/made"
}

db_launch() { # name port [settings...]; says nothing and stops nothing when it fails
  local name=$1 port=$2 folder
  shift 2
  folder=$(db_folder "$name")
  rm -f "$folder/postmaster.pid"
  as_database_user "$PGBIN/pg_ctl" -D "$folder" -w -t 60 -l "$folder/server.log" \
    -o "-c port=$port -c listen_addresses=127.0.0.1 -c unix_socket_directories= $*" start >/dev/null 2>&1 9>&-
}

db_start() { # name port [trust] [settings...]
  local name=$1 port=$2 how=${3:-password}
  shift 2; [ $# = 0 ] || shift
  mkdir -p "$DATA/$name"
  # Others may pass through to reach what is theirs, and see nothing.
  chmod 711 "$DATA" "$DATA/$name"
  db_init "$name" "$how"
  if db_running "$name"; then return 0; fi
  local tries
  for tries in 1 2 3 4 5 6 7 8; do
    port=$(free_port "$port")
    if db_launch "$name" "$port" "$@"; then echo "$port" >"$DATA/$name/port"; return 0; fi
    # A port on which nobody answers can be taken all the same: by a connection going out, or by a start beside this one.
    tail -5 "$(db_folder "$name")/server.log" | grep -q "Address already in use" || break
    port=$((port + 1))
  done
  tail -5 "$(db_folder "$name")/server.log" >&2 || true
  disk_full "$DATA" && fail "PostgreSQL did not start: the disk is full. Make room on it and start again."
  fail "PostgreSQL did not start; the end of $(db_folder "$name")/server.log stands above."
}

# A database that was killed is started again where it was; what its last processes still hold is waited for.
db_again() { # name
  local tries
  for tries in 1 2 3 4 5 6 7 8 9 10; do
    db_running "$1" && return 0
    db_launch "$1" "$(cat "$DATA/$1/port")" && return 0
    sleep 1
  done
  return 1
}

disk_free_mb() { df -Pm "$1" | awk 'NR==2 {print $4}'; }

disk_full() { [ "$(disk_free_mb "$1")" -lt 24 ]; }

db_stop() {
  if db_running "$1"; then as_database_user "$PGBIN/pg_ctl" -D "$(db_folder "$1")" -m fast -w stop >/dev/null || true; fi
}


db_password() { [ -f "$DATA/$1/secret" ] && cat "$DATA/$1/secret" || true; }

db_connection() { # name [database]
  echo "Host=127.0.0.1;Port=$(cat "$DATA/$1/port");Username=shop;Password=$(db_password "$1");Database=${2:-firstcoat}"
}

db_sql() { # name sql, on the maintenance database
  PGPASSWORD="$(db_password "$1")" PGOPTIONS="-c client_min_messages=warning" "$PGBIN/psql" -h 127.0.0.1 -p "$(cat "$DATA/$1/port")" -U shop -d postgres -qc "$2"
}

db_recreate() { # name [database]
  db_sql "$1" "drop database if exists ${2:-firstcoat} with (force)"
  db_sql "$1" "create database ${2:-firstcoat}"
}
