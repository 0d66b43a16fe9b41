#!/usr/bin/env bash
# Measures what docs/architecture.md promises, as ratios: npm run bench. Nothing here passes or fails.
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
bash "$ROOT/scripts/setup.sh"
ensure_node_build
started_db=no
bash "$ROOT/scripts/db.sh" running || started_db=yes
trap '[ "$started_db" = yes ] && bash "$ROOT/scripts/db.sh" stop' EXIT
bash "$ROOT/scripts/db.sh" start
bash "$ROOT/scripts/db.sh" drop vivid_cue_bench
DATABASE_URL="$(bash "$ROOT/scripts/db.sh" url vivid_cue_bench)" node "$ROOT/scripts/bench/main.mjs" "$@"
bash "$ROOT/scripts/db.sh" drop vivid_cue_bench
