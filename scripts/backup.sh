#!/usr/bin/env bash
# All studios in one file: npm run backup -- [FILE]. The file is for its owner alone; keep it where the server is not.
# Of our own database, or of the one that DATABASE_URL names.
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
umask 077
name="${VIVID_CUE_DATABASE:-vivid_cue_demo}"
file="${1:-$DATA/backups/$name-$(date -u +%Y%m%dT%H%M%SZ).sql.gz}"
bash "$ROOT/scripts/setup.sh" backup
mkdir -p "$(dirname "$file")"

DATABASE_URL="${DATABASE_URL:-$(bash "$ROOT/scripts/db.sh" url "$name")}"
export DATABASE_URL
node "$ROOT/scripts/dump-words.mjs" dump >"$DATA/.dump-words"
trap 'rm -f "$DATA/.dump-words"' EXIT
# One picture of one moment; sessions are nobody's but the moment's.
mariadb-dump --defaults-extra-file="$DATA/.dump-words" --single-transaction --quick --hex-blob --no-tablespaces \
  --ignore-table-data="$(node "$ROOT/scripts/dump-words.mjs" name).sessions" "$(node "$ROOT/scripts/dump-words.mjs" name)" | gzip >"$file.part" ||
  stop 'The backup could not be written; nothing was kept of it.'
mv "$file.part" "$file"
say "Kept in $file"
node "$ROOT/scripts/readiness-mark.mjs" | tee "$file.mark" >&2
