# The private PostgreSQL cluster of this checkout; a part of `run`.

free_port() {
  python3 -c 'import socket; s = socket.socket(); s.bind(("127.0.0.1", 0)); print(s.getsockname()[1])'
}
as_db_user() { if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi; }

# Where a cluster stands that may not stand in this checkout.
far_home() {
  echo "/var/tmp/jungoptic-$(printf '%s' "${JUNGOPTIC_STATE:-$ROOT}" | sha256sum | cut -c1-12)-$1"
}

export CLUSTER=${CLUSTER:-}
# Starts $CLUSTER at $CLUSTER_PORT with $CLUSTER_OPTIONS, and waits until it answers.
start_cluster() {
  as_db_user "$PGBIN/pg_ctl" -w -s -D "$CLUSTER/data" -l "$CLUSTER/log" \
    -o "-h 127.0.0.1 -p $CLUSTER_PORT -c unix_socket_directories='' $CLUSTER_OPTIONS" start >/dev/null 2>&1
}

# A private cluster of this checkout; $1 names it, the rest are options for the server.
ensure_database() {
  [ -n "${DATABASE_URL:-}" ] && return
  local name=$1; shift
  ls -d /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || need_packages postgresql
  PGBIN=$(dirname "$(ls -d /usr/lib/postgresql/*/bin/initdb | sort -V | tail -1)")
  local home=$STATE/$name
  mkdir -p "$home"
  if [ "$(id -u)" = 0 ]; then
    chown postgres: "$home"
    if ! as_db_user test -w "$home"; then
      # The database may not run as root, and its user cannot reach this checkout: it stands elsewhere.
      home=$(far_home "$name")
      mkdir -p "$home"; chown postgres: "$home"
    fi
  fi
  chmod 700 "$home"
  local kept
  for kept in password app-password; do
    [ ! -s "$home/$kept" ] || continue
    (umask 077; python3 -c 'import secrets; print(secrets.token_hex(16))' >"$home/$kept")
    if [ "$(id -u)" = 0 ]; then chown postgres: "$home/$kept"; fi
  done
  if [ ! -d "$home/data" ]; then
    say "making the database"
    rm -rf "$home/data.new"
    logged initdb "the database could not be made" as_db_user "$PGBIN/initdb" -D "$home/data.new" \
      -U jungoptic --auth=scram-sha-256 --pwfile="$home/password" -E UTF8 --locale=C.UTF-8
    mv "$home/data.new" "$home/data"
  fi
  CLUSTER=$home
  if as_db_user "$PGBIN/pg_ctl" -D "$home/data" status >/dev/null 2>&1; then
    say "a database of an earlier run is still up: stopping it"
    stop_database
  fi
  local tries
  export PGBIN CLUSTER_PORT CLUSTER_OPTIONS="$*"
  for tries in 1 2 3; do
    CLUSTER_PORT=$(free_port)
    if start_cluster; then
      name_database "$home" "$CLUSTER_PORT"
      return
    fi
  done
  as_db_user tail -5 "$home/log" >&2 || true
  die "the database did not start; its log is $home/log"
}

# What runs may do no more than its own databases need; the tests clone and fill them as the owner.
name_database() {
  local home=$1 at=@127.0.0.1:$2/jungoptic
  OWNER_DATABASE_URL="postgresql://jungoptic:$(cat "$home/password")$at"
  DATABASE_URL="postgresql://jungoptic_app:$(cat "$home/app-password")$at"
  case "$home" in *test-database) DATABASE_URL=$OWNER_DATABASE_URL ;; esac
  export DATABASE_URL
}

# The database of what runs, where something does; $1 names its cluster.
find_database() {
  local home port
  [ -n "${DATABASE_URL:-}" ] && return
  for home in "$STATE/$1" "$(far_home "$1")"; do
    port=$(sed -n 4p "$home/data/postmaster.pid" 2>/dev/null) || continue
    name_database "$home" "$port"
  done
}

stop_database() {
  [ -z "$CLUSTER" ] || as_db_user "$PGBIN/pg_ctl" -s -m fast -D "$CLUSTER/data" stop >/dev/null 2>&1 || true
}
