# Building the application. Sourced by ./firstcoat.

sources_mark() { # changes when anything that is built changes
  { git -C "$ROOT" ls-files -s -- src web Directory.Build.props Directory.Packages.props global.json 2>/dev/null
    git -C "$ROOT" status --porcelain -- src web 2>/dev/null
    git -C "$ROOT" diff -- src web 2>/dev/null
    # What git does not track yet is built too.
    git -C "$ROOT" ls-files -o -z --exclude-standard -- src web 2>/dev/null | (cd "$ROOT" && xargs -0 -r sha1sum); } | sha256sum | cut -d' ' -f1
}

web_packages() {
  local mark="$ROOT/web/node_modules/.installed"
  if [ ! -f "$mark" ] || ! cmp -s "$mark" "$ROOT/web/package-lock.json"; then
    say "Fetching the front end's packages..."
    (cd "$ROOT/web" && npm ci --no-fund --no-audit --loglevel=error)
    cp "$ROOT/web/package-lock.json" "$mark"
  fi
}

build_server() {
  dotnet build "$ROOT/src/FirstCoat.Server" -c Release --nologo -v quiet -clp:ErrorsOnly
}

# Before the server: what stands in its static files when it is built is what is published.
build_web() {
  (cd "$ROOT/web" && npx vite build --logLevel warn)
}

# Types of the front end's requests, from the API document that building the server writes.
api_types() {
  (cd "$ROOT/web" && npx openapi-typescript src/api/openapi.json -o src/api/schema.gen.ts >/dev/null)
}

publish_to() { # folder; what was built, made ready to run
  rm -rf "$1"
  dotnet publish "$ROOT/src/FirstCoat.Server" -c Release --no-build --nologo -v quiet -clp:ErrorsOnly -o "$1"
}

build_app() {
  [ -z "${FIRSTCOAT_APP:-}" ] || return 0
  local mark
  mark=$(sources_mark)
  if [ -f "$APP/built" ] && [ "$(cat "$APP/built")" = "$mark" ]; then return 0; fi
  say "Building (a few minutes the first time)..."
  web_packages
  build_web
  build_server
  publish_to "$APP"
  echo "$mark" >"$APP/built"
}
