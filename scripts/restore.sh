#!/usr/bin/env bash
# Brings a backup into an empty database: npm run restore -- FILE. What is there already is not touched; every number of
# readiness is compared with those of the time of the backup.
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
umask 077
file="${1:?npm run restore -- FILE}"
[ -f "$file" ] || stop "There is no file $file."
name="${VIVID_CUE_DATABASE:-vivid_cue_demo}"
ensure_node_build
DATABASE_URL="${DATABASE_URL:-$(bash "$ROOT/scripts/db.sh" url "$name")}"
export DATABASE_URL
[ "$(node "$ROOT/scripts/dump-words.mjs" tables)" = 0 ] || stop 'The database is not empty; nothing was changed. Name an empty one: VIVID_CUE_DATABASE=vivid_cue_again npm run restore -- FILE'
node "$ROOT/scripts/dump-words.mjs" dump >"$DATA/.dump-words"
trap 'rm -f "$DATA/.dump-words"' EXIT
gzip -dc "$file" | mariadb --defaults-extra-file="$DATA/.dump-words" "$(node "$ROOT/scripts/dump-words.mjs" name)" ||
  stop 'The backup could not be read into the database.'
node "$ROOT/scripts/readiness-mark.mjs" >"$DATA/.restored-mark"
if [ -f "$file.mark" ]; then
  cmp -s "$file.mark" "$DATA/.restored-mark" || stop 'Restored, but the numbers differ from those of the backup; do not use it before you know why.'
  say 'Restored; every number is what it was.'
else
  say 'Restored; the backup has no mark to compare with.'
fi
cat "$DATA/.restored-mark" >&2
