#!/usr/bin/env bash
# The command line; builds itself when it has to. Only the command's own output goes to standard output.
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
main="$ROOT/cli/dist/main.js"
if [ ! -f "$main" ] || [ -n "$(find "$ROOT/core/src" "$ROOT/cli/src" -newer "$main" -type f -print -quit)" ]; then
  ensure_packages
  (cd "$ROOT" && ./node_modules/.bin/tsc -b cli >&2) || stop 'The build failed; the lines above say where.'
  touch "$main"
fi
exec node "$main" "$@"
