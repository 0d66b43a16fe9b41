#!/usr/bin/env bash
# Installs what is missing on a Debian machine with Node.js and npm: the npm packages, MariaDB's server program, and what
# only the tests need when asked ("setup.sh tests"): Chromium, and FluidSynth with a sound font.
set -euo pipefail
source "$(dirname "${BASH_SOURCE[0]}")/lib.sh"

missing=()
command -v mariadbd >/dev/null || [ -x /usr/sbin/mariadbd ] || missing+=(mariadb-server-core)
command -v mariadb >/dev/null || missing+=(mariadb-client-core)
if [ "${1:-}" = backup ]; then command -v mariadb-dump >/dev/null || missing+=(mariadb-client); fi
if [ "${1:-}" = tests ]; then
  command -v chromium >/dev/null || missing+=(chromium)
  # The same browser without a window: tests are a good deal quicker in it.
  command -v chromium-headless-shell >/dev/null || missing+=(chromium-headless-shell)
  # Instruments that are not ours, for takes.
  command -v fluidsynth >/dev/null || missing+=(fluidsynth)
  [ -f /usr/share/sounds/sf2/TimGM6mb.sf2 ] || missing+=(timgm6mb-soundfont)
fi

if [ "${#missing[@]}" -gt 0 ]; then
  command -v apt-get >/dev/null || stop "Missing: ${missing[*]}. This is no Debian machine; install them and start again."
  as_root=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null && sudo -n true 2>/dev/null && as_root=(sudo -n) ||
      stop "Missing: ${missing[*]}. Run this line, then start again: sudo apt-get install -y --no-install-recommends ${missing[*]}"
  fi
  say "Installing ${missing[*]} …"
  mkdir -p "$DATA"
  # Only the programs are installed, never the service, so no system-wide database starts. The npm packages come meanwhile.
  { "${as_root[@]}" apt-get update -qq && "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >"$DATA/apt.log" 2>&1 &
  installing=$!
fi
ensure_packages
if [ "${#missing[@]}" -gt 0 ]; then
  wait "$installing" || stop "apt-get could not install ${missing[*]}; $DATA/apt.log says why."
fi
