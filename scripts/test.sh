# Every suite over a throw-away cluster. Sourced by ./firstcoat.

SERVERS=()

run_tests() {
  local started total_passed=0 total_failed=0 suites=0 broken=0 failed_steps=()
  started=$(date +%s)
  export CI_REPORTS="$DATA/reports"
  rm -rf "$CI_REPORTS" "$DATA/test"
  mkdir -p "$CI_REPORTS"
  # An independent reader for the printed labels, and what makes its pictures.
  need_packages "zbarimg zbar-tools" "pdftoppm poppler-utils"
  trap 'end_tests' EXIT
  trap 'exit 130' INT TERM

  step "Packages" web_packages_and_restore || broken=1
  [ $broken = 1 ] || step "Build" build_everything || broken=1
  if [ $broken = 0 ]; then
    # Style is judged beside the tests: it needs one core, and they wait for the database half of their time.
    (check_style) >"$CI_REPORTS/style.log" 2>&1 &
    local style=$!
    db_start test 15440 trust "-c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=200"
    export FIRSTCOAT_TEST_DB="Host=127.0.0.1;Port=$(cat "$DATA/test/port");Username=shop;Database=postgres;Maximum Pool Size=20"
    step "Core and server" dotnet_tests || broken=1
    step "Format, types, lint" finish_style "$style" || broken=1
    step "Front end" web_tests || broken=1
    # The script's own tests mostly wait, for starts and for databases: they run beside the browser.
    (script_tests) >"$CI_REPORTS/script.log" 2>&1 &
    local script=$!
    step "In the browser" browser_tests || broken=1
    step "The script on a machine of its own" finish_script "$script" || broken=1
  fi

  local file counts
  for file in "$CI_REPORTS"/*.json "$CI_REPORTS"/*.ctrf; do
    [ -f "$file" ] || continue
    counts=$(node "$ROOT/scripts/count.mjs" "$file") || { broken=1; continue; }
    say "  $(basename "$file"): ${counts% *} passed, ${counts#* } failed"
    suites=$((suites + 1))
    total_passed=$((total_passed + ${counts%% *}))
    total_failed=$((total_failed + ${counts##* }))
  done
  if [ "$suites" -lt 5 ]; then say "Only $suites of 5 suites reported."; broken=1; fi
  # A step that broke without a failed test still fails the run.
  if [ $broken = 1 ] && [ "$total_failed" = 0 ]; then total_failed=1; fi
  # Said once more where whoever reads only the end sees it.
  [ ${#failed_steps[@]} = 0 ] || say "Failed: $(IFS=';'; echo "${failed_steps[*]}")."
  case "${failed_steps[*]}" in *Format*) tail -20 "$CI_REPORTS/style.log" ;; esac
  say "Took $(($(date +%s) - started)) s."
  end_tests
  echo "$total_passed passed, $total_failed failed"
  [ "$total_failed" = 0 ]
  exit $?
}

step() {
  local name=$1 from
  shift
  from=$(date +%s)
  say "== $name"
  if "$@"; then say "   $(($(date +%s) - from)) s"; return 0; fi
  say "   $name FAILED"
  failed_steps+=("$name")
  return 1
}

end_tests() {
  trap - EXIT INT TERM
  local server
  for server in ${SERVERS+"${SERVERS[@]}"}; do kill "$server" 2>/dev/null && wait "$server" 2>/dev/null || true; done
  find_postgres && db_stop test
  rm -rf "$DATA/test"
}

web_packages_and_restore() {
  (web_packages) &
  local npm=$! ok=0
  dotnet restore "$ROOT/FirstCoat.slnx" --nologo -v quiet || ok=1
  (cd "$ROOT" && dotnet tool restore >/dev/null) || ok=1
  wait $npm || ok=1
  return $ok
}

# The front end needs one core, and so do the first projects of the server.
build_everything() {
  (build_web) &
  local web=$!
  dotnet build "$ROOT/src/FirstCoat.Optimizer" -c Release --no-restore --nologo -v quiet -clp:ErrorsOnly || return 1
  wait $web || return 1
  dotnet build "$ROOT/FirstCoat.slnx" -c Release --no-restore --nologo -v quiet -clp:ErrorsOnly || return 1
  api_types || return 1
  publish_to "$DATA/test-app"
}

check_style() {
  (cd "$ROOT" && dotnet csharpier check .) || return 1
  short_lines || return 1
  (cd "$ROOT/web" && npx tsc --noEmit && npx biome check . --error-on-warnings)
}

# The formatter breaks code at 120 columns and leaves comments and names alone; only a sentence in quotes may be longer.
short_lines() {
  local long
  long=$(cd "$ROOT" && git ls-files '*.cs' | grep -v /Migrations/ | xargs grep -n '.\{121,\}' | grep -v '"')
  [ -z "$long" ] || { say "Longer than 120:"; say "$long"; return 1; }
}

finish_style() { # process
  wait "$1" || { cat "$CI_REPORTS/style.log"; return 1; }
}

# A young generation that holds what a test makes: with the usual one a tenth of the run was spent on collections.
dotnet_tests() {
  (cd "$ROOT" && DOTNET_GCgen0size=0x8000000 dotnet test --solution FirstCoat.slnx -c Release --no-build --no-progress --no-ansi --results-directory "$CI_REPORTS" --report-ctrf) || return 1
}

web_tests() {
  (cd "$ROOT/web" && npx vitest run --reporter=default --reporter=json --outputFile.json="$CI_REPORTS/web.json")
}

# Starts, kills, fills and restores shops of its own, each in a folder of its own.
script_tests() {
  (cd "$ROOT/web" && FIRSTCOAT_APP="$DATA/test-app" npx vitest run -c ../tests/script/vitest.config.ts --reporter=default --reporter=json --outputFile.json="$CI_REPORTS/script.json")
}

finish_script() { # process
  wait "$1" || { cat "$CI_REPORTS/script.log"; return 1; }
}

# The published application over a database of its own, as a shop would run it.
serve_shop() { # name port [now]
  db_recreate test "$1"
  # Photos and letters of an earlier run are another shop's.
  rm -rf "${DATA:?}/test/$1"
  export Shop__Connection="$(db_connection test "$1")" Shop__Photos="$DATA/test/$1/photos" Shop__Mail="$DATA/test/$1/mail" ASPNETCORE_URLS="http://127.0.0.1:$2"
  (cd "$APP" && exec dotnet FirstCoat.Server.dll --now "${3:-2026-10-13T08:00Z}") &
  SERVERS+=($!)
}

answers() { # port
  local _
  for _ in $(seq 1 600); do curl -fs -o /dev/null "http://127.0.0.1:$1/health" && return 0; sleep 0.1; done
  return 1
}

# A shop for each journey: in one the first week is walked from nothing, in another everything that comes later.
browser_tests() {
  export APP="$DATA/test-app" ASPNETCORE_ENVIRONMENT=Production Serilog__MinimumLevel__Default=Warning Shop__SignInsPerMinute=1000 Shop__StillClock=true
  local name port=5190 ports=() now
  for name in JOURNEY WEEK RESTORATION CROWD; do
    port=$(free_port "$port")
    # In the crowded shop it is Friday: a week is counted there.
    if [ "$name" = CROWD ]; then now=2026-10-16T08:00Z; else now=2026-10-13T08:00Z; fi
    serve_shop "${name,,}" "$port" "$now" || return 1
    export "E2E_URL_$name=http://127.0.0.1:$port" "E2E_MAIL_$name=$DATA/test/${name,,}/mail"
    ports+=("$port")
    port=$((port + 1))
  done
  for port in "${ports[@]}"; do answers "$port" || return 1; done
  (cd "$ROOT/web" && PLAYWRIGHT_JSON_OUTPUT_FILE="$CI_REPORTS/browser.json" npx playwright test -c ../tests/e2e/playwright.config.ts ${E2E_ONLY:-})
}
