# Shared by the scripts: where things are, how to say something, how to install what is missing.
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
DATA="${VIVID_CUE_DATA:-$ROOT/.data}"

say() { printf '%s\n' "$*" >&2; }
stop() { printf 'vivid-cue: %s\n' "$*" >&2; exit 1; }

# Packages are there when the lockfile has not changed since they were laid out.
ensure_packages() {
  local stamp="$ROOT/node_modules/.vivid-cue-lock"
  if [ ! -d "$ROOT/node_modules" ] || ! cmp -s "$ROOT/package-lock.json" "$stamp"; then
    say 'Installing packages (npm ci) …'
    (cd "$ROOT" && npm ci --no-audit --no-fund --loglevel=error >&2) || stop 'npm ci failed; check the connection to the package registry and try again.'
    cp "$ROOT/package-lock.json" "$stamp"
  fi
}

# Compiles core, contract, server, command line and demo; quick when nothing changed.
ensure_node_build() {
  (cd "$ROOT" && ./node_modules/.bin/tsc -b tsconfig.build.json >&2) || stop 'The TypeScript build failed; the lines above say where.'
}

# The web build is redone when a source is newer than it.
ensure_web_build() {
  local made="$ROOT/web/dist/browser/index.html"
  if [ ! -f "$made" ] || [ -n "$(find "$ROOT/web/src" "$ROOT/web/public" "$ROOT/angular.json" "$ROOT/core/src" "$ROOT/contract/src" -newer "$made" -type f -print -quit)" ]; then
    say 'Building the web application (about a minute) …'
    (cd "$ROOT" && NG_CLI_ANALYTICS=false npm run -s build:web >&2) || stop 'The web build failed; the lines above say where.'
  fi
}

# free_port WANTED FIRST LAST: the wanted port, or the first free one; a wanted one in use is an error.
free_port() {
  local wanted="$1" port
  if [ -n "$wanted" ]; then
    if port_in_use "$wanted"; then stop "Port $wanted is in use; choose another one."; fi
    printf '%s' "$wanted"
    return
  fi
  for port in $(seq "$2" "$3"); do
    if ! port_in_use "$port"; then printf '%s' "$port"; return; fi
  done
  stop "No free port between $2 and $3; choose one with PORT=…"
}

port_in_use() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# await_server URL PID: waits until the server answers, or its process is gone.
await_server() {
  local tries=0
  until node -e "fetch('$1').then((answer) => process.exit(answer.ok ? 0 : 1), () => process.exit(1))"; do
    tries=$((tries + 1))
    kill -0 "$2" 2>/dev/null || return 1
    [ "$tries" -gt 60 ] && return 1
    sleep 0.3
  done
}
