#!/usr/bin/env bash
# A demonstration with a database of its own, made anew for every run.
set -euo pipefail
cd "$(dirname "$0")/.."
data=$(mktemp -d /tmp/obturon-e2e-XXXXXX)
chmod 755 "$data"
trap 'rm -rf "$data"' EXIT
# A draft is proven where a test asks for it: proofs of all that is only looked at would take
# the processors.
OBTURON_PROVE_AFTER=0 OBTURON_DATA_DIR=$data bin/obturon demo &
server=$!
trap 'kill -TERM $server 2>/dev/null' INT TERM
wait $server || true
wait $server 2>/dev/null || true
