# Building what Node runs outside Next.js: the command line, migrations and seed, the worker of exports and batches. Sourced by bin/*.

# npm ci when the lock file is newer than what is installed.
install_packages() {
  if [ ! -f "$root/node_modules/.package-lock.json" ] || [ "$root/package-lock.json" -nt "$root/node_modules/.package-lock.json" ]; then
    echo "Installing packages (npm ci) ..."
    (cd "$root" && npm ci --no-audit --no-fund --loglevel=error)
    touch "$root/node_modules/.package-lock.json"
  fi
}

build_commands() {
  if [ ! -f "$root/dist/wily.mjs" ] || [ -n "$(find "$root/src" "$root/package-lock.json" "$root/bin/lib/build.sh" -newer "$root/dist/wily.mjs" -print -quit)" ]; then
    install_packages
    (cd "$root" && node_modules/.bin/esbuild wily=src/cli/wily.ts batchThread=src/cli/batchThread.ts prepare=src/server/prepare.ts worker=src/server/jobs/worker.ts jobThread=src/server/jobs/jobThread.ts helper=src/server/jobs/helper.ts records=src/server/records/worker.ts \
      --bundle --platform=node --target=node20 --format=esm --out-extension:.js=.mjs --packages=external --outdir=dist --log-level=warning)
    touch "$root/dist/wily.mjs"
  fi
}

# The page and the server, when their sources are newer than the last build.
build_application() {
  install_packages
  if [ ! -f "$root/.next/BUILD_ID" ] || [ -n "$(find "$root/src" "$root/public" "$root/next.config.ts" "$root/postcss.config.mjs" "$root/package-lock.json" "$root/tsconfig.json" -newer "$root/.next/BUILD_ID" -print -quit 2>/dev/null)" ]; then
    say "Building ..."
    (cd "$root" && NEXT_TELEMETRY_DISABLED=1 node_modules/.bin/next build > "$root/.next-build.log" 2>&1) || { cat "$root/.next-build.log" >&2; die "The build failed."; }
    touch "$root/.next/BUILD_ID"
  fi
  build_commands
}
