#!/usr/bin/env bash
# Runs every check and ends with one line: N passed, N failed.
set -uo pipefail
cd "$(dirname "$0")/.."
out=$(mktemp -d)
passed=0 failed=0

# Broken off, however that is, nothing that was started here runs on: what goes on side by
# side has groups of its own, and who started this is looked at.
groups=()
leave() {
  for group in "${groups[@]}"; do kill -TERM -- "-$group" 2>/dev/null; done
  kill "$watch" 2>/dev/null
  rm -rf "$out"
}
trap leave EXIT
trap 'exit 130' INT
trap 'exit 143' TERM HUP
(while kill -0 "$PPID" 2>/dev/null; do sleep 1; done; kill -TERM $$) &
watch=$!

# check NAME COMMAND...: one pass or one failure, its output shown on failure.
check() {
  local name=$1; shift
  echo "== $name"
  if "$@" >"$out/check.log" 2>&1; then
    passed=$((passed + 1))
  else
    failed=$((failed + 1))
    cat "$out/check.log"
    echo "FAILED: $name"
  fi
}

generated="internal/document/openapi.yaml internal/document/document.gen.go internal/api/api.gen.go core/school/ids.gen.go docs/schema web/src/api/schema.d.ts web/src/api/exportedFiles.ts"
generated_is_current() {
  mkdir "$out/before" && cp -r --parents $generated "$out/before" || return
  make --no-print-directory generate || return
  for file in $generated; do diff -rq "$file" "$out/before/$file" || return; done
}
check "front-end packages" make --no-print-directory web/node_modules/.package-lock.json
check "generated code is current" generated_is_current
check "front end: types, lint" bash -c 'cd web && npm run --silent check'
check "build" make --no-print-directory build
check "Go format" bash -c 'test -z "$(gofmt -l cmd core internal web/*.go | tee /dev/stderr)"'
check "Go vet" go vet ./...
check "Go static analysis" go tool -modfile=tools/go.mod staticcheck -checks inherit,-ST1005 ./...

# The browser tests mostly wait, for the server and for the screen: the Go tests
# take what they leave of the processors. Three packages at a time, so that one that
# waits for its database leaves no processor idle; memory is spent to collect less.
echo "== Go tests and browser tests"
# The kernel weighs whole sessions against each other: the Go tests have one that is nice.
niced='echo 10 2>/dev/null >/proc/self/autogroup; exec nice -n 19 "$@"'
GOGC=400 setsid bash -c "$niced" niced go test -p 3 -timeout 30m -json ./... >"$out/go.json" 2>"$out/go.err" &
go_pid=$!
(cd web && PLAYWRIGHT_JSON_OUTPUT_NAME="$out/e2e.json" exec setsid npx playwright test --config ../e2e/playwright.config.ts --reporter=json >"$out/e2e.log" 2>&1) &
e2e_pid=$!
groups=("$go_pid" "$e2e_pid")
wait "$e2e_pid"; e2e_status=$?
wait "$go_pid"; go_status=$?
groups=()
node scripts/summary.mjs "$out" "$passed" "$failed" "$go_status" "$e2e_status"
