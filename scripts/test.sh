#!/usr/bin/env bash
# Runs every check and every test, says what failed, and ends with the counts of
# all runners on one line.
set -uo pipefail
cd "$(dirname "$0")/.."
log=$(mktemp -d)
trap 'rm -rf "$log"' EXIT
passed=0
failed=0

# check NAME COMMAND...: one check that passes or fails as a whole.
check() {
  local name=$1 start=$SECONDS
  shift
  if "$@" > "$log/out" 2>&1; then
    passed=$((passed + 1))
    echo "ok    $name ($((SECONDS - start)) s)"
  else
    failed=$((failed + 1))
    echo "FAIL  $name"
    tail -n 60 "$log/out"
  fi
}

# count NAME PASSED FAILED STATUS: what a runner counted itself. A runner that
# fails without a failed test, or that ran none, is a failure too.
count() {
  local bad=$3
  if [ "$4" -ne 0 ] && [ "$bad" -eq 0 ] || [ "$2" -eq 0 ]; then bad=$((bad + 1)); fi
  passed=$((passed + $2))
  failed=$((failed + bad))
  echo "$([ "$bad" -eq 0 ] && echo ok || echo FAIL)    $1: $2 passed, $bad failed"
}

formatted() {
  local bad
  bad=$(gofmt -l cmd core internal)
  [ -z "$bad" ] || { echo "gofmt these: $bad"; return 1; }
}

# Times are shown in the shop's zone, not that of the machine: the Go tests run far from UTC.
export TZ=Asia/Kathmandu

mkdir -p internal/web/dist && touch internal/web/dist/.gitkeep
check "install front end" make -s web/node_modules/.made
check "install browser tests" make -s e2e/node_modules/.made
check "gofmt" formatted
check "go vet" go vet ./...
check "staticcheck" go tool -modfile=tools/go.mod staticcheck ./...
check "generated files are fresh" make -s fresh
check "type check" npm --prefix web run --silent typecheck
check "type check of browser tests" npm --prefix e2e run --silent typecheck
check "lint" npm --prefix web run --silent lint
check "build" make -s build

# go_tests NAME ARGUMENTS...: what go test counts.
go_tests() {
  local name=$1 status
  shift
  go test -v "$@" > "$log/go" 2>&1
  status=$?
  if [ $status -ne 0 ]; then grep -vE '^ *(=== |--- PASS|ok |PASS$|\?)' "$log/go" | tail -n 80; fi
  count "$name" "$(grep -cE '^ *--- PASS' "$log/go")" "$(grep -cE '^ *--- FAIL' "$log/go")" $status
}

# Arithmetic that starts no goroutine has nothing to race with.
SHARED=$(go list -f '{{.ImportPath}} {{join .Imports " "}}' ./... | awk '/ sync( |$)/ {print $1}')
ALONE=$(go list ./... | grep -vxF "$SHARED")
# shellcheck disable=SC2086
go_tests "go test" $ALONE
# shellcheck disable=SC2086
CGO_ENABLED=1 go_tests "go test -race" -race $SHARED

if CHROMIUM=$(scripts/chromium.sh); then
  export CHROMIUM
  PLAYWRIGHT_JSON_OUTPUT_NAME="$log/e2e.json" npm --prefix e2e run --silent test -- --reporter=list,json 2>&1 | tee "$log/e2e" | grep -vE '^ +✓'
  status=${PIPESTATUS[0]}
  count "browser tests" "$(grep -cE '^ +✓' "$log/e2e")" "$(grep -cE '^ +✘' "$log/e2e")" "$status"
else
  failed=$((failed + 1))
fi

echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
