#!/usr/bin/env bash
# Commit messages, format, rules, and which folder may need which.
# With `cached` only at files that have changed since it last looked: for while one works. What a file says of
# another's types it may then miss.
set -euo pipefail
cd "$(dirname -- "$(readlink -f -- "$0")")/.."
format=() rules=()
if [ "${1:-}" = cached ]; then
  mkdir -p .data
  format=(--cache --cache-location .data/prettier-cache)
  rules=(--cache --cache-strategy content --cache-location .data/eslint-cache)
fi
export PATH="$PWD/node_modules/.bin:$PATH"
node scripts/check-commits.mjs
prettier --check . --log-level warn "${format[@]}"
eslint . "${rules[@]}"
depcruise --config .dependency-cruiser.mjs apps/web/src apps/server/src packages/core/src packages/kernel/src packages/contracts/src
