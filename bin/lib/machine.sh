# What this machine must have. Sourced by bin/*. Needs $root.

say() { printf '%s\n' "$*" >&2; }
die() { say "$*"; exit 1; }

need_node() {
  command -v node >/dev/null || die "Node.js 20 or newer is missing: install it from your distribution or its own packages."
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || die "Node.js 20 or newer is needed; this is $(node --version)."
}

# need_package COMMAND-OR-FILE PACKAGE: installs a Debian package when it may, else says exactly what to install.
need_package() {
  command -v "$1" >/dev/null 2>&1 && return 0
  local -a as=()
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then as=(sudo); else die "$2 is missing: apt-get install $2 (as root), then start again."; fi
  fi
  command -v apt-get >/dev/null || die "$2 is missing and this is not a Debian machine: install $2, then start again."
  say "Installing $2 (apt-get) ..."
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -q "$2" >/dev/null 2>&1 || {
    "${as[@]}" apt-get update -q >/dev/null 2>&1 || true
    "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -q "$2" >/dev/null || die "$2 could not be installed: apt-get install $2, then start again."
  }
}

free_port() { node -e 'const s = require("net").createServer().listen(0, "127.0.0.1", () => { console.log(s.address().port); s.close() })'; }
