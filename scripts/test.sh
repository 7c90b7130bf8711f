#!/usr/bin/env bash
# Runs every check and every test, says what failed, and ends with the counts of all
# runners on one line. The browser tests take longest: the rest runs beside them, behind
# them in the line for the processor.
set -uo pipefail
cd "$(dirname "$0")/.."
log=$(mktemp -d)
trap 'rm -rf "$log"' EXIT

# result PASSED FAILED: adds to the counts.
result() { echo "$1 $2" >> "$log/results"; }

# check NAME COMMAND...: one check that passes or fails as a whole.
check() {
  local name=$1 start=$SECONDS out
  out=$(mktemp -p "$log")
  shift
  if "$@" > "$out" 2>&1; then
    result 1 0
    echo "ok    $name ($((SECONDS - start)) s)"
  else
    result 0 1
    echo "FAIL  $name"
    tail -n 60 "$out"
    return 1
  fi
}

# count NAME PASSED FAILED STATUS START: what a runner counted itself. A runner that
# fails without a failed test, or that ran none, is a failure too.
count() {
  local bad=$3
  if [ "$4" -ne 0 ] && [ "$bad" -eq 0 ] || [ "$2" -eq 0 ]; then bad=$((bad + 1)); fi
  result "$2" "$bad"
  echo "$([ "$bad" -eq 0 ] && echo ok || echo FAIL)    $1: $2 passed, $bad failed ($((SECONDS - $5)) s)"
}

formatted() {
  local bad
  bad=$(gofmt -l cmd core internal)
  [ -z "$bad" ] || { echo "gofmt these: $bad"; return 1; }
}

# go_tests NAME ARGUMENTS...: what go test counts.
go_tests() {
  local name=$1 status start=$SECONDS
  shift
  go test -v "$@" > "$log/go" 2>&1
  status=$?
  if [ $status -ne 0 ]; then grep -vE '^ *(=== |--- PASS|ok |PASS$|\?)' "$log/go" | tail -n 80; fi
  count "$name" "$(grep -cE '^ *--- PASS' "$log/go")" "$(grep -cE '^ *--- FAIL' "$log/go")" $status "$start"
}

browser_tests() {
  local status start=$SECONDS
  CHROMIUM=$(scripts/chromium.sh) || { result 0 1; return; }
  export CHROMIUM
  npm --prefix e2e run --silent test -- --reporter=list 2>&1 | tee "$log/e2e" | grep -vE '^ +✓'
  status=${PIPESTATUS[0]}
  count "browser tests" "$(grep -cE '^ +✓' "$log/e2e")" "$(grep -cE '^ +✘' "$log/e2e")" "$status" "$start"
}

# Times are shown in the shop's zone, not that of the machine: the tests run far from UTC.
export TZ=Asia/Kathmandu

beside() {
  check "type check" npm --prefix web run --silent typecheck
  check "type check of browser tests" npm --prefix e2e run --silent typecheck
  check "lint" npm --prefix web run --silent lint
  check "gofmt" formatted
  check "go vet" go vet ./...
  check "staticcheck" go tool -modfile=tools/go.mod staticcheck ./...
  go_tests "go test of the core and the program" ./core/... ./cmd/...
  # Under the race detector a job of chance takes minutes: there the robot works the calm one alone.
  go_tests "jobs of chance by the robot painter" ./internal/robot
  # The race detector slows the arithmetic tenfold: the core's own goroutines are raced
  # without its long simulations, the rooms above it with the core as it ships.
  # The list of packages has to fall apart into words.
  # shellcheck disable=SC2046
  check "go test -race of the core" env CGO_ENABLED=1 go test -race -short $(go list -f '{{.ImportPath}} {{join .Imports " "}}' ./core/... | awk '/ sync( |$)/ {print $1}')
  CGO_ENABLED=1 go_tests "go test -race of the rooms above" -race -timeout 45m -gcflags='waxplanus/core/...=-race=false' ./internal/...
}

mkdir -p internal/web/dist && touch internal/web/dist/.gitkeep
check "install front end" make -s web/node_modules/.made
check "install browser tests" make -s e2e/node_modules/.made
check "generated files are fresh" make -s fresh
if check "build" make -s build; then browser_tests & fi
renice -n 10 $$ > /dev/null
beside
wait

read -r passed failed <<< "$(awk '{ p += $1; f += $2 } END { print p + 0, f + 0 }' "$log/results")"
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
