#!/usr/bin/env bash
# All tests, or one suite: test.sh [core|server|web|faults|e2e]. Ends with one plain line "N passed, N failed".
set -uo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
only="${1:-all}"
counts="$DATA/test-counts"
mkdir -p "$counts" && rm -f "$counts"/*.json
started_db=no
trap '[ "$started_db" = yes ] && bash "$ROOT/scripts/db.sh" stop' EXIT

wants() { [ "$only" = all ] || [ "$only" = "$1" ]; }
count() { printf '{"passed":%s,"failed":%s}' "$2" "$3" >"$counts/$1.json"; }
# A check without counts of its own is one test: it passes or it fails.
check() {
  local name="$1"; shift
  say ""; say "== $name"
  if "$@"; then count "$name" 1 0; else count "$name" 0 1; fi
}
# A suite writes its own counts; if it dies before that, it counts as one failure.
suite() {
  local name="$1"; shift
  say ""; say "== $name"
  VIVID_CUE_COUNTS="$counts/$name.json" "$@" || true
  [ -s "$counts/$name.json" ] || count "$name" 0 1
}
database() {
  bash "$ROOT/scripts/db.sh" running || started_db=yes
  bash "$ROOT/scripts/db.sh" start || stop 'The tests need their database.'
  bash "$ROOT/scripts/db.sh" drop "$1"
  DATABASE_URL="$(bash "$ROOT/scripts/db.sh" url "$1")" || stop 'The tests need their database.'
  export DATABASE_URL
}

cd "$ROOT" || exit 1
# What everything else stands on: without it the run ends here, as one failure.
need() { ("$@") || { count build 0 1; node scripts/sum-counts.mjs "$counts"; exit 1; }; }
need bash scripts/setup.sh tests
# The compiler keeps one processor: the form of the sources is looked through beside it.
form=''
if [ "$only" = all ]; then npm run -s lint:form >"$DATA/test-form.log" 2>&1 & form=$!; fi
need ensure_node_build
jasmine() { node_modules/.bin/jasmine --config="$1"; }
looked_through() { wait "$form" || { cat "$DATA/test-form.log"; return 1; }; }
if [ -n "$form" ]; then check form looked_through; fi

core_suites() { suite core jasmine core/jasmine.json; suite contract jasmine contract/jasmine.json; suite cli jasmine cli/jasmine.json; }
rules() { check lint npm run -s lint:code; check dependency-rules npm run -s depcruise; }
# What needs neither database nor browser runs beside what waits for them; last of it the application for the end-to-end
# tests is built, while servers and databases are killed, which is mostly waiting.
beside=''
log="$DATA/test-beside.log"
if [ "$only" = all ]; then { core_suites; rules; (ensure_web_build); } >"$log" 2>&1 & beside=$!
elif wants core; then core_suites; fi
if wants server; then database vivid_cue_test; suite server jasmine server/jasmine.json; suite demo jasmine demo/jasmine.json; fi
if wants web; then suite web env NG_CLI_ANALYTICS=false node_modules/.bin/ng test --no-watch --no-progress; fi
if wants faults; then suite faults node scripts/faults.mjs; fi
if [ -n "$beside" ]; then wait "$beside"; cat "$log"; fi
if wants e2e; then
  need ensure_web_build
  database vivid_cue_e2e
  suite e2e node_modules/.bin/playwright test --config e2e/playwright.config.ts
fi

node scripts/sum-counts.mjs "$counts"
