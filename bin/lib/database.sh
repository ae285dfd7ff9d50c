# A private PostgreSQL cluster on loopback: made when missing, started, stopped. Never as root. Sourced by bin/*. Needs $root, $data, machine.sh.

# Sets pg_bin, pg_as (how to become the cluster's user) and pg_data.
database_place() {
  pg_bin=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1 || true)
  if [ -z "$pg_bin" ]; then
    if command -v initdb >/dev/null; then pg_bin=$(dirname "$(command -v initdb)")
    else need_package /usr/lib/postgresql/bin/initdb postgresql; pg_bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1); fi
  fi
  pg_as=()
  pg_data="$data/postgres"
  if [ "$(id -u)" -eq 0 ]; then
    id postgres >/dev/null 2>&1 || die "The user “postgres” is missing: apt-get install postgresql."
    pg_as=(runuser -u postgres --)
    mkdir -p "$pg_data"
    chown postgres: "$pg_data"
    if ! "${pg_as[@]}" test -x "$pg_data"; then
      rmdir "$pg_data" 2>/dev/null || true
      pg_data="/var/lib/wily-scissor/$(printf '%s' "$data" | sha256sum | cut -c 1-12)/postgres"
      mkdir -p "$pg_data"
      chmod 755 /var/lib/wily-scissor "$(dirname "$pg_data")"
      say "The database's user cannot enter $data; its data is in $pg_data."
    fi
    chown postgres: "$pg_data"
  else
    mkdir -p "$pg_data"
  fi
  chmod 700 "$pg_data"
}

# The process that runs this very cluster, or nothing: a lock file left by a crash may name a stranger's process.
database_process() {
  local pid
  pid=$(head -n 1 "$pg_data/postmaster.pid" 2>/dev/null) || return 0
  if [ -n "$pid" ] && { tr '\0' ' ' < "/proc/$pid/cmdline"; } 2>/dev/null | grep -qF -- "$pg_data"; then echo "$pid"; fi
}

# Starts the cluster and sets DATABASE_URL.
database_start() {
  database_place
  local secret="$data/postgres.password" log
  log="$(dirname "$pg_data")/postgres.log"
  if [ ! -f "$pg_data/PG_VERSION" ]; then
    say "Making the database ..."
    (umask 077; head -c 24 /dev/urandom | base64 | tr -d '/+=\n' > "$secret")
    local handed; handed=$(mktemp) # initdb reads the password as the cluster's user, who may not read ours
    cat "$secret" > "$handed"
    [ "$(id -u)" -ne 0 ] || chown postgres: "$handed"
    "${pg_as[@]}" "$pg_bin/initdb" -D "$pg_data" -U wily -A scram-sha-256 --pwfile="$handed" -E UTF8 --locale=C.UTF-8 >/dev/null || { rm -f "$handed"; die "The database could not be made in $pg_data."; }
    rm -f "$handed"
  fi
  local pid
  pid=$(database_process)
  if [ -n "$pid" ]; then pg_port=$(sed -n 4p "$pg_data/postmaster.pid")
  else
    rm -f "$pg_data/postmaster.pid"
    pg_port=$(cat "$data/postgres.port" 2>/dev/null || true)
    if [ -z "$pg_port" ] || ! port_is_free "$pg_port"; then pg_port=$(free_port); echo "$pg_port" > "$data/postgres.port"; fi
    touch "$log"; [ "$(id -u)" -ne 0 ] || chown postgres: "$log"
    "${pg_as[@]}" "$pg_bin/pg_ctl" start -s -w -t 60 -D "$pg_data" -l "$log" \
      -o "-p $pg_port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" < /dev/null || die "The database did not start; its log is $log."
  fi
  export DATABASE_URL="postgres://wily:$(cat "$secret")@127.0.0.1:$pg_port/postgres"
}

port_is_free() { node -e 'const s = require("net").createServer().on("error", () => process.exit(1)).listen(Number(process.argv[1]), "127.0.0.1", () => s.close())' "$1"; }

database_stop() {
  [ -n "${pg_data:-}" ] && [ -n "$(database_process)" ] || return 0
  "${pg_as[@]}" "$pg_bin/pg_ctl" stop -s -m fast -D "$pg_data" < /dev/null || true
}
