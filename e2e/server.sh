#!/usr/bin/env bash
# A demonstration with a database of its own, made anew for every run.
set -euo pipefail
cd "$(dirname "$0")/.."
data=$(mktemp -d /tmp/obturon-e2e-XXXXXX)
chmod 755 "$data"
trap 'rm -rf "$data"' EXIT
# The processors are the tests': a draft is proven where one asks for it, a tooth modelled where
# one looks at it, none at night, and memory is spent to collect less.
export OBTURON_PROVE_AFTER=0 OBTURON_PROVE_AT_NIGHT=false OBTURON_MODEL_AHEAD=false GOGC=400
OBTURON_DATA_DIR=$data bin/obturon demo &
server=$!
trap 'kill -TERM $server 2>/dev/null' INT TERM
wait $server || true
wait $server 2>/dev/null || true
