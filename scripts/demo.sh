#!/usr/bin/env bash
# Starts everything with demo data: npm run demo [-- --reset]. Ctrl-C stops what it started.
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"

started_db=no
server=
finish() {
  trap - EXIT INT TERM
  [ -n "$server" ] && kill "$server" 2>/dev/null && wait "$server" 2>/dev/null || true
  [ "$started_db" = yes ] && bash "$ROOT/scripts/db.sh" stop || true
}
trap finish EXIT
trap 'say ""; say "Stopping …"; exit 0' INT TERM

say '1/5 Looking for what is missing …'
bash "$ROOT/scripts/setup.sh"
say '2/5 Compiling …'
ensure_node_build
say '3/5 Web application …'
ensure_web_build
say '4/5 Database …'
bash "$ROOT/scripts/db.sh" running || started_db=yes
bash "$ROOT/scripts/db.sh" start
if [ "${1:-}" = --reset ]; then
  say 'Starting the story again: the demo data is dropped.'
  bash "$ROOT/scripts/db.sh" drop vivid_cue_demo
  rm -f "$DATA/demo-link"
fi
DATABASE_URL="$(bash "$ROOT/scripts/db.sh" url vivid_cue_demo)"
export DATABASE_URL
node "$ROOT/demo/dist/story/main.js"

say '5/5 Server …'
secret="$DATA/session-secret"
[ -f "$secret" ] || (umask 077; head -c 32 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$secret")
SESSION_SECRET="$(cat "$secret")"
PORT="$(free_port "${PORT:-}" 4280 4299)"
DEMO_EMAIL='odalys@tern-island.example'
DEMO_PASSWORD='ferry at half past nine'
WEB_FOLDER="$ROOT/web/dist/browser"
export SESSION_SECRET PORT DEMO_EMAIL DEMO_PASSWORD WEB_FOLDER
(umask 077; touch "$DATA/server.log"); chmod 600 "$DATA/server.log"
node "$ROOT/server/dist/main.js" >>"$DATA/server.log" &
server=$!
await_server "http://127.0.0.1:$PORT/health" "$server" || stop "The server did not start; $DATA/server.log says why."

link="$(node "$ROOT/scripts/demo-link.mjs" "http://127.0.0.1:$PORT" "$DATA/demo-link" 2>/dev/null || echo 'made on a student’s page')"

cat <<TEXT

  Vivid Cue is at  http://127.0.0.1:$PORT
  Sign in as       $DEMO_EMAIL
  Password         $DEMO_PASSWORD
  A student's desk $link

  Ctrl-C stops it; "npm run demo -- --reset" starts the story again.
TEXT
wait "$server"
