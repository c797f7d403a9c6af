#!/usr/bin/env bash
# Installs Debian packages that this machine lacks: install.sh demo|test.
# Root installs directly, others through sudo.
set -euo pipefail

missing=()
ls /usr/lib/postgresql/*/bin/postgres >/dev/null 2>&1 || command -v postgres >/dev/null 2>&1 || missing+=(postgresql)
if [ "${1:-demo}" = test ]; then
  [ -x /usr/bin/chromium ] || missing+=(chromium)
fi
# A database of the user's own needs no server here.
if [ -n "${OBTURON_DATABASE_URL:-}" ] && [ "${1:-demo}" = demo ]; then missing=(); fi
[ ${#missing[@]} -eq 0 ] && exit 0

as_root=()
if [ "$(id -u)" -ne 0 ]; then
  if ! command -v sudo >/dev/null 2>&1; then
    echo "obturon: ${missing[*]} must be installed: run 'apt-get install ${missing[*]}' as root, then try again" >&2
    exit 1
  fi
  as_root=(sudo)
fi
if ! command -v apt-get >/dev/null 2>&1; then
  echo "obturon: this machine has no apt-get: install ${missing[*]} by its own means, then try again" >&2
  exit 1
fi
echo "Installing ${missing[*]}"
log=$(mktemp)
if ! { "${as_root[@]}" apt-get update -q && "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "${missing[@]}"; } >"$log" 2>&1; then
  cat "$log" >&2
  echo "obturon: ${missing[*]} could not be installed (see above): install them by hand, then try again" >&2
  exit 1
fi
