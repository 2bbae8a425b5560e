# Shared by bin/*: what the machine needs, npm packages, builds. Sourced, never run.
# shellcheck shell=bash
set -euo pipefail

root=$(cd -- "$(dirname -- "$(readlink -f -- "${BASH_SOURCE[0]}")")/.." && pwd)
data="$root/.data"
# What a running Bathyscope keeps: its database, and which processes are its own.
state="${BATHYSCOPE_DATA:-$data}"
mkdir -p "$data" "$state"

say() { printf '%s\n' "$*" >&2; }
stop_with() { say "$*"; exit 1; }

need_node() {
  command -v node >/dev/null || stop_with "Node.js 20.19 or newer is needed. Install it (Debian: apt-get install nodejs npm) and run this again."
  node -e 'const [a,b]=process.versions.node.split(".").map(Number); process.exit(a>20||(a===20&&b>=19)?0:1)' \
    || stop_with "Node.js $(node --version) is too old: 20.19 or newer is needed."
}

# need_packages PACKAGE...: Debian packages, installed when this user may.
need_packages() {
  local missing=() p
  for p in "$@"; do dpkg-query -W -f='${Status}' "$p" 2>/dev/null | grep -q 'ok installed' || missing+=("$p"); done
  [ ${#missing[@]} -eq 0 ] && return 0
  local admin=()
  if [ "$(id -u)" -ne 0 ]; then
    sudo -n true 2>/dev/null || stop_with "An administrator must install these Debian packages first: ${missing[*]} (apt-get install ${missing[*]})."
    admin=(sudo -n)
  fi
  say "Installing Debian packages: ${missing[*]}"
  # Debian would otherwise start a database of its own that nothing here uses.
  if ! "${admin[@]}" env DEBIAN_FRONTEND=noninteractive sh -c "apt-get install -y -qq --no-install-recommends ${missing[*]} || (apt-get update -qq && apt-get install -y -qq --no-install-recommends ${missing[*]})" >"$data/apt.log" 2>&1; then
    tail -n 5 "$data/apt.log" >&2
    stop_with "The Debian packages ${missing[*]} could not be installed; $data/apt.log says why."
  fi
}

# one_at_a_time WHAT COMMAND...: what npm writes must not have two writers. Commands that are started at once wait for each other, and for what one that was killed left running.
one_at_a_time() {
  local what=$1
  shift
  (
    flock -w 900 7 || stop_with "Something in this folder has been $what for 15 minutes. End it, and run this again."
    "$@"
  ) 7>"$data/npm.lock" || exit 1
}

npm_stamp="$root/node_modules/.bathyscope-lock"
has_npm() { [ -f "$npm_stamp" ] && cmp -s "$npm_stamp" "$root/package-lock.json"; }
# The npm packages, when the lock file changed since the last install.
need_npm() {
  need_node
  has_npm || one_at_a_time installing install_npm
}
install_npm() {
  has_npm && return 0
  say "Installing npm packages (about a minute)"
  (cd "$root" && npm ci --no-audit --no-fund --loglevel=error >"$data/npm.log" 2>&1) \
    || { tail -n 15 "$data/npm.log" >&2; stop_with "npm could not install the packages; $data/npm.log says why."; }
  cp "$root/package-lock.json" "$npm_stamp"
}

# fingerprint PATH...: changes when any source below changes.
fingerprint() {
  (cd "$root" && find "$@" -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -not -path '*/dist-test/*' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
}

# need_build NAME SCRIPT PATH...: runs an npm script when the sources changed since it last ran well.
need_build() {
  local now
  now=$(fingerprint "${@:3}" package-lock.json)
  is_built "$1" "$now" || one_at_a_time building build "$1" "$2" "$now"
}
is_built() { [ "$(cat "$data/built-$1" 2>/dev/null)" = "$2" ] && [ -d "$root/packages/core/dist" ]; }
build() {
  local name=$1 script=$2 now=$3
  is_built "$name" "$now" && return 0
  say "Building: $name"
  rm -f "$data/built-$name"
  (cd "$root" && npm run --silent --loglevel=error "$script" >"$data/build-$name.log" 2>&1) \
    || { tail -n 30 "$data/build-$name.log" >&2; stop_with "The build of $name failed; $data/build-$name.log says why."; }
  printf '%s' "$now" >"$data/built-$name"
}

build_packages() { need_build packages build:packages packages tsconfig.base.json; }
build_server() { build_packages; need_build server build:server packages apps/server tsconfig.base.json; }
build_web() { need_build web build:web packages apps/web tsconfig.base.json; }
# The page as browser tests and benchmarks run it.
build_web_test() { need_build web-test build:web-test packages apps/web tsconfig.base.json; }

# Processes that a start which was killed left behind: they are ours to end, and their port ours to take.
stop_leftovers() {
  local pid
  pid=$(cat "$state/supervisor.pid" 2>/dev/null) || return 0
  if [ -r "/proc/$pid/cmdline" ] && tr '\0' ' ' <"/proc/$pid/cmdline" | grep -qF "$root/scripts/supervise.mjs"; then
    say "Taking over from a start that was killed."
    kill "$pid" 2>/dev/null || true
    for _ in $(seq 40); do kill -0 "$pid" 2>/dev/null || break; sleep 0.1; done
    kill -9 "$pid" 2>/dev/null || true
  fi
  rm -f "$state/supervisor.pid"
  # Processes whose supervisor is gone end by themselves.
  sleep 0.3
}
