#!/usr/bin/env bash
# Takes the pictures of docs/screenshots from a demo that is running: npm run screenshots [ADDRESS]
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"
cd "$ROOT" && node scripts/screenshots.mjs "${1:-http://127.0.0.1:4280}"
