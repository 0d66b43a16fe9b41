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
  if [ ! -f "$made" ] || [ -n "$(find "$ROOT/web/src" "$ROOT/web/angular.json" "$ROOT/core/src" "$ROOT/contract/src" -newer "$made" -type f -print -quit)" ]; then
    say 'Building the web application (about a minute) …'
    (cd "$ROOT/web" && NG_CLI_ANALYTICS=false ../node_modules/.bin/ng build >&2) || stop 'The web build failed; the lines above say where.'
  fi
}
