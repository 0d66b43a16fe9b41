#!/usr/bin/env bash
# Our own MariaDB on 127.0.0.1, with its data, socket and port under .data/; a system-wide one is never touched.
# db.sh start | stop | running | url NAME | drop NAME | reset
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"

HOME_DIR="$DATA/mariadb"
FILES="$HOME_DIR/files"
PID_FILE="$HOME_DIR/server.pid"
PORT_FILE="$HOME_DIR/port"
LOG="$HOME_DIR/server.log"
# A socket's path has at most 107 characters; deep folders need a short one elsewhere.
SOCKET="$HOME_DIR/server.sock"
if [ "${#SOCKET}" -gt 100 ]; then SOCKET="/tmp/vivid-cue-$(printf '%s' "$DATA" | cksum | cut -d' ' -f1).sock"; fi

mariadbd_bin() { command -v mariadbd || { [ -x /usr/sbin/mariadbd ] && printf /usr/sbin/mariadbd; } || true; }
client() { mariadb --no-defaults --protocol=socket --socket="$SOCKET" --user=root "$@"; }
running() { [ -f "$PID_FILE" ] && kill -0 "$(cat "$PID_FILE")" 2>/dev/null && client -e 'SELECT 1' >/dev/null 2>&1; }

run_as() { if [ "$(id -u)" = 0 ]; then printf -- '--user=root'; fi; }

initialise() {
  if [ -d "$FILES" ] && [ ! -f "$HOME_DIR/initialised" ]; then
    local aside="$FILES.broken-$(date +%s)"
    say "The data folder was left half made; it is kept as $(basename "$aside") and made again."
    mv "$FILES" "$aside"
  fi
  [ -f "$HOME_DIR/initialised" ] && [ -d "$FILES/mysql" ] && return 0
  mkdir -p "$FILES"
  say 'Making the database folder …'
  # shellcheck disable=SC2046
  mariadb-install-db --no-defaults $(run_as) --auth-root-authentication-method=normal --skip-test-db --datadir="$FILES" >"$HOME_DIR/install.log" 2>&1 ||
    stop "MariaDB could not make its data folder; $HOME_DIR/install.log says why."
  touch "$HOME_DIR/initialised"
}

start() {
  running && return 0
  local bin; bin="$(mariadbd_bin)"
  [ -n "$bin" ] || stop 'MariaDB is not installed; run: sudo apt-get install --no-install-recommends mariadb-server-core mariadb-client-core'
  mkdir -p "$HOME_DIR"
  initialise
  local port; port="$(free_port "${VIVID_CUE_DB_PORT:-}" 43306 43356)"
  printf '%s' "$port" >"$PORT_FILE"
  # shellcheck disable=SC2046
  nohup "$bin" --no-defaults $(run_as) --datadir="$FILES" --bind-address=127.0.0.1 --port="$port" --socket="$SOCKET" \
    --pid-file="$PID_FILE" --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_ci \
    --innodb-flush-log-at-trx-commit=1 --max-connections=100 --innodb-buffer-pool-size=256M --skip-name-resolve >"$LOG" 2>&1 </dev/null &
  local tries=0
  until running; do
    tries=$((tries + 1))
    [ "$tries" -gt 150 ] && stop "MariaDB did not start; $LOG says why (\"db.sh reset\" begins with an empty folder)."
    sleep 0.2
  done
}

# A database and a user of its own with a password that only this folder knows.
url() {
  local name="$1"
  start
  [ -f "$HOME_DIR/password" ] || (umask 077; head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$HOME_DIR/password")
  local password; password="$(cat "$HOME_DIR/password")"
  client -e "CREATE DATABASE IF NOT EXISTS \`$name\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
    CREATE USER IF NOT EXISTS 'vivid_cue'@'127.0.0.1' IDENTIFIED BY '$password';
    ALTER USER 'vivid_cue'@'127.0.0.1' IDENTIFIED BY '$password';
    GRANT ALL ON \`vivid\\_cue%\`.* TO 'vivid_cue'@'127.0.0.1';" >&2
  printf 'mysql://vivid_cue:%s@127.0.0.1:%s/%s' "$password" "$(cat "$PORT_FILE")" "$name"
}

stop_server() {
  [ -f "$PID_FILE" ] || return 0
  local pid; pid="$(cat "$PID_FILE")"
  kill "$pid" 2>/dev/null || return 0
  local tries=0
  while kill -0 "$pid" 2>/dev/null; do tries=$((tries + 1)); [ "$tries" -gt 150 ] && stop "MariaDB (process $pid) does not stop."; sleep 0.2; done
}

case "${1:-}" in
  start) start ;;
  stop) stop_server ;;
  running) running ;;
  url) url "${2:?name of the database}" ;;
  drop) start; client -e "DROP DATABASE IF EXISTS \`${2:?name of the database}\`" ;;
  reset) stop_server; rm -rf "$HOME_DIR" ;;
  *) stop 'db.sh start | stop | running | url NAME | drop NAME | reset' ;;
esac
