#!/usr/bin/env bash
# Our own MariaDB on 127.0.0.1, with its data, socket and port under .data/; a system-wide one is never touched.
# db.sh start | stop | running | url NAME | drop NAME | reset
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"

# What is made here is for this user alone.
umask 077
HOME_DIR="$DATA/mariadb"
FILES="$HOME_DIR/files"
EXCHANGE="$HOME_DIR/exchange"
PID_FILE="$HOME_DIR/server.pid"
PORT_FILE="$HOME_DIR/port"
LOG="$HOME_DIR/server.log"
# A socket's path has at most 107 characters; deep folders need a short one elsewhere, in a folder of our own.
SOCKET_DIR="$HOME_DIR"
if [ "${#HOME_DIR}" -gt 85 ]; then SOCKET_DIR="/tmp/vivid-cue-$(printf '%s' "$DATA" | cksum | cut -d' ' -f1)"; fi
SOCKET="$SOCKET_DIR/server.sock"

mariadbd_bin() { command -v mariadbd || { [ -x /usr/sbin/mariadbd ] && printf /usr/sbin/mariadbd; } || true; }
# The administrator has no password: the database asks the system who stands at its socket.
client() { mariadb --no-defaults --protocol=socket --socket="$SOCKET" --user="$(id -un)" "$@"; }
# A process is ours when it serves our folder: a number in a stale file may be anybody's by now.
is_ours() { [ -r "/proc/$1/cmdline" ] && tr '\0' '\n' <"/proc/$1/cmdline" | grep -qxF -- "--datadir=$FILES"; }
running() { [ -f "$PID_FILE" ] && is_ours "$(cat "$PID_FILE")" && client -e 'SELECT 1' >/dev/null 2>&1; }

# The user that serves: never root where another one can reach the folder.
SERVE_AS="$(id -un)"
choose_user() {
  [ "$(id -u)" = 0 ] || return 0
  local user
  for user in mysql nobody; do
    id "$user" >/dev/null 2>&1 || continue
    command -v setpriv >/dev/null || continue
    setpriv --reuid="$user" --regid="$(id -gn "$user")" --clear-groups test -x "$DATA/.." 2>/dev/null || continue
    SERVE_AS="$user"
    return 0
  done
}
run_as() { if [ "$(id -u)" = 0 ]; then printf -- '--user=%s' "$SERVE_AS"; fi; }

make_folders() {
  mkdir -p "$DATA" "$HOME_DIR" "$FILES" "$EXCHANGE"
  if [ "$SOCKET_DIR" != "$HOME_DIR" ]; then
    mkdir -p "$SOCKET_DIR"
    [ -O "$SOCKET_DIR" ] || [ "$SERVE_AS" != "$(id -un)" ] || stop "$SOCKET_DIR belongs to somebody else; move this folder to a shorter path."
    chmod 700 "$SOCKET_DIR"
  fi
  # Another user has to pass through; nobody can list what is there.
  if [ "$SERVE_AS" = "$(id -un)" ]; then chmod 700 "$DATA"; else chmod 711 "$DATA"; chown -R "$SERVE_AS" "$HOME_DIR" "$SOCKET_DIR"; fi
  chmod 700 "$HOME_DIR" "$FILES" "$EXCHANGE"
}

initialise() {
  if [ -d "$FILES" ] && [ -n "$(ls -A "$FILES")" ] && [ ! -f "$HOME_DIR/initialised" ]; then
    local aside="$FILES.broken-$(date +%s)"
    say "The data folder was left half made; it is kept as $(basename "$aside") and made again."
    mv "$FILES" "$aside"
  fi
  make_folders
  [ -f "$HOME_DIR/initialised" ] && [ -d "$FILES/mysql" ] && return 0
  say 'Making the database folder …'
  # shellcheck disable=SC2046
  mariadb-install-db --no-defaults $(run_as) --auth-root-authentication-method=socket --auth-root-socket-user="$(id -un)" --skip-test-db --datadir="$FILES" >"$HOME_DIR/install.log" 2>&1 ||
    stop "MariaDB could not make its data folder; $HOME_DIR/install.log says why."
  touch "$HOME_DIR/initialised"
}

# Folders of earlier versions had an administrator without any proof of who it is.
close_old_door() {
  local me admin; me="$(id -un)"
  for admin in "$me" root; do
    mariadb --no-defaults --protocol=socket --socket="$SOCKET" --user="$admin" -N -e "
      SELECT COUNT(*) FROM mysql.user WHERE User IN ('root', '') AND NOT (User = '$me' AND Host = 'localhost' AND plugin = 'unix_socket')" 2>/dev/null | grep -qx 0 && return 0
    mariadb --no-defaults --protocol=socket --socket="$SOCKET" --user="$admin" -e "
      CREATE USER IF NOT EXISTS '$me'@'localhost' IDENTIFIED VIA unix_socket;
      ALTER USER '$me'@'localhost' IDENTIFIED VIA unix_socket;
      GRANT ALL ON *.* TO '$me'@'localhost' WITH GRANT OPTION;
      DELETE FROM mysql.global_priv WHERE User IN ('root', '') AND NOT (User = '$me' AND Host = 'localhost');
      FLUSH PRIVILEGES;" >/dev/null 2>&1 && return 0
  done
  return 0
}

answers() { [ -f "$PID_FILE" ] && is_ours "$(cat "$PID_FILE")" && [ -S "$SOCKET" ]; }

start() {
  running && return 0
  local bin; bin="$(mariadbd_bin)"
  [ -n "$bin" ] || stop 'MariaDB is not installed; run: sudo apt-get install --no-install-recommends mariadb-server-core mariadb-client-core'
  mkdir -p "$DATA"
  choose_user
  initialise
  local port; port="$(free_port "${VIVID_CUE_DB_PORT:-}" 43306 43356)"
  printf '%s' "$port" >"$PORT_FILE"
  rm -f "$SOCKET"
  # A score of 10 MB goes over the wire as twice as many digits.
  # shellcheck disable=SC2046
  nohup "$bin" --no-defaults $(run_as) --datadir="$FILES" --bind-address=127.0.0.1 --port="$port" --socket="$SOCKET" \
    --pid-file="$PID_FILE" --character-set-server=utf8mb4 --collation-server=utf8mb4_unicode_ci \
    --secure-file-priv="$EXCHANGE" --local-infile=0 --symbolic-links=0 --max-allowed-packet=64M \
    --innodb-flush-log-at-trx-commit=1 --max-connections=100 --innodb-buffer-pool-size=256M --skip-name-resolve >"$LOG" 2>&1 </dev/null &
  local tries=0
  until answers && close_old_door && running; do
    tries=$((tries + 1))
    [ "$tries" -gt 150 ] && stop "MariaDB did not start; $LOG says why (\"db.sh reset\" begins with an empty folder)."
    sleep 0.2
  done
}

# A database and a user of its own with a password that only this folder knows.
url() {
  local name="$1"
  start
  [ -f "$HOME_DIR/password" ] || head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$HOME_DIR/password"
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
  if ! is_ours "$pid"; then
    say 'The database is not running; its number was left from another time.'
    rm -f "$PID_FILE"
    return 0
  fi
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
