#!/usr/bin/env bash
# scripts/with-database.sh COMMAND…: runs a command with the tests' own database started and named in DATABASE_URL.
source "$(dirname -- "$(readlink -f -- "$0")")/common.sh"
source "$root/scripts/database.sh"
cd "$root"
database_start test-database
"$@"
